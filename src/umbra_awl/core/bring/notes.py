"""What was understood of a memory and what was not, as lines."""

from typing import Literal, NamedTuple

Kind = Literal["understood", "doubtful", "not understood"]


class Note(NamedTuple):
    """One line: how sure, about which channel or list (its name), and the sentence."""

    kind: Kind
    about: str
    text: str
