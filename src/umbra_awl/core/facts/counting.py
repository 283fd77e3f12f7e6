"""So many of a thing in words: “1 route”, “2 routes”, “1,200 access points”. Every sentence that counts goes through here."""


def counted(count: int, one: str, many: str = "") -> str:
    """A number with its noun, or with a phrase that agrees with it; `many` is the plural where it is not a usual one.

    `counted(1, "entry")` is “1 entry”, `counted(1200, "row goes", "rows go")` is “1,200 rows go”.
    """
    return f"{count:,} {one if count == 1 else many or _plural(one)}"


def _plural(noun: str) -> str:
    if noun.endswith("y") and noun[-2:-1] not in "aeiou":
        return f"{noun[:-1]}ies"
    return f"{noun}es" if noun.endswith(("s", "x", "ch", "sh")) else f"{noun}s"
