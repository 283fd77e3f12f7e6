"""A hotspot whose page a driver understands: its answers become our fields, and what is handed over its own form."""

from functools import cache
from typing import Any, NamedTuple

import msgspec

from umbra_awl.core.drivers.protocols import HOTSPOTS
from umbra_awl.core.drivers.registry import DRIVERS, contained
from umbra_awl.core.hotspot.match.fields import BY_KEY
from umbra_awl.core.hotspot.match.layout import SettingsLayout, read_settings, shipped_layouts, write_settings
from umbra_awl.core.hotspot.seek.errors import HotspotError, StrangeAnswerError
from umbra_awl.core.hotspot.seek.talk import Status, Talk
from umbra_awl.core.transfer.errors import DriverError

_MOST_PATH = 200


@cache
def _layout() -> SettingsLayout:
    """The form in which its settings are shown here; passwords have no part in it."""
    ours = shipped_layouts()[0]
    return SettingsLayout(ours.name, ours.form, tuple(item for item in ours.key if BY_KEY[item.field].kind != "secret"))


class DrivenAnswers(NamedTuple):
    """A driver's words for a page, each answer looked at before it is believed. Raises DriverError for whatever it raises."""

    name: str
    driver: Any

    def path(self, what: str) -> str:
        """Where something is asked. Raises DriverError for what the hotspot has not, and for what is no path."""
        found = str(contained(self.name, lambda: dict(self.driver.paths)).get(what, ""))
        plain = found.isascii() and found.isprintable() and not any(char.isspace() for char in found)
        if not found.startswith("/") or found.startswith("//") or not plain or len(found) > _MOST_PATH:
            raise DriverError(f"The driver “{self.name}” has no path for the {what}. Ask its author.")
        return found

    def status(self, answer: bytes) -> Status:
        """What it says of itself. Raises StrangeAnswerError for another device."""
        try:
            told = dict(self.driver.status(answer))
            return msgspec.convert(told, Status, strict=False)
        except (ValueError, TypeError) as error:
            raise StrangeAnswerError(f"It does not answer as “{self.name}” does: {str(error)[:120]}.") from None
        except (Exception, SystemExit) as error:
            raise DriverError(
                f"The driver “{self.name}” failed: {type(error).__name__}: {str(error)[:200]}."
            ) from error

    def _values(self, answer: bytes) -> dict[str, str]:
        told = contained(self.name, lambda: {str(key): str(value) for key, value in self.driver.values(answer).items()})
        return {key: value for key, value in told.items() if key in BY_KEY and BY_KEY[key].kind != "secret"}

    def settings(self, answer: bytes) -> str:
        """Its settings in our own form."""
        return write_settings("", _layout(), self._values(answer))

    def written(self, answer: bytes, settings: str) -> bytes:
        """What is handed over for settings in our own form: of the fields that it has, those that differ go to the driver."""
        held = self._values(answer)
        wanted = read_settings(settings, _layout())
        changed = {key: value for key, value in wanted.items() if key in held and held[key] != value}
        made = contained(self.name, lambda: self.driver.written(answer, changed))
        if not isinstance(made, bytes | bytearray):
            raise DriverError(f"The driver “{self.name}” gave no bytes to hand over. Nothing was set.")
        come = self._values(bytes(made))
        lost = [BY_KEY[key].words for key, value in changed.items() if come.get(key) != value]
        if lost:
            raise DriverError(
                f"The driver “{self.name}” would lose {', '.join(lost)}: what it writes does not read back. Nothing was set."
            )
        return bytes(made)

    def log(self, answer: bytes) -> bytes:
        """Its log as UTF-8."""
        return contained(self.name, lambda: str(self.driver.log(answer))).encode("utf-8", "replace")


def answering(talk: Talk) -> Talk:
    """The hotspot with the words that it answers in: our own, else those of the first driver in force that knows it.

    Raises HotspotError where neither does, DriverError where a driver fails.
    """
    names = DRIVERS.names(HOTSPOTS)
    if not names:
        return talk
    first: HotspotError | None = None
    for words in (None, *names):
        spoken = talk._replace(words=None if words is None else DrivenAnswers(words, DRIVERS.load(HOTSPOTS, words)))
        try:
            spoken.status()
        except StrangeAnswerError as error:
            first = first or error
        else:
            return spoken
    raise first or StrangeAnswerError(f"{talk.address} answers in words that nothing here knows.")
