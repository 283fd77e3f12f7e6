"""The Fen list: a form of its own for repeaters, one in a block of lines, blocks parted by an empty line.

FEN LIST
call Q0BLK
hear 438.6125
send 431.0125
code 6
"""

from umbra_awl.core.drivers.protocols import TableForm

HEAD = "FEN LIST"
WORDS = {"call": "Call", "site": "Site", "hear": "Output MHz", "send": "Input MHz", "code": "Color code"}


class FenLists:
    """Reads such lists."""

    endings = (".fenlist",)

    def read(self, data: bytes) -> TableForm:
        """The list. Raises ValueError for a file that is none."""
        text = data.decode("utf-8")
        head, _break, body = text.partition("\n")
        if head.strip() != HEAD:
            raise ValueError("It does not begin as a Fen list does.")
        blocks = [dict(_pair(line) for line in block.splitlines() if line.strip()) for block in body.split("\n\n")]
        rows = tuple(tuple(block.get(word, "") for word in WORDS) for block in blocks if block)
        return TableForm(tuple(WORDS.values()), rows)

    def example(self) -> bytes:
        """A list of two."""
        one = "call Q0BLK\nsite Blackfell\nhear 438.6125\nsend 431.0125\ncode 6\n"
        other = "call Q0MRK\nsite Market Hill\nhear 438.6500\nsend 431.0500\ncode 3\n"
        return f"{HEAD}\n{one}\n{other}".encode()


def _pair(line: str) -> tuple[str, str]:
    word, _blank, value = line.strip().partition(" ")
    if word not in WORDS:
        raise ValueError(f"“{word[:20]}” is no word of a Fen list.")
    return word, value.strip()
