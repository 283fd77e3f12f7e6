"""The Fen Spot: an invented hotspot whose page answers in lines of “word: value”, frequencies in kilohertz.

/state     FEN-SPOT 1; called, doing, board
/setup     call, sends, hears, colour, pair
/journal   its log, a line for each thing
"""

from collections.abc import Mapping

HEAD = "FEN-SPOT 1"
FIELDS = {"call": "call", "sends": "tx_hz", "hears": "rx_hz", "colour": "color_code", "pair": "duplex"}
PAIR = {"two": "yes", "one": "no"}


def pairs(answer: bytes) -> dict[str, str]:
    """The lines of an answer. Raises ValueError for another device's."""
    lines = answer.decode("utf-8").splitlines()
    if not lines or lines[0] != HEAD:
        raise ValueError("It does not begin as a Fen Spot does.")
    return {word.strip(): value.strip() for word, _colon, value in (line.partition(":") for line in lines[1:])}


class FenSpot:
    """What the page answers, and ours."""

    paths: Mapping[str, str] = {"status": "/state", "settings": "/setup", "log": "/journal"}

    def status(self, answer: bytes) -> Mapping[str, object]:
        """What it says of itself."""
        told = pairs(answer)
        state = {"ready": "up", "waking": "starting"}[told["doing"]] if "doing" in told else ""
        return {"name": told.get("called", ""), "state": state, "modem": told.get("board", "")}

    def values(self, answer: bytes) -> Mapping[str, str]:
        """Its settings as our fields."""
        made = {}
        for word, value in pairs(answer).items():
            field = FIELDS.get(word)
            if field in {"tx_hz", "rx_hz"}:
                made[field] = str(round(float(value) * 1_000))
            elif field == "duplex":
                made[field] = PAIR[value]
            elif field is not None:
                made[field] = value
        return made

    def written(self, answer: bytes, values: Mapping[str, str]) -> bytes:
        """Its settings with these values in them, line by line."""
        words = {field: word for word, field in FIELDS.items()}
        told = {words[field]: _theirs(field, value) for field, value in values.items() if field in words}
        lines = []
        for line in answer.decode("utf-8").split("\n"):
            word = line.partition(":")[0].strip()
            lines.append(f"{word}: {told[word]}" if word in told else line)
        return "\n".join(lines).encode("utf-8")

    def log(self, answer: bytes) -> str:
        """Its log is lines already."""
        return answer.decode("utf-8", "replace")

    def example(self) -> Mapping[str, bytes]:
        """Its answers."""
        setup = f"{HEAD}\ncall: Q4WRN\nsends: 434612.5\nhears: 434612.5\ncolour: 1\npair: one\nlamp: blue\n"
        return {
            "status": f"{HEAD}\ncalled: fen-spot\ndoing: ready\nboard: fen-hat\n".encode(),
            "settings": setup.encode(),
            "log": b"2026-11-26 20:40:00 dmr slot 2: radio Q4WRN to 99900, 3.2 s, loss 0 %, BER 1.2 %\n",
        }


def _theirs(field: str, value: str) -> str:
    """One of our values in their words."""
    if field in {"tx_hz", "rx_hz"}:
        return f"{int(value) / 1_000:.3f}".rstrip("0").rstrip(".")
    return {ours: theirs for theirs, ours in PAIR.items()}.get(value, value) if field == "duplex" else value
