"""The profiles at hand: those that ship, and the operator's own from a folder; read when the first of them is needed.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from umbra_awl.core.radio.profile import Profile


def data_folder() -> Path:
    """Where this user's own profiles, layouts and directory are kept."""
    from platformdirs import user_data_path

    return user_data_path("umbra-awl")


class Profiles(Mapping[str, "Profile"]):
    """A mapping of profile key to profile. `faults` are sentences on own files that cannot be used."""

    def __init__(self, folder: Path | None = None) -> None:
        """`folder` holds the operator's own profiles and layouts; None takes this user's."""
        self._folder = folder
        self._found: dict[str, Profile] | None = None
        self.faults: list[str] = []
        self.own: frozenset[str] = frozenset()

    @property
    def folder(self) -> Path:
        """Where the operator's own profiles and layouts are."""
        if self._folder is None:
            self._folder = data_folder()
        return self._folder

    def reload(self) -> None:
        """Read the own profiles again."""
        from umbra_awl.core.radio.profile_file import own_profiles, shipped_profiles

        own, self.faults = own_profiles(self.folder / "profiles")
        shipped = shipped_profiles()
        self.own = frozenset(own) - shipped.keys()
        self._found = {**shipped, **{key: profile for key, profile in own.items() if key not in shipped}}

    def snapshot(self) -> "dict[str, Profile]":
        """The profiles of the moment, as a value for work in the background."""
        return dict(self._all())

    def _all(self) -> "dict[str, Profile]":
        if self._found is None:
            self.reload()
        return self._found or {}

    def __getitem__(self, key: str) -> "Profile":
        return self._all()[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._all())

    def __len__(self) -> int:
        return len(self._all())
