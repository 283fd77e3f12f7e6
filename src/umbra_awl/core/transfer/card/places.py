"""Where memory cards appear on this computer: mounted removable media, told from the system's own tables."""

import re
from collections.abc import Iterator
from pathlib import Path
from typing import NamedTuple

_MEDIA = ("/media/", "/run/media/", "/mnt/")
_CARD_FORMS = frozenset({"vfat", "exfat", "msdos", "fuseblk"})
_ESCAPE = re.compile(r"\\([0-7]{3})")


class CardPlace(NamedTuple):
    """A medium: its name and its top folder."""

    name: str
    folder: Path


def places(mounts: Path = Path("/proc/self/mounts"), blocks: Path = Path("/sys/class/block")) -> list[CardPlace]:
    """The removable media that are mounted; none where the system does not tell."""
    try:
        text = mounts.read_text("utf-8", "replace")
    except OSError:
        return []
    return list(_media(text, blocks))


def _media(text: str, blocks: Path) -> Iterator[CardPlace]:
    for line in text.splitlines():
        cells = line.split(" ")
        if len(cells) < 4:
            continue
        device, folder, form = cells[0], _plain(cells[1]), cells[2]
        named = folder.startswith(_MEDIA)
        if named or (form in _CARD_FORMS and _removable(device, blocks)):
            yield CardPlace(folder.rstrip("/").rpartition("/")[2] or folder, Path(folder))


def _plain(cell: str) -> str:
    """A path without the table's escapes of blanks."""
    return _ESCAPE.sub(lambda found: chr(int(found[1], 8)), cell)


def _removable(device: str, blocks: Path) -> bool:
    """Whether a block device, or the disk it is a part of, can be taken out."""
    name = device.rpartition("/")[2]
    for place in (blocks / name, (blocks / name).resolve().parent):
        try:
            if (place / "removable").read_text().strip() == "1":
                return True
        except OSError:
            continue
    return name.startswith("mmcblk")
