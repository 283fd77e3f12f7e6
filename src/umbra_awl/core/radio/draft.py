"""Profiles in the making: each is a file beside the kept ones from its first change on, so that nothing typed is lost."""

import contextlib
from pathlib import Path

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import ProfileError, profile_text, read_unchecked

SUFFIX = ".draft"


def _path(folder: Path, key: str) -> Path:
    return folder / f"{path_name(key)}{SUFFIX}"


def keep_draft(folder: Path, draft: Profile) -> None:
    """Write a draft, whether or not it could be used yet. Raises OSError."""
    folder.mkdir(parents=True, exist_ok=True)
    write_over(_path(folder, draft.key), profile_text(draft).encode())


def drop_draft(folder: Path, key: str) -> None:
    """Take a draft away: it was kept as a profile, or thrown away. Raises OSError."""
    _path(folder, key).unlink(missing_ok=True)


def drafts_in(folder: Path) -> list[Profile]:
    """The drafts in a folder, the one changed last first. What cannot be read is passed over: it is nobody's work."""
    found: list[tuple[float, Profile]] = []
    for path in folder.glob(f"*{SUFFIX}"):
        with contextlib.suppress(OSError, ProfileError):
            found.append((path.stat().st_mtime, read_unchecked(path)))
    return [profile for _when, profile in sorted(found, key=lambda item: -item[0])]
