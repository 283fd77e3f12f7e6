"""The theme in force: tokens, fonts, text scale. Widgets are given it and repaint when it changes."""

from collections.abc import Callable
from functools import cache
from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PyQt6.QtWidgets import QApplication

from umbra_awl.desk.columns_kept import ColumnMemory
from umbra_awl.desk.measures import Measures
from umbra_awl.desk.settings import SCALES
from umbra_awl.desk.theme.style import style_sheet
from umbra_awl.desk.theme.tokens import PAPER, UMBRA, Tokens

USUAL_DPI = 96.0
FONTS = Path(__file__).parent.parent.parent / "fonts"
WORDS = "Atkinson Hyperlegible Next"
MONO = "Atkinson Hyperlegible Mono ExtraLight"  # the packaged files bear their master's name; the weights are right


@cache
def load_fonts() -> None:
    """Make the shipped fonts known to the application; does nothing the second time."""
    for path in sorted(FONTS.glob("*-[456]00-*.woff2")):
        QFontDatabase.addApplicationFont(str(path))


def system_is_dark() -> bool:
    """Whether the desktop asks for a dark look."""
    hints = QGuiApplication.styleHints()
    return hints is not None and hints.colorScheme() == Qt.ColorScheme.Dark


def system_scale() -> float:
    """The desktop's text size as the nearest of ours: what it makes of a usual screen of 96 dots an inch."""
    screen = QGuiApplication.primaryScreen()
    asked = screen.logicalDotsPerInch() / USUAL_DPI if screen is not None else 1.0
    return min(SCALES, key=lambda scale: abs(scale - asked))


class Theme(QObject):
    """Tokens and sizes, applied to an application."""

    changed = pyqtSignal()

    def __init__(
        self,
        app: QApplication,
        choice: str = "system",
        scale: float = 0.0,
        measures: Callable[[], Measures] = Measures,
    ) -> None:
        """`scale` 0 takes the desktop's text size; `measures` is asked when the first distance is told."""
        super().__init__()
        self._usual = measures
        self._measures: Measures | None = None
        self._app = app
        self._choice = choice
        self.scale = scale or system_scale()
        self.tokens: Tokens = PAPER
        self.columns = ColumnMemory()
        load_fonts()
        hints = QGuiApplication.styleHints()
        if hints is not None:
            hints.colorSchemeChanged.connect(self.apply)
        self.apply()

    @property
    def choice(self) -> str:
        """“system”, “light” or “dark”."""
        return self._choice

    @property
    def dark(self) -> bool:
        """Whether the dark tokens are in force."""
        return self._choice == "dark" or (self._choice == "system" and system_is_dark())

    def choose(self, choice: str) -> None:
        """Follow the system, or be light or dark."""
        self._choice = choice
        self.apply()

    @property
    def measures(self) -> Measures:
        """How distances, hours and numbers are told."""
        if self._measures is None:
            self._measures = self._usual()
        return self._measures

    def measure(self, **fields: str) -> None:
        """Tell distances, hours or numbers otherwise."""
        self._measures = self.measures._replace(**fields)
        self.changed.emit()

    def toggle(self) -> None:
        """Change to the other of light and dark."""
        self.choose("light" if self.dark else "dark")

    def rescale(self, steps: int) -> None:
        """Make text larger (steps > 0) or smaller."""
        at = min(range(len(SCALES)), key=lambda place: abs(SCALES[place] - self.scale))
        self.scale = SCALES[min(max(at + steps, 0), len(SCALES) - 1)]
        self.apply()

    def apply(self) -> None:
        """Set palette, font and style sheet of the application."""
        self.tokens = UMBRA if self.dark else PAPER
        tokens = self.tokens
        self._colors = {
            name: QColor(text) for name, text in tokens._asdict().items()
        }  # read once: every cell asks for some
        palette = QPalette(QColor(tokens.panel), QColor(tokens.bg))
        for role, name in (
            (QPalette.ColorRole.WindowText, tokens.ink),
            (QPalette.ColorRole.Text, tokens.ink),
            (QPalette.ColorRole.Base, tokens.sheet),
            (QPalette.ColorRole.PlaceholderText, tokens.ink2),
            (QPalette.ColorRole.Highlight, tokens.violet),
            (QPalette.ColorRole.HighlightedText, tokens.panel),
            (QPalette.ColorRole.Link, tokens.violet),
        ):
            palette.setColor(role, QColor(name))
        self._app.setPalette(palette)
        self._app.setFont(self.font())
        sheet = style_sheet(tokens, self.scale, WORDS, MONO)
        if self._app.styleSheet() != sheet:  # setting it polishes every widget there is
            self._app.setStyleSheet(sheet)
        self.changed.emit()

    def color(self, token: str) -> QColor:
        """A token's colour, one's own to change."""
        return QColor(self._colors[token])

    def px(self, size: float) -> int:
        """A length in pixels at the text scale."""
        return round(size * self.scale)

    def font(self, size: int = 13, *, mono: bool = False, weight: int = 400) -> QFont:
        """A font at the text scale, in the words' face or the mono face."""
        font = QFont(MONO if mono else WORDS)
        font.setPixelSize(self.px(size))
        font.setWeight(QFont.Weight(weight))
        return font
