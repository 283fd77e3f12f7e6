"""The simulated radio's own list of access points around, onto its card and from it."""

from pathlib import Path
from typing import TYPE_CHECKING

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.transfer.card.form import CardFile, CardHeader, pack, parse
from umbra_awl.core.transfer.errors import CardFileError

if TYPE_CHECKING:
    from umbra_awl.standins.card.radio import CardRadio


_SUFFIX = ".AWC"
_LIST = "AROUND" + _SUFFIX


class ListAround:
    """Writes and takes the list."""

    def __init__(self, owner: "CardRadio") -> None:
        self._radio = owner

    @property
    def _around(self) -> Path:
        return self._radio.memory.with_suffix(".around.csv")

    def list_out(self) -> None:
        """Write its list of access points around onto the card, as a file of its own."""
        around = self._radio.card.around
        if around is None or not self._radio.ready():
            return
        body = self._around.read_bytes() if self._around.exists() else b""
        rows = max(0, body.count(b"\n") - 1)
        now = f"{self._radio.clock.local():%Y-%m-%dT%H:%M:%S}"
        header = CardHeader(
            self._radio.profile.key,
            "around",
            "radio",
            self._radio.saves(),
            now,
            firmware=self._radio.firmware,
            rows=rows,
        )
        if self._radio.put(
            self._radio.slot / self._radio.card.folder / around.folder / f"OWN{_SUFFIX}", pack(CardFile(header, body))
        ):
            self._radio.say(self._radio.card.done.upper(), f"{rows} IN LIST")

    def list_in(self) -> None:
        """Ask, and then take the list of access points around from the card."""
        if self._radio.card.around is not None and self._radio.ready():
            self._radio.ask("LOAD LIST AROUND?", self._take_list)

    def _take_list(self) -> None:
        around = self._radio.card.around
        if around is None:
            return
        try:
            file = parse((self._radio.slot / self._radio.card.folder / around.folder / _LIST).read_bytes())
        except (OSError, CardFileError):
            self._radio.say("NO LIST ON CARD")
            return
        rows = max(0, file.body.count(b"\n") - 1)
        if file.header.model != self._radio.profile.key or file.header.kind != "around":
            self._radio.say("WRONG FILE", "OTHER MODEL")
        elif rows > around.records:
            self._radio.say("LIST TOO LONG", f"{rows} OF {around.records}")
        else:
            write_over(self._around, file.body)
            self._radio.say(self._radio.card.done.upper(), f"{rows} IN LIST")
