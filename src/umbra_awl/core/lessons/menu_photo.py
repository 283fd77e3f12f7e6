"""A photograph of a radio's menus, kept beside its profile: without what the camera wrote into it, such as the place."""

import io
from pathlib import Path

from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import read_within
from umbra_awl.core.messages.picture import MOST_FILE_BYTES, open_picture

LONGEST_PX = 2_400
_ENDING, _QUALITY = ".menus.jpg", 85


def photo_path(folder: Path, key: str) -> Path:
    """Where the photograph of a profile lies in the folder of own profiles."""
    return folder / f"{key}{_ENDING}"


def keep_photo(folder: Path, key: str, source: Path) -> Path:
    """Keep a picture as the photograph of a profile's menus. Raises PictureError for what is none, OSError."""
    image = open_picture(read_within(source, MOST_FILE_BYTES)).image.convert("RGB")
    image.thumbnail((LONGEST_PX, LONGEST_PX))
    held = io.BytesIO()
    image.save(held, "JPEG", quality=_QUALITY)
    place = photo_path(folder, key)
    folder.mkdir(parents=True, exist_ok=True)
    write_over(place, held.getvalue())
    return place
