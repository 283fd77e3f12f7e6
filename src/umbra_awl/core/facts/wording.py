"""Labels and sentences put into other sentences."""


def within(label: str) -> str:
    """A label as it stands inside a sentence: “Time slot” is “time slot”, “ID with suffix” and “D-STAR fields” stay."""
    first, blank, rest = label.partition(" ")
    return f"{first.lower() if first[1:].islower() or first == 'A' else first}{blank}{rest}"
