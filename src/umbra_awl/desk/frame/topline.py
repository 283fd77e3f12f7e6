"""The top line: the plan, the call sign, the transmit state, the find-or-do box, undo, redo, theme."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QMenu, QPushButton, QSizePolicy, QWidget

from umbra_awl.core.plan.model import Station
from umbra_awl.core.plan.permit import transmit_state
from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.frame.find.finder import Finder
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import button, restyle, row, words
from umbra_awl.desk.theme.theme import Theme


class Awl(QWidget):
    """The application's mark: an awl through a hole."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setFixedSize(30, 34)
        theme.changed.connect(self.update)

    def paintEvent(self, _event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        color = self._theme.color("violet")
        painter.setPen(QPen(color, 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLine(QPointF(5, 29), QPointF(18, 13))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(color)
        painter.drawEllipse(QPointF(21, 9.5), 5.2, 5.2)


class DrawnButton(QPushButton):
    """A button with a line drawing: “undo”, “redo”, “theme”."""

    def __init__(self, drawing: str, name: str, theme: Theme, does: Callable[[], object]) -> None:
        super().__init__()
        self._drawing = drawing
        self._theme = theme
        self.setAccessibleName(name)
        set_tip(self, name)
        self.setFixedSize(QSize(34, 30))
        self.clicked.connect(lambda _checked=False: does())

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        color = self._theme.color("ink" if self.isEnabled() else "line")
        pen = QPen(color, 1.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        painter.translate(self.width() / 2, self.height() / 2)
        if self._drawing == "theme":
            painter.drawEllipse(QPointF(0, 0), 6.5, 6.5)
            painter.setBrush(color)
            half = QPainterPath()
            half.moveTo(0, -6.5)
            half.arcTo(QRectF(-6.5, -6.5, 13, 13), 90, 180)
            painter.drawPath(half)
            return
        if self._drawing == "redo":
            painter.scale(-1, 1)
        arc = QPainterPath(QPointF(-6, -2.5))
        arc.lineTo(2, -2.5)
        arc.arcTo(QRectF(-2.5, -2.5, 9, 8.5), 90, -180)
        arc.lineTo(-2, 6)
        painter.drawPath(arc)
        painter.drawPolyline(QPointF(-2.5, -6), QPointF(-6, -2.5), QPointF(-2.5, 1))


class TopLine(QWidget):
    """Follows the workbench; its plan button opens the plan's menu."""

    def __init__(
        self,
        bench: Workbench,
        theme: Theme,
        commands: CommandTable,
        finder: Finder,
        plan_menu: Callable[[], QMenu],
        parent: QWidget,
    ) -> None:
        super().__init__(parent)
        self._bench = bench
        self.setObjectName("bar")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        line = row(self, 8)
        line.setContentsMargins(10, 4, 12, 4)
        line.addWidget(Awl(theme))
        self.plan = button("", lambda: self._open_menu(plan_menu()), "plan", "Open, save, older saves")
        line.addWidget(self.plan)
        self._saved = words("", "second")
        line.addWidget(self._saved)
        line.addSpacing(8)
        self.call = button("", lambda: bench.stage_wanted.emit("station"), "call", "To Station")
        line.addWidget(self.call)
        self._state = words("", "ok")
        self._state.setWordWrap(True)
        self._state.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Ignored)
        line.addWidget(self._state, 3)
        self.finder = finder
        self.finder.setMinimumWidth(theme.px(130))
        self.finder.setMaximumWidth(theme.px(300))
        line.addWidget(self.finder, 2)
        self.undo = DrawnButton("undo", "Undo (Ctrl Z)", theme, partial(commands.run, "undo"))
        self.redo = DrawnButton("redo", "Redo (Ctrl Shift Z)", theme, partial(commands.run, "redo"))
        for made in (
            self.undo,
            self.redo,
            DrawnButton("theme", "Light or dark (Ctrl L)", theme, partial(commands.run, "theme")),
        ):
            line.addWidget(made)
        for signal in (bench.plan_changed, bench.saved_changed, bench.document_changed, bench.radio_changed):
            signal.connect(self.refresh)
        self.refresh()

    def _open_menu(self, menu: QMenu) -> None:
        menu.popup(self.plan.mapToGlobal(self.plan.rect().bottomLeft()))

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._say_state()

    def _say_state(self) -> None:
        """The transmit state, never shortened: where one line is too narrow it takes two, and the rest gives way."""
        text = self._state_words() if self._bench.document else ""
        self._state.setText(text)
        set_tip(self._state, text)
        self._state.setAccessibleName(text)
        whole = self._state.fontMetrics().horizontalAdvance(text) + 4
        two = min(whole, whole // 2 + self._state.fontMetrics().averageCharWidth() * 8)
        self._state.setMinimumWidth(two if text else 0)
        self._saved.setVisible(self._room() - whole > self._saved.sizeHint().width())

    def _room(self) -> int:
        """What is left for the state beside everything that stays."""
        others = (self.plan, self.call, self.undo, self.redo, self.undo)
        return self.width() - sum(part.sizeHint().width() for part in others) - self.finder.minimumWidth() - 120

    def _station(self) -> Station:
        """The station with the licence that counts for the chosen radio."""
        radio = self._bench.radio
        return self._bench.index.owners.station if radio is None else self._bench.index.owners.station_of(radio)

    def _state_words(self) -> str:
        """The transmit state; with whose it is when the chosen radio is somebody else's."""
        bench, words_ = self._bench, transmit_state(self._station())
        identity = bench.index.owners.identity_of(bench.radio) if bench.radio is not None else None
        owner = next(iter(bench.plan.station.identities), None)
        if identity is None or identity is owner:
            return words_
        return f"{bench.radio.name if bench.radio else ''} for {identity.call or identity.name}: {words_}"

    def refresh(self) -> None:
        """Show the plan's name and state."""
        bench, document = self._bench, self._bench.document
        self.plan.setText(f"{bench.plan.name} ▾" if document else "No plan ▾")
        self._saved.setText("" if document is None else "unsaved changes (safe)" if document.unsaved else "saved")
        identities = bench.plan.station.identities
        self.call.setText(identities[0].call if identities and identities[0].call else "no call sign")
        self.call.setVisible(document is not None)
        licence = self._station().licence
        free = licence.granted and not licence.guard
        if document is not None:  # without one there is no word to colour, and the first window is painted sooner
            restyle(self._state, "role", "ok" if free else "brass")
        self._say_state()
        back, again = bench.steps.names()
        self.undo.setEnabled(bool(back))
        self.redo.setEnabled(bool(again))
        set_tip(self.undo, f"Undo: {back} (Ctrl Z)" if back else "Nothing to undo")
        set_tip(self.redo, f"Redo: {again} (Ctrl Shift Z)" if again else "Nothing to do again")
