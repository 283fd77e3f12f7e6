"""One finding in one line: its grade as a shape, its title, what it is about. The chosen one opens in place."""

from collections.abc import Callable
from typing import NamedTuple

from PyQt6.QtCore import QLineF, QPoint, QPointF, QRect, QSize, Qt
from PyQt6.QtGui import QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QApplication, QFrame, QHBoxLayout, QLabel, QLineEdit, QPushButton, QSizePolicy, QWidget

from umbra_awl.core.findings.aside import silence, unsilence
from umbra_awl.core.findings.model import SEVERITY_WORDS, Finding
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.pointed import ThingAct
from umbra_awl.desk.parts.widgets import button, clear, column, row, words
from umbra_awl.desk.parts.wrap import in_lines
from umbra_awl.desk.theme.theme import Theme

_LEFT, _RIGHT, _ABOVE = 26, 8, 4
_SHORT = 18
"""Letters of a repair that stand on the line beside its title."""
_WRAPPED = in_lines(Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignTop)
_TONES = {"stop": "stop", "warn": "brass", "note": "ink2"}


class Face(NamedTuple):
    """All that is seen of a finding: a line whose face is the same stays, and takes the finding of the newer plan.

    `where` says what it is about, `alike` counts those of its rule, `reason` is why it was put aside, where it was.
    """

    key: tuple[str, str, str, str]
    text: str
    acts: tuple[str, str]
    where: str = ""
    alike: int = 1
    reason: str = ""


def face_of(finding: Finding, where: str = "", *, alike: int = 1, reason: str = "") -> Face:
    """What would be seen of a finding."""
    acts = (finding.repair.label, finding.repair.edit.sentence) if finding.repair is not None else ("", "")
    return Face(finding.key, finding.text, acts, where, alike, reason)


class _Head(QPushButton):
    """The line itself: a shape for the grade, then words that wrap and are never cut."""

    def __init__(self, severity: str, text: str, name: str, theme: Theme) -> None:
        super().__init__()
        self._severity, self._words, self._theme = severity, text, theme
        self.setProperty("role", "line")
        self.setCheckable(True)
        self.setAutoDefault(False)
        self.setAccessibleName(name)
        policy = QSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def _box(self, width: int) -> QRect:
        """The room that the words take at a width."""
        font = self._theme.font(13)
        self.setFont(font)
        return self.fontMetrics().boundingRect(
            QRect(0, 0, max(width - _LEFT - _RIGHT, 40), 10_000), _WRAPPED, self._words
        )

    def hasHeightForWidth(self) -> bool:
        return True

    def heightForWidth(self, width: int) -> int:
        return max(self._theme.px(24), self._box(width).height() + 2 * _ABOVE)

    def sizeHint(self) -> QSize:
        return QSize(200, self._theme.px(24))

    def minimumSizeHint(self) -> QSize:
        return QSize(60, self._theme.px(24))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme = self._theme
        color = theme.color(_TONES[self._severity])
        middle = QPointF(13, _ABOVE + self.fontMetrics().height() / 2)
        _mark(painter, self._severity, middle, QPen(color, 2.2))
        painter.setPen(theme.color("ink"))
        painter.setFont(theme.font(13))
        painter.drawText(QRect(_LEFT, _ABOVE, self.width() - _LEFT - _RIGHT, self.height()), _WRAPPED, self._words)


def _mark(painter: QPainter, severity: str, at: QPointF, pen: QPen) -> None:
    """A cross for what stops, a ring for what wants a look, a dot for what is worth knowing."""
    painter.setPen(pen)
    if severity == "stop":
        painter.drawLine(QLineF(at.x() - 4, at.y() - 4, at.x() + 4, at.y() + 4))
        painter.drawLine(QLineF(at.x() - 4, at.y() + 4, at.x() + 4, at.y() - 4))
        return
    painter.setBrush(pen.color() if severity == "note" else Qt.BrushStyle.NoBrush)
    size = 2.2 if severity == "note" else 4.6
    painter.drawEllipse(at, size, size)


class FindingLine(QFrame):
    """One finding. Pressing its line opens it, with its numbers, its repair and why; pressing again folds it."""

    def __init__(
        self, finding: Finding, face: Face, bench: Workbench, theme: Theme, opened: "Callable[[FindingLine], object]"
    ) -> None:
        super().__init__()
        self.finding, self.face, self._bench = finding, face, bench
        self._opened = opened
        self._repair: QPushButton | None = None
        self._why: QLabel | None = None
        self._asks: QLineEdit | None = None
        self.setProperty("role", "finding")
        grade = "Put aside" if face.reason else SEVERITY_WORDS[finding.severity]
        text = finding.rule.title + (f"  ·  {face.where}" if face.where else "")
        severity = "note" if face.reason else finding.severity
        outer = column(self, 0)
        self.head = _Head(severity, text, f"{grade}: {finding.rule.title}. {face.where}. {finding.text}", theme)
        self.head.clicked.connect(lambda _checked=False: opened(self))
        self.mend = self._mend_button()
        line = row(gap=0)
        line.addWidget(self.head, 1)
        if self.mend is not None:
            line.addWidget(self.mend, 0, Qt.AlignmentFlag.AlignTop)
        outer.addLayout(line)
        self._body = QWidget()
        self._inside = column(self._body, 3)
        self._inside.setContentsMargins(_LEFT, 0, _RIGHT, 6)
        self._body.hide()
        outer.addWidget(self._body)

    def acts_at(self, _at: QPoint) -> list[ThingAct]:
        """What can be done with the finding."""
        finding, bench = self.finding, self._bench
        made = [ThingAct("Show what it is about", lambda: bench.show_finding(self.finding))]
        if finding.repair is not None and not self.face.reason:
            made.insert(0, ThingAct(finding.repair.label, self._mend))
        if not self.face.reason and not finding.rule.safety:
            made.append(ThingAct("Put it aside, with a reason", self._open_aside))
        return [*made, ThingAct("Copy the finding", self._copy)]

    def _open_aside(self) -> None:
        if not self.is_open:
            self._opened(self)
        self._ask_reason()

    def _copy(self) -> None:
        clipboard = QApplication.clipboard()
        if clipboard is not None:
            clipboard.setText(f"{self.finding.rule.title}. {self.face.where}. {self.finding.text}")

    @property
    def is_open(self) -> bool:
        """Whether its numbers and acts are shown."""
        return not self._body.isHidden()

    def set_open(self, on: bool) -> None:
        """Open or fold it."""
        self.head.setChecked(on)
        if on and not self._inside.count():
            self._fill()
        self._body.setVisible(on)
        if self.mend is not None:
            self.mend.setVisible(not on)  # the open line has it as its filled button

    def _mend_button(self) -> QPushButton | None:
        """The repair on the line itself, with its own words where they are short."""
        repair = self.finding.repair
        if repair is None or self.face.reason:
            return None
        text = repair.label if len(repair.label) <= _SHORT else "Repair"
        made = button(text, self._mend, tip=f"{repair.edit.sentence} (Ctrl R takes the first)")
        made.setAccessibleName(f"{repair.label}: {self.finding.rule.title}. {self.face.where}")
        return made

    def _mend(self) -> None:
        self._bench.repairs.one(self.finding)

    @property
    def repair(self) -> QPushButton:
        """The button of its repair; opens it first. Raises LookupError where it has none."""
        if not self.is_open:
            self._opened(self)
        if self._repair is None:
            raise LookupError(f"“{self.finding.rule.title}” has no repair.")
        return self._repair

    def _fill(self) -> None:
        clear(self._inside)
        finding, reason = self.finding, self.face.reason
        self._inside.addWidget(words(finding.text, wrap=True))
        if reason:
            self._inside.addWidget(words(f"Because: {reason}", "second", wrap=True))
        self._why, self._asks = words(finding.rule.why, "second", wrap=True), self._reason_line()
        self._why.hide()
        self._inside.addWidget(self._why)
        self._inside.addWidget(self._asks)
        self._inside.addLayout(self._acts(aside=bool(reason)))
        if self.face.alike > 1 and finding.repair is not None and not reason:
            line = row(gap=2)
            every = button(f"Repair all {self.face.alike} of this kind", self._repair_all, tip="One step to undo")
            line.addWidget(every)
            line.addStretch(1)
            self._inside.addLayout(line)

    def _acts(self, *, aside: bool) -> QHBoxLayout:
        acts, finding, bench = row(gap=2), self.finding, self._bench
        if aside:
            acts.addWidget(button("Mind it again", lambda: bench.do(unsilence(self.finding))))
        elif finding.repair is not None:
            repair = finding.repair
            self._repair = button(repair.label, lambda: bench.repairs.one(self.finding), "main", repair.edit.sentence)
            acts.addWidget(self._repair)
        acts.addWidget(button("Show", lambda: bench.show_finding(self.finding), tip="Go to the field it is about"))
        acts.addWidget(button("Why", self._toggle_why, tip="The reason behind the rule"))
        if not aside and not finding.rule.safety:
            acts.addWidget(button("Aside", self._ask_reason, tip="Put it aside, with a reason that stays in the plan"))
        acts.addStretch(1)
        return acts

    def _toggle_why(self) -> None:
        if self._why is not None:
            self._why.setVisible(self._why.isHidden())

    def _reason_line(self) -> QLineEdit:
        made = QLineEdit()
        made.setPlaceholderText("Why put it aside? Enter keeps the reason")
        made.setAccessibleName("Reason for putting the finding aside")
        made.returnPressed.connect(self._put_aside)
        made.hide()
        return made

    def _ask_reason(self) -> None:
        if self._asks is not None:
            self._asks.setVisible(self._asks.isHidden())
            self._asks.setFocus()

    def _put_aside(self) -> None:
        if self._asks is None:
            return
        try:
            edit = silence(self.finding, self._asks.text())
        except EditRefused as error:
            self._bench.say(str(error), "stop")
            return
        self._bench.do(edit)

    def _repair_all(self) -> None:
        self._bench.repairs.kind(self.finding.rule.name)
