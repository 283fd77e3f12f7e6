"""The front of the radio in hand: its display, the knob, and every key that its owner has set."""

from functools import partial

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QSizePolicy, QWidget

from umbra_awl.core.simulation.world import Setting
from umbra_awl.desk.onair.stand import Stand
from umbra_awl.desk.parts.widgets import button, clear, row, rows_of
from umbra_awl.desk.theme.theme import Theme

_WORDS = {
    "power": "Power",
    "monitor": "Monitor",
    "scan": "Scan",
    "reverse": "Reverse",
    "battery": "Battery",
    "lock": "Lock",
}
_ALWAYS = ("scan", "monitor")


class FrontDisplay(QWidget):
    """Two lines as the radio shows them."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.lines = ("", "")
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(self._theme.px(176), self._theme.px(44))

    def show_lines(self, top: str, bottom: str) -> None:
        """Show other lines."""
        if (top, bottom) != self.lines:
            self.lines = (top, bottom)
            self.setAccessibleName(f"Display: {top}, {bottom}")
            self.update()

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        theme, px = self._theme, self._theme.px
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(theme.color("line"))
        painter.setBrush(theme.color("shade"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)
        for at, (text, weight) in enumerate(zip(self.lines, (600, 400), strict=True)):
            painter.setFont(theme.font(13, mono=True, weight=weight))
            painter.setPen(theme.color("ink" if not at else "ink2"))
            box = QRectF(px(8), px(3 + 19 * at), self.width() - px(14), px(19))
            shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(box.width()))
            painter.drawText(box, Qt.AlignmentFlag.AlignVCenter, shown)


class Front(QWidget):
    """Display, knob and keys of the radio that plays."""

    def __init__(self, theme: Theme, stand: Stand) -> None:
        super().__init__()
        self._stand = stand
        line = row(self, 8)
        self.display = FrontDisplay(theme)
        line.addWidget(self.display)
        self.up = button("Knob ▲", partial(stand.do, "turn", "-1"), tip="The channel before (up arrow)")
        self.down = button("Knob ▼", partial(stand.do, "turn", "1"), tip="The next channel (down arrow)")
        self.zone = button("Zone", partial(stand.do, "zone", "1"), tip="The next zone (Page Down)")
        self._keys = QWidget()
        self._keys.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Minimum)
        self._line = rows_of(gap=2)
        self._keys.setLayout(self._line)
        line.addWidget(self._keys, 1)
        self._shown: tuple[object, ...] = ()

    def refresh(self) -> None:
        """Show the keys that the radio's owner has set, and those that every radio has."""
        laid = self._stand.laid
        keys: list[tuple[str, str]] = []
        if laid is not None:
            keys = _keys(laid.setting)
        set_already = {action for _text, action in keys}
        keys += [(_WORDS[action], action) for action in _ALWAYS if action not in set_already]
        shown = (laid is not None, *keys)
        if shown == self._shown:
            return
        self._shown = shown
        for fixed in (self.up, self.down, self.zone):
            self._line.removeWidget(fixed)
            fixed.setParent(self._keys)
        clear(self._line)
        for fixed in (self.up, self.down, self.zone):
            self._line.addWidget(fixed)
            fixed.show()
        for text, action in keys:
            tip = (
                f"A key of the radio: {_words(action)}"
                if action
                else "Not set: Radios, Settings gives it something to do"
            )
            made = button(text, partial(self._stand.do, "key", action), tip=tip)
            made.setEnabled(bool(action))
            self._line.addWidget(made)

    def show_screen(self) -> None:
        """Show what the display shows now."""
        play = self._stand.play
        screens = play.book.screens if play is not None else []
        latest = screens[-1] if screens else None
        self.display.show_lines(*((latest.top, latest.bottom) if latest is not None else ("", "")))


def _keys(setting: Setting) -> list[tuple[str, str]]:
    """Every key that the radio's owner may set, with each press of it and what it does; nothing where it is not set."""
    held = {(item.key, item.press): item.action for item in setting.fits[setting.radio].memory.settings.keys}
    known = setting.profile.extras.keys if setting.profile is not None else ()
    found = []
    for key in known:
        for press in key.presses:
            action = held.get((key.name, press), "none")
            name = key.name if press == "short" else f"{key.name} held"
            found.append(
                (f"{name}: {_words(action) if action != 'none' else 'not set'}", "" if action == "none" else action)
            )
    return found


def _words(action: str) -> str:
    return _WORDS.get(action, action)
