"""Edits of the house style of names, and the operator's own abbreviations as text."""

from msgspec.structs import replace

from umbra_awl.core.plan.edits import Edit
from umbra_awl.core.plan.model import NameStyle, Short


def set_style(sentence: str, style: NameStyle) -> Edit:
    """Name channels in another style."""
    return Edit(sentence, lambda plan: replace(plan, names=style))


def shorts_text(style: NameStyle) -> str:
    """The abbreviations as one line: “Velmar=Vm, Torrick=Tk”."""
    return ", ".join(f"{item.word}={item.short}" for item in style.shorts)


def shorts_from(text: str) -> tuple[Short, ...]:
    """The abbreviations in a line. Raises ValueError with a sentence when one is not a pair, or longer than its word."""
    found: dict[str, Short] = {}
    for part in filter(None, map(str.strip, text.split(","))):
        word, sign, short = (piece.strip() for piece in part.partition("="))
        if not (word and sign and short) or " " in word:
            raise ValueError(f"“{part}” is not an abbreviation. Write one word and its short form: Velmar=Vm.")
        if len(short) >= len(word):
            raise ValueError(f"“{short}” is not shorter than “{word}”.")
        found[word.casefold()] = Short(word, short)
    return tuple(found.values())
