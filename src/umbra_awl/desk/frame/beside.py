"""The middle of the window: the canvas, and beside it what belongs to the page, with its findings under it.

The border between the two can be dragged; where it was put is remembered. A page that needs nothing beside it has the whole
width.
"""

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QAbstractItemView, QScrollArea, QSplitter, QStackedWidget, QWidget

from umbra_awl.desk.frame.judged.findings import FindingsPanel
from umbra_awl.desk.parts.widgets import column
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

SIDE_WIDTH = 356
_LEAST = 240
_FINDINGS = 120
_BETWEEN = 24
_MOST, _MOST_NARROW = 0.42, 0.35
_NARROW = 760


class Beside(QSplitter):
    """Canvas left, the page's own column right."""

    def __init__(self, canvas: QWidget, findings: FindingsPanel, settings: Settings, theme: Theme) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self._findings, self._settings, self._theme = findings, settings, theme
        self._folded = {True: False, False: True}
        self._with_side = self._asked = False
        self.setChildrenCollapsible(False)
        self.setHandleWidth(12)
        self.setContentsMargins(14, 6, 12, 2)
        self.side = QStackedWidget()
        self.side.setMinimumHeight(60)
        self._right = QWidget()
        right = column(self._right, 8)
        right.addWidget(self.side, 1)
        right.addWidget(findings)
        findings.free = self._free
        self.addWidget(canvas)
        self.addWidget(self._right)
        self.setStretchFactor(0, 1)
        self.setStretchFactor(1, 0)
        self.splitterMoved.connect(lambda _at, _which: self._keep())
        theme.changed.connect(self._arrange)
        self._arrange()

    def add(self, side: QWidget) -> None:
        """Take in what stands beside a stage's pages."""
        self.side.addWidget(side)

    def show_beside(self, side: QWidget | None) -> None:
        """Show what stands beside the page; None gives the page the whole width."""
        self._with_side = side is not None
        if side is not None:
            self.side.setCurrentWidget(side)
        self._arrange()

    @property
    def findings_shown(self) -> bool:
        """Whether the findings are open."""
        return not self._folded[self._with_side] and (self._asked or not self._low())

    def _low(self) -> bool:
        """Whether what stands beside the page needs all the height there is; the findings are a count in the foot then."""
        side = self.side.currentWidget()
        shown = side.currentWidget() if isinstance(side, QStackedWidget) else side
        if not self._with_side or shown is None:
            return False
        return shown.minimumSizeHint().height() + self._theme.px(_FINDINGS) > self.height()

    def toggle_findings(self) -> None:
        """Fold the findings, or open them: under what stands beside the page, or in a column of their own."""
        self._folded[self._with_side] = self.findings_shown
        self._asked = not self._folded[self._with_side]
        self._arrange()

    def _arrange(self) -> None:
        self.side.setVisible(self._with_side)
        self._findings.alone = not self._with_side
        self._findings.setVisible(self.findings_shown)
        self._right.setVisible(self._with_side or self.findings_shown)
        self._fit()
        self._findings.fit()

    def _free(self) -> int:
        """The height that what stands beside the page leaves, in pixels: nothing where a list could use it."""
        side = self.side.currentWidget()
        shown = side.currentWidget() if isinstance(side, QStackedWidget) else side
        if not self._with_side or shown is None or any(map(_filled, shown.findChildren(QAbstractItemView))):
            return 0
        return self.height() - _wanted_by(shown) - self._theme.px(_BETWEEN)

    def _fit(self) -> None:
        """The column grows with the text unless it was dragged, and leaves the canvas the larger part."""
        wanted = self._settings.kept.side_width or self._theme.px(SIDE_WIDTH)
        most = int((_MOST if self.width() >= self._theme.px(_NARROW) else _MOST_NARROW) * self.width())
        least = min(self._theme.px(_LEAST), most)
        width = min(max(wanted, least), most)
        self._right.setMinimumWidth(least)
        self._right.setMaximumWidth(max(most, 1))
        sizes = [max(self.width() - width - self.handleWidth(), 1), width]
        if self.sizes() != sizes:
            self.setSizes(sizes)

    def _keep(self) -> None:
        self._settings.keep(side_width=self._right.width())

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        self._arrange()


def _filled(view: QAbstractItemView) -> bool:
    """Whether a list is shown that holds anything."""
    model = view.model()
    return view.isVisible() and model is not None and model.rowCount() > 0


def _wanted_by(shown: QWidget) -> int:
    """The height in which a column stands without scrolling, in pixels."""
    areas = [item for item in (shown, *shown.findChildren(QScrollArea)) if isinstance(item, QScrollArea)]
    height = shown.sizeHint().height()
    for area in areas:
        inside = area.widget()
        if inside is not None and area.isVisibleTo(shown.parentWidget()):
            wide = max(area.width(), 1)
            needs = inside.heightForWidth(wide) if inside.hasHeightForWidth() else inside.sizeHint().height()
            height += needs - area.sizeHint().height()
    return height
