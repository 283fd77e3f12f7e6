"""What the window remembers between runs: theme, text scale, measures, plans, ports, cards. A damaged file is started anew.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

import contextlib
from pathlib import Path

import msgspec

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import SETTINGS_BYTES, read_within
from umbra_awl.desk.columns_kept import KeptColumns

MOST_RECENT = 8
MOST_USED = 12
WIDEST_SIDE = 4_000
"""In pixels."""
THEMES = ("system", "light", "dark")
SCALES = (0.9, 1.0, 1.15, 1.3, 1.5)
"""How large the text may be."""


class KeptSettings(msgspec.Struct, frozen=True):
    """The remembered values; 0 and empty ones follow the desktop, `known` is advice not said again. Nothing secret is here."""

    theme: str = "system"
    scale: float = 0.0
    recent: tuple[str, ...] = ()
    service: str = ""
    ports: dict[str, str] = msgspec.field(default_factory=dict)
    cards: dict[str, str] = msgspec.field(default_factory=dict)
    phones: dict[str, str] = msgspec.field(default_factory=dict)
    spots: dict[str, str] = msgspec.field(default_factory=dict)
    side_width: int = 0
    used: tuple[str, ...] = ()
    known: tuple[str, ...] = ()
    far: str = ""
    clock: str = ""
    mark: str = ""
    size: tuple[int, int] = (0, 0)
    columns: dict[str, KeptColumns] = msgspec.field(default_factory=dict)
    drivers: tuple[str, ...] = ()


def _sound(kept: KeptSettings) -> KeptSettings:
    """The remembered values as far as they make sense: anybody may have written into the file."""
    scale = kept.scale if kept.scale in SCALES else KeptSettings().scale
    theme = kept.theme if kept.theme in THEMES else KeptSettings().theme
    width = kept.side_width if 0 <= kept.side_width <= WIDEST_SIDE else KeptSettings().side_width
    recent, used = kept.recent[:MOST_RECENT], kept.used[:MOST_USED]
    return msgspec.structs.replace(kept, scale=scale, theme=theme, side_width=width, recent=recent, used=used)


class Settings:
    """The remembered values in a file; None keeps them for this run only."""

    def __init__(self, path: Path | None = None) -> None:
        self._path = path
        self.kept = KeptSettings()
        if path is not None:
            with contextlib.suppress(OSError, ValueError, RecursionError, msgspec.DecodeError):
                self.kept = _sound(msgspec.json.decode(read_within(path, SETTINGS_BYTES), type=KeptSettings))

    @classmethod
    def standard(cls) -> "Settings":
        """The settings of this user."""
        from platformdirs import user_config_path

        return cls(user_config_path("umbra-awl") / "window.json")

    def keep(self, **fields: object) -> None:
        """Change values and write them; a folder that cannot be written is no reason to stop working."""
        self.kept = msgspec.structs.replace(self.kept, **fields)
        if self._path is not None:
            with contextlib.suppress(OSError):
                self._path.parent.mkdir(parents=True, exist_ok=True)
                write_over(self._path, msgspec.json.encode(self.kept), private=True)

    def add_used(self, words: str) -> None:
        """Put what was found or done at the top of what was used last."""
        self.keep(used=(words, *(item for item in self.kept.used if item != words))[:MOST_USED])

    def add_recent(self, path: Path) -> None:
        """Put a plan at the top of the recent ones."""
        name = str(path.resolve())
        self.keep(recent=(name, *(item for item in self.kept.recent if item != name))[:MOST_RECENT])
