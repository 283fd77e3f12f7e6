"""A picture for trying: a sketch of the isles with names in several sizes, drawn and not taken anywhere."""

import io

_SIZE = (320, 240)
_ISLES = (
    ((60, 60, 180, 150), "Great Velmar"),
    ((200, 40, 280, 90), "Nessa"),
    ((190, 130, 290, 200), "Torrick"),
    ((90, 185, 130, 215), ""),
)
_NAMES = (
    ((78, 84), "Harrowquay", 11),
    ((96, 120), "Stenby", 11),
    ((214, 60), "Cairnlow", 10),
    ((206, 160), "Oldmere", 10),
)


def sketch() -> bytes:
    """The sketch as a JPEG."""
    from PIL import Image, ImageDraw

    image = Image.new("RGB", _SIZE, "#cfe0e6")
    draw = ImageDraw.Draw(image)
    for box, name in _ISLES:
        draw.ellipse(box, "#dfe6cf", "#7a8a6a", 2)
        draw.text((box[0] + 8, box[1] - 14), name, "#333333", font_size=12)
    for place, name, size in _NAMES:
        draw.ellipse((place[0] - 7, place[1] + 3, place[0] - 2, place[1] + 8), "#8a3020")
        draw.text(place, name, "#222222", font_size=size)
    out = io.BytesIO()
    image.save(out, "JPEG", quality=60)
    return out.getvalue()
