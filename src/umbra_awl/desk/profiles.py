"""The shipped profiles, read when the first of them is needed: the first window need not wait for them."""

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from umbra_awl.core.fit.profile import Profile


class Shipped(Mapping[str, "Profile"]):
    """A mapping of profile key to profile."""

    @staticmethod
    def _all() -> "dict[str, Profile]":
        from umbra_awl.core.fit.profile_file import shipped_profiles

        return shipped_profiles()

    def __getitem__(self, key: str) -> "Profile":
        return self._all()[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._all())

    def __len__(self) -> int:
        return len(self._all())
