"""A picture file opened with care, cropped, made small: what goes out is a fresh JPEG without anything but its points.

Where and when it was taken, by which camera, and whatever else a file carries along stays behind, and that is told. What others
made is decoded in a process of its own. The imaging library is imported where it is first used.
"""

import io
import warnings
from typing import TYPE_CHECKING, Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.apart import ApartError, Bounds, apart
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
KEPT_PIXELS = 15_000_000
"""A larger picture is halved as it is opened: far more is left than ever goes out, and everything after it stays quick."""
_BOUNDS = Bounds(seconds=25.0, megabytes=700)
_FORMS = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")
_ORIENTATION, _GPS = 0x0112, 0x8825
LEAST_SIDE = 8


class OpenedPicture(NamedTuple):
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


class _Decoded(NamedTuple):
    """A picture as it comes from the process that opened it: size, points as RGB bytes, what was left behind; or a refusal."""

    size: tuple[int, int] = (0, 0)
    points: bytes = b""
    told: tuple[str, ...] = ()
    refused: str = ""


def open_picture(data: bytes) -> OpenedPicture:
    """A picture from a file's bytes, at most `KEPT_PIXELS` of it. Raises PictureError where it is none, damaged, or too large."""
    from PIL import Image

    if len(data) > MOST_FILE_BYTES:
        raise PictureError(
            f"The file has {size_words(len(data))}; up to {size_words(MOST_FILE_BYTES)} are taken. Make it smaller first."
        )
    try:
        found = apart(_decoded, data, bounds=_BOUNDS)
    except ApartError as error:
        raise PictureError(
            f"The picture was not opened: {error.strerror}. Save it smaller, as a JPEG or PNG file, and open that."
        ) from None
    if found.refused:
        raise PictureError(found.refused)
    return OpenedPicture(Image.frombytes("RGB", found.size, found.points), found.told)


def _decoded(data: bytes) -> _Decoded:
    """What a file holds; it runs in a process of its own."""
    try:
        opened = _open_here(data)
    except PictureError as error:
        return _Decoded(refused=str(error))
    return _Decoded(opened.size, opened.image.tobytes(), opened.told)


def _open_here(data: bytes) -> OpenedPicture:
    from PIL import Image

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            found = Image.open(io.BytesIO(data), formats=_FORMS)
            _not_too_large(found)
            told = tuple(_carried_along(found))
            return OpenedPicture(_upright(found), told)
    except (PictureError, MemoryError):
        raise
    except Exception as error:  # noqa: BLE001  (decoders of a dozen formats fail in their own ways on hostile bytes)
        raise PictureError(
            f"This is no picture that can be read ({_plainly(error)}). Take a JPEG or PNG file."
        ) from None


def _plainly(error: Exception) -> str:
    if "identify" in str(error):
        return "of no known kind"
    return "damaged or cut short"


def _not_too_large(found: "Image") -> None:
    width, height = found.size
    if width * height > MOST_PIXELS:
        raise PictureError(
            f"The picture has {width} × {counted(height, 'point')}; up to {MOST_PIXELS // 1_000_000} million are taken."
        )
    if min(width, height) < LEAST_SIDE:
        raise PictureError(f"The picture has {width} × {counted(height, 'point')}: there is nothing to be seen in it.")


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
    if _has_more_frames(found):
        told.append("all frames but the first")
    return told


def _has_more_frames(found: "Image") -> bool:
    """Whether there is a second frame; they are not counted, for a small file can hold hundreds of thousands."""
    try:
        found.seek(1)
    except EOFError:
        return False
    found.seek(0)
    return True


def _upright(found: "Image") -> "Image":
    """The first frame, turned as the camera was held, in plain colour on white."""
    from PIL import Image, ImageOps

    turned = ImageOps.exif_transpose(_halved(found))
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


def _halved(found: "Image") -> "Image":
    """The picture, halved so often that it is small enough; a palette is no number to take the mean of."""
    by = 1
    while found.size[0] * found.size[1] > KEPT_PIXELS * by * by:
        by *= 2
    if by > 1 and found.format == "JPEG":
        found.draft(None, (found.size[0] // by, found.size[1] // by))
        by = 1
    found.load()
    if by == 1:
        return found
    if found.mode in {"P", "PA", "1"}:
        return found.resize((max(1, found.size[0] // by), max(1, found.size[1] // by)))
    return found.reduce(by)


def cropped(opened: OpenedPicture, crop: Crop) -> "Image":
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


def make_small(opened: OpenedPicture, crop: Crop, within: tuple[int, int], quality: Quality) -> Small:
    """The picture as it goes out."""
    from PIL import Image

    part = cropped(opened, crop)
    size = fitted_size(part.size, within)
    small = part.resize(size, Image.Resampling.LANCZOS) if size != part.size else part
    out = io.BytesIO()
    small.save(out, "JPEG", quality=QUALITIES[quality], optimize=True, progressive=False)
    return Small(out.getvalue(), *size, quality)


class SmallerPicture(NamedTuple):
    """What the same picture would be with one thing less: in words, and its bytes."""

    words: str
    size: int


def with_less(
    opened: OpenedPicture, crop: Crop, within: tuple[int, int], quality: Quality
) -> tuple[SmallerPicture, ...]:
    """The same part one size smaller, and one quality coarser, where there is one: size rules the time more than quality does."""
    found: list[SmallerPicture] = []
    at = SIZES.index(within) if within in SIZES else 0
    if at:
        width, height = SIZES[at - 1]
        small = make_small(opened, crop, SIZES[at - 1], quality)
        found.append(SmallerPicture(f"{width} × {height} as {quality}", len(small.data)))
    coarser = list(QUALITIES)[: list(QUALITIES).index(quality)]
    if coarser:
        small = make_small(opened, crop, within, coarser[-1])
        found.append(SmallerPicture(f"this size as {coarser[-1]}", len(small.data)))
    return tuple(found)


def reopened(small: Small) -> "Image":
    """A picture that was made here as the far side sees it."""
    return _open_here(small.data).image
