"""Reading a network's numbers as people type them: plain logic without widgets."""

from umbra_awl.core.plan.model import Call


def parse_number(text: str) -> int | None:
    """The number in a text, None for an empty one. Raises ValueError with a sentence."""
    plain = text.strip()
    if plain and not (plain.isascii() and plain.isdigit() and len(plain) <= 8):
        raise ValueError(f"“{plain}” is not a number. Type digits only.")
    return int(plain) if plain else None


def parse_call(text: str) -> Call | None:
    """The call in a text such as “999097 private”. Raises ValueError."""
    first, _, kind = text.strip().partition(" ")
    number = parse_number(first)
    word = kind.strip().casefold() or "group"
    if word not in {"group", "private"}:
        raise ValueError(f"“{kind.strip()}” is neither “group” nor “private”.")
    return Call(number, "private" if word == "private" else "group") if number is not None else None


def parse_span(text: str) -> tuple[int | None, int | None]:
    """The two numbers of a range such as “8001-8099”. Raises ValueError with a sentence."""
    low, dash, high = text.replace("–", "-").partition("-")
    span = (parse_number(low), parse_number(high))
    if dash and None not in span and int(low) > int(high):
        raise ValueError(f"“{text}” runs backwards. Type the lower number first.")
    if (span[0] is None) != (span[1] is None):
        raise ValueError("A dialled range has two numbers, for example 8001-8099.")
    return span
