"""What the window remembers between runs: theme, text scale, recent plans, ports. A damaged file is started anew."""

import contextlib
from pathlib import Path

import msgspec

from umbra_awl.core.keep.atomic import write_over

MOST_RECENT = 8


class Kept(msgspec.Struct, frozen=True):
    """The remembered values. Nothing secret belongs here."""

    theme: str = "system"
    scale: float = 1.0
    recent: tuple[str, ...] = ()
    service: str = ""
    ports: dict[str, str] = msgspec.field(default_factory=dict)


class Settings:
    """The remembered values in a file; None keeps them for this run only."""

    def __init__(self, path: Path | None = None) -> None:
        self._path = path
        self.kept = Kept()
        if path is not None:
            with contextlib.suppress(OSError, msgspec.DecodeError):
                self.kept = msgspec.json.decode(path.read_bytes(), type=Kept)

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

    def add_recent(self, path: Path) -> None:
        """Put a plan at the top of the recent ones."""
        name = str(path.resolve())
        self.keep(recent=(name, *(item for item in self.kept.recent if item != name))[:MOST_RECENT])
