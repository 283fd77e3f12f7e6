"""A picture file opened with care, cropped, made small: what goes out is a fresh JPEG without anything but its points.

Where and when it was taken, by which camera, and whatever else a file carries along stays behind, and that is told.
The imaging library is imported where it is first used.
"""

import io
import warnings
from typing import TYPE_CHECKING, Literal, NamedTuple

from umbra_awl.core.keep.limits import MB, size_words
from umbra_awl.core.messages.errors import PictureError

if TYPE_CHECKING:
    from PIL.Image import Image

Quality = Literal["coarse", "even", "fine"]
SIZES: tuple[tuple[int, int], ...] = ((160, 120), (320, 240), (640, 480))
"""Width and height in points: the display rasters QQVGA, QVGA and VGA of four to three, for which small screens are made."""
QUALITIES: dict[Quality, int] = {"coarse": 30, "even": 55, "fine": 75}
"""The quality handed to the JPEG encoder behind each word, on libjpeg's scale of 1 to 100."""
MOST_FILE_BYTES = 40 * MB
MOST_PIXELS = 60_000_000
_FORMS = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")
_ORIENTATION, _GPS = 0x0112, 0x8825
LEAST_SIDE = 8


class Opened(NamedTuple):
    """A picture in colour, upright; `told` is what was left behind of what the file carried."""

    image: "Image"
    told: tuple[str, ...]

    @property
    def size(self) -> tuple[int, int]:
        """Width and height in points."""
        return self.image.size


class Crop(NamedTuple):
    """A part of a picture as shares of its width and height, from the left upper corner."""

    left: float = 0.0
    top: float = 0.0
    right: float = 1.0
    bottom: float = 1.0


class Small(NamedTuple):
    """A picture as it goes out: its bytes, width, height, and quality as a word."""

    data: bytes
    width: int
    height: int
    quality: Quality


def open_picture(data: bytes) -> Opened:
    """A picture from a file's bytes. Raises PictureError for what is none, is damaged, or is larger than is taken."""
    from PIL import Image

    if len(data) > MOST_FILE_BYTES:
        raise PictureError(
            f"The file has {size_words(len(data))}; up to {size_words(MOST_FILE_BYTES)} are taken. Make it smaller first."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            found = Image.open(io.BytesIO(data), formats=_FORMS)
            _not_too_large(found)
            told = tuple(_carried_along(found))
            return Opened(_upright(found), told)
    except PictureError:
        raise
    except Exception as error:  # noqa: BLE001  (decoders of a dozen formats fail in their own ways on hostile bytes)
        raise PictureError(
            f"This is no picture that can be read ({_plainly(error)}). Take a JPEG or PNG file."
        ) from None


def _plainly(error: Exception) -> str:
    if "identify" in str(error):
        return "of no known kind"
    return "damaged or cut short" if not isinstance(error, MemoryError) else "too large"


def _not_too_large(found: "Image") -> None:
    width, height = found.size
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"The picture has {width} × {height} points; up to {MOST_PIXELS // 1_000_000} million are taken."
        )
    if min(width, height) < LEAST_SIDE:
        raise PictureError(f"The picture has {width} × {height} points: there is nothing to be seen in it.")


def _carried_along(found: "Image") -> list[str]:
    """What of the file does not go out, in words."""
    told = []
    exif = found.getexif()
    if exif.get_ifd(_GPS):
        told.append("where it was taken")
    if any(tag not in {_ORIENTATION, _GPS} for tag in exif):
        told.append("camera and time")
    if found.info.get("comment") or any(isinstance(value, str) for value in found.info.values()):
        told.append("texts in the file")
    if getattr(found, "n_frames", 1) > 1:
        told.append("all frames but the first")
    return told


def _upright(found: "Image") -> "Image":
    """The first frame, turned as the camera was held, in plain colour on white."""
    from PIL import Image, ImageOps

    found.load()
    turned = ImageOps.exif_transpose(found)
    if turned.mode in {"RGBA", "LA", "PA"} or "transparency" in turned.info:
        clear = turned.convert("RGBA")
        ground = Image.new("RGBA", clear.size, "white")
        turned = Image.alpha_composite(ground, clear)
    if turned.mode.startswith("I;16") or turned.mode in {"I", "F"}:
        turned = turned.point(lambda value: value / 257).convert("L") if turned.mode != "F" else turned.convert("L")
    plain = turned.convert("RGB")
    fresh = Image.new("RGB", plain.size)
    fresh.paste(plain)  # only points come along, no file's baggage
    return fresh


def cropped(opened: Opened, crop: Crop) -> "Image":
    """The part of a picture, at least a few points wide and high."""
    width, height = opened.size
    left, right = _span(crop.left, crop.right, width)
    top, bottom = _span(crop.top, crop.bottom, height)
    return opened.image.crop((left, top, right, bottom))


def _span(low: float, high: float, length: int) -> tuple[int, int]:
    first = max(0, min(round(low * length), length - LEAST_SIDE))
    return first, max(first + LEAST_SIDE, min(round(high * length), length))


def fitted_size(size: tuple[int, int], within: tuple[int, int]) -> tuple[int, int]:
    """The size of a picture that keeps its shape and fits; a high one is taken lying. It is never made larger."""
    width, height = size
    room = within if width >= height else (within[1], within[0])
    scale = min(room[0] / width, room[1] / height, 1.0)
    return max(1, round(width * scale)), max(1, round(height * scale))


def make_small(opened: Opened, crop: Crop, within: tuple[int, int], quality: Quality) -> Small:
    """The picture as it goes out."""
    from PIL import Image

    part = cropped(opened, crop)
    size = fitted_size(part.size, within)
    small = part.resize(size, Image.Resampling.LANCZOS) if size != part.size else part
    out = io.BytesIO()
    small.save(out, "JPEG", quality=QUALITIES[quality], optimize=True, progressive=False)
    return Small(out.getvalue(), *size, quality)


def reopened(data: bytes) -> "Image":
    """A small picture as the far side sees it. Raises PictureError."""
    return open_picture(data).image
