"""Pages as PDF, in the application's own letters: what cards and key sheets are drawn on. Lengths in millimetres.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import io
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from fpdf import FPDF
from fpdf.fonts import TTFFont

from umbra_awl.core.paper.errors import PaperError

INK, SECOND, LINE, VIOLET, STOP, PAPER = (
    (43, 38, 51), (104, 96, 112), (205, 197, 186), (91, 62, 140), (154, 58, 42), (246, 241, 232),
)  # fmt: skip
PAGE_WIDTH, PAGE_HEIGHT, MARGIN = 210.0, 297.0, 10.0
_FONTS = Path(__file__).parent.parent.parent / "fonts"
_FACES = {"sans": "next-latin-400", "bold": "next-latin-700", "mono": "mono-latin-400", "strong": "mono-latin-600"}
MM_PER_POINT = 25.4 / 72
FORMS = {"A4": (210.0, 297.0), "A5": (148.0, 210.0), "Letter": (215.9, 279.4)}
"""Sizes of paper in millimetres (ISO 216, ANSI/ASME Y14.1). All is laid out for A4 and drawn as large as the paper allows."""


@cache
def _font_folder() -> "TemporaryDirectory[str]":
    """The shipped letters unpacked to a form that PDF takes; once a run, and gone after it. Raises PaperError."""
    from fontTools.ttLib import TTFont, TTLibError

    folder = TemporaryDirectory(prefix="umbra-awl-fonts-")
    for face, name in _FACES.items():
        shipped = _FONTS / f"atkinson-hyperlegible-{name}-normal.woff2"
        try:
            font = TTFont(shipped)
            font.flavor = None
            font.save(_font_file(folder, face))
        except (OSError, TTLibError, ImportError) as error:
            raise PaperError(
                f"Nothing can be printed: the letters “{shipped.name}” cannot be used ({error}). Install Umbra Awl anew."
            ) from None
    return folder


def _font_file(folder: "TemporaryDirectory[str]", face: str) -> Path:
    return Path(folder.name) / f"{face}.ttf"


@cache
def _characters(face: str) -> frozenset[int]:
    from fontTools.ttLib import TTFont

    return frozenset(TTFont(_font_file(_font_folder(), face)).getBestCmap())


class Paper:
    """A PDF in the making. Places and sizes are those on A4, whatever the paper is."""

    def __init__(self, title: str, form: str = "A4") -> None:
        """Raises PaperError when the letters cannot be used, KeyError for a form that is none of FORMS."""
        wide, high = FORMS[form]
        self._scale = min(wide / PAGE_WIDTH, high / PAGE_HEIGHT)
        self._left = (wide - self._scale * PAGE_WIDTH) / 2
        self._pdf = FPDF(unit="mm", format=(wide, high))
        self._pdf.set_auto_page_break(auto=False)
        self._pdf.set_title(title)
        self._pdf.set_creator("Umbra Awl")
        for face in _FACES:
            self._pdf.add_font(face, fname=str(_font_file(_font_folder(), face)))
        self._known = {face: _characters(face) for face in _FACES}

    @property
    def pages(self) -> int:
        """How many pages there are."""
        return self._pdf.page

    def new_page(self) -> None:
        """Begin a page."""
        self._pdf.add_page()

    def plain(self, text: str, face: str = "sans") -> str:
        """The text with characters that the letters lack replaced by a box-like dot."""
        known = self._known[face]
        return "".join(char if ord(char) in known else _NEAREST.get(char, "·") for char in text)

    def width(self, text: str, size: float, face: str = "sans") -> float:
        """How wide a text is at so many points, in millimetres."""
        self._pdf.set_font(face, size=size)
        return float(self._pdf.get_string_width(self.plain(text, face)))

    def text(
        self,
        x: float,
        y: float,
        text: str,
        size: float,
        *,
        face: str = "sans",
        tone: tuple[int, int, int] = INK,
        room: float = 0.0,
    ) -> float:
        """Write a line with its foot at y, in smaller letters where it would be wider than `room`; the width it took.

        What stands on paper stands there whole: two names that differ in their last letter must not read alike.
        """
        shown, wide = self.plain(text, face), self.width(text, size, face)
        if room and wide > room:
            wide, size = room, size * room / wide
        self._pdf.set_font(face, size=size * self._scale)
        self._pdf.set_text_color(*tone)
        self._pdf.text(*self._at(x, y), shown)
        return wide

    def _at(self, x: float, y: float) -> tuple[float, float]:
        """A place of A4 on this paper."""
        return self._left + x * self._scale, y * self._scale

    def _mm(self, length: float) -> float:
        """A length of A4 on this paper."""
        return length * self._scale

    def wrapped(self, text: str, size: float, room: float, face: str = "sans") -> list[str]:
        """A text in lines of at most so many millimetres."""
        lines: list[str] = []
        line = ""
        for word in text.split():
            longer = f"{line} {word}".strip()
            if line and self.width(longer, size, face) > room:
                lines.append(line)
                line = word
            else:
                line = longer
        return [*lines, line] if line else lines

    def box(self, x: float, y: float, width: float, height: float, **look: Any) -> None:
        """A rectangle: `fill`, `line` as colours, `round` as a radius."""
        style = ("D" if look.get("line") else "") + ("F" if look.get("fill") else "")
        if look.get("line"):
            self._pdf.set_draw_color(*look["line"])
            self._pdf.set_line_width(look.get("pen", 0.25))
        if look.get("fill"):
            self._pdf.set_fill_color(*look["fill"])
        corners = bool(look.get("round"))
        self._pdf.rect(
            *self._at(x, y),
            self._mm(width),
            self._mm(height),
            style=style,
            round_corners=corners,
            corner_radius=look.get("round", 0) * self._scale,
        )

    def rule(self, x: float, y: float, width: float, tone: tuple[int, int, int] = LINE) -> None:
        """A hair line."""
        self._pdf.set_draw_color(*tone)
        self._pdf.set_line_width(0.15)
        self._pdf.line(*self._at(x, y), *self._at(x + width, y))

    def disc(self, x: float, y: float, radius: float, share: float, tone: tuple[int, int, int] = INK) -> None:
        """A circle about a point, filled clockwise from above as far as `share`, from 0 to 1."""
        self._pdf.set_draw_color(*tone)
        self._pdf.set_fill_color(*tone)
        self._pdf.set_line_width(0.25)
        drawn = self._mm(radius)
        if 0 < share < 1:
            self._pdf.solid_arc(*self._at(x - radius, y - radius), 2 * drawn, 270, 270 + 360 * share, style="F")
        self._pdf.circle(*self._at(x, y), drawn, style="DF" if share >= 1 else "D")

    def cross(self, x: float, y: float, half: float, tone: tuple[int, int, int] = INK) -> None:
        """A cross about a point."""
        self._pdf.set_draw_color(*tone)
        self._pdf.set_line_width(0.5)
        for down in (-half, half):
            self._pdf.line(*self._at(x - half, y + down), *self._at(x + half, y - down))

    def code(self, x: float, y: float, side: float, text: str) -> None:
        """A QR code of a text, squares of its own size."""
        import segno

        rows = list(segno.make(text, error="m", micro=False).matrix)
        square = side / len(rows)
        self._pdf.set_fill_color(0, 0, 0)
        for down, row in enumerate(rows):
            for across, dark in enumerate(row):
                if dark:
                    corner = self._at(x + across * square, y + down * square)
                    self._pdf.rect(*corner, self._mm(square * 1.01), self._mm(square * 1.01), style="F")

    def drop(self) -> None:
        """Let it go unfinished, and its letters with it."""
        for font in self._pdf.fonts.values():
            if isinstance(font, TTFFont):
                font.close()

    def data(self) -> bytes:
        """The finished file."""
        out = io.BytesIO()
        self._pdf.output(out)
        return out.getvalue()


_NEAREST = {"−": "-", "–": "-", "“": '"', "”": '"', "→": ">", "’": "'"}
