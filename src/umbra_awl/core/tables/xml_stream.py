"""Reading XML as a stream, piece by piece, within limits; definitions of its own (DOCTYPE) are refused.

The parser is the standard library's expat. A reader derives from `Handler` and gathers what it wants in `done`.
"""

from collections.abc import Iterator
from typing import BinaryIO, Generic, TypeVar
from xml.parsers import expat

from umbra_awl.core.keep.limits import MOST_CELL_CHARACTERS, LimitError, size_words

_CHUNK = 1 << 16
_Item = TypeVar("_Item")


class Handler(Generic[_Item]):
    """Takes the events of an XML text; names come without the prefix that the root has.

    `text` is what stands since the last `clear`.
    """

    def __init__(self) -> None:
        self.done: list[_Item] = []
        self._parts: list[str] = []
        self._length = 0
        self.too_long = False

    def start(self, name: str, attributes: dict[str, str], /) -> None:
        """An element begins."""

    def end(self, name: str, /) -> None:
        """An element ends."""

    def take(self, text: str, /) -> None:
        """Text between elements; of one that never ends only the beginning is kept."""
        if self._length <= MOST_CELL_CHARACTERS:
            self._parts.append(text)
            self._length += len(text)
        else:
            self.too_long = True

    def clear(self) -> None:
        """Forget the text so far."""
        self._parts.clear()
        self._length, self.too_long = 0, False

    @property
    def text(self) -> str:
        """The text since the last `clear`."""
        return "".join(self._parts)


def _refuse_definitions(*_about: object) -> None:
    raise LimitError("it defines entities of its own, which no table needs")


def _begin(parser: expat.XMLParserType, handler: Handler[_Item], root: str, attributes: dict[str, str]) -> None:
    """At the first element it shows whether names have a prefix; mostly they have none, and the events go straight on."""
    if ":" in root:
        parser.StartElementHandler = lambda name, found: handler.start(name.rpartition(":")[2], found)
        parser.EndElementHandler = lambda name: handler.end(name.rpartition(":")[2])
    else:
        parser.StartElementHandler, parser.EndElementHandler = handler.start, handler.end
    parser.CharacterDataHandler = handler.take
    handler.start(root.rpartition(":")[2], attributes)


def stream(file: BinaryIO, handler: Handler[_Item], most: int) -> Iterator[_Item]:
    """What a handler makes of an XML file, as it is read; at most so many bytes. Raises ExpatError, LimitError, ValueError."""
    parser = expat.ParserCreate()
    parser.buffer_text = True
    parser.StartElementHandler = lambda name, attributes: _begin(parser, handler, name, attributes)
    parser.StartDoctypeDeclHandler = _refuse_definitions
    passed = 0
    while chunk := file.read(_CHUNK):
        passed += len(chunk)
        if passed > most:
            raise LimitError(f"it is larger than {size_words(most)}")
        _parse(parser, chunk)
        yield from handler.done
        handler.done.clear()
    _parse(parser, b"", last=True)
    yield from handler.done
    handler.done.clear()


def _parse(parser: expat.XMLParserType, chunk: bytes, *, last: bool = False) -> None:
    try:
        parser.Parse(chunk, last)
    except LookupError as error:
        if type(error) is LookupError:  # not a reader's own
            raise ValueError("its text encoding is not known; save it as UTF-8") from None
        raise
