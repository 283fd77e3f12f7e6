"""What was understood of a memory and what was not, as lines."""

from typing import Literal, NamedTuple

NoteKind = Literal["understood", "doubtful", "not understood"]


class Note(NamedTuple):
    """One line: how sure, about which channel or list (its name), and the sentence."""

    kind: NoteKind
    about: str
    text: str
