"""Somebody at the window, with the keyboard alone or with the mouse: presses, clicks and decisions are counted and printed.

The same walk is done by either. With the keyboard nothing is reached but by its keys: a widget is walked to with Tab, from
where the keyboard is. With the mouse nothing is pressed that is not seen.
"""

from contextlib import contextmanager

from PyQt6.QtCore import QPoint, Qt, QTimer
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QApplication, QComboBox, QDialog, QMenu, QWidget

from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.typing import Typing
from umbra_awl.desk.sheet.layout import slot_share
from umbra_awl.desk.stages import STAGES

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier
PLAIN = Qt.KeyboardModifier.NoModifier
MOST_TABS = 90


class Hands:
    """What either kind of hands can do."""

    kind = ""

    def __init__(self, window):
        self.window = window
        self.presses = self.clicks = 0
        self.decisions = []

    def decides(self, words):
        """Note a decision: something that only the operator can know."""
        self.decisions.append(words)

    def tell(self, who):
        """Print what it took."""
        done = f"{self.presses} key presses, {self.clicks} clicks"
        print(f"\n{who}, {self.kind}: decisions {len(self.decisions)} ({', '.join(self.decisions)}), {done}")  # noqa: T201

    def key(self, key, modifiers=PLAIN):
        """Press a key where the keyboard is."""
        self.presses += 1
        QTest.keyClick(self.focus(), key, modifiers)

    def type(self, text):
        """Type a text where the keyboard is."""
        self.presses += len(text)
        QTest.keyClicks(self.focus(), text)

    def focus(self):
        """Who gets the keys now."""
        popup = QApplication.activePopupWidget()
        top = QApplication.activeModalWidget() or self.window
        return popup or top.focusWidget() or top

    def over(self):
        """Let what was asked for come."""
        QTest.qWait(10)

    @contextmanager
    def answering(self, answers):
        """While a sheet is asked for: it is filled in as told as soon as it is there; what it then still says is a fault."""
        faults = []

        def answer():
            sheet = QApplication.activeModalWidget()
            if sheet is None:
                QTimer.singleShot(20, answer)
                return
            answers(sheet)
            if sheet.isVisible():
                faults.append(getattr(sheet, "fault", sheet).text() if hasattr(sheet, "fault") else sheet.windowTitle())
                sheet.reject()

        QTimer.singleShot(20, answer)
        yield
        assert not faults, faults

    def choose_in_menu(self, word):
        """Take the line of the open menu that holds a word."""
        for _time in range(100):
            menu = QApplication.activePopupWidget()
            if isinstance(menu, QMenu):
                break
            QTest.qWait(20)
        assert isinstance(menu, QMenu), "no menu is open"
        lines = [action for action in menu.actions() if not action.isSeparator() and action.isEnabled()]
        at = next(place for place, action in enumerate(lines) if word.casefold() in action.text().casefold())
        self._take_line(menu, lines[at], at)
        self.over()

    def value(self, holder, label):
        """The widget that shows a value of the page or of what stands beside it."""
        for fields in holder.findChildren(FieldList):
            if label in fields._values and fields.isVisible():
                return fields._values[label]
        raise AssertionError(f"no field {label} is shown")

    def give(self, label, text):
        """Give a value that is typed."""
        self.begin(label)
        assert isinstance(self.focus(), Typing), f"{label} is not typed"
        self.key(Qt.Key.Key_A, CTRL)
        self.type(text)
        self.key(Qt.Key.Key_Return)
        self.over()

    def pick(self, label, word):
        """Give a value that is chosen from a list."""
        self.begin(label)
        self.choose_in_menu(word)


class Keys(Hands):
    """The keyboard alone."""

    kind = "keyboard alone"

    def walk_to(self, widget):
        """Press Tab until a widget has the keyboard."""
        for _time in range(MOST_TABS):
            if self.focus() is widget:
                return
            self.key(Qt.Key.Key_Tab)
        raise AssertionError(f"{type(widget).__name__} “{widget.accessibleName()}” is not reached by Tab")

    def press(self, widget):
        """Press a button; in a row of which one is chosen the arrows go there, and choose it."""
        row = widget.group() if isinstance(widget, QAbstractButton) else None
        if row is not None:
            self.along(row, widget)
            return
        self.walk_to(widget)
        self.key(Qt.Key.Key_Space)
        self.over()

    def along(self, row, widget):
        """Tab to a row of words, and go along it with the arrows."""
        self.walk_to(next(made for made in row.buttons() if made.focusPolicy() & Qt.FocusPolicy.TabFocus))
        for _time in range(len(row.buttons())):
            if self.focus() is widget:
                break
            right = widget.mapToGlobal(QPoint(0, 0)).x() > self.focus().mapToGlobal(QPoint(0, 0)).x()
            self.key(Qt.Key.Key_Right if right else Qt.Key.Key_Left)
            self.over()
        assert widget.isChecked(), f"“{widget.text()}” is not chosen by the arrows"

    def go(self, stage, page=""):
        """Go to a stage by its number, to a page by walking to its word."""
        self.key(getattr(Qt.Key, f"Key_{list(STAGES).index(stage) + 1}"), CTRL)
        self.over()
        pages = self.window.stages[stage].pages
        if page and pages.name != page:
            for word in pages.words_to(page):
                self.press(word)
            assert pages.name == page

    def next(self):
        """Do the next step."""
        self.key(Qt.Key.Key_Return, CTRL)
        self.over()

    def find(self, words):
        """Find or do something by its words."""
        self.key(Qt.Key.Key_K, CTRL)
        self.type(words)
        self.key(Qt.Key.Key_Return)
        self.over()

    def begin(self, label):
        """Begin to change a value."""
        stage = self.window.stages[self.window.stages.current]
        holder = stage if any(label in item._values for item in stage.findChildren(FieldList)) else self.window
        self.walk_to(self.value(holder, label))
        self.key(Qt.Key.Key_Return)
        self.over()

    def punch(self, service, destination, slot=0):
        """Walk over the sheet with the arrows and punch."""
        sheet = self.window.stages["routes"].sheet
        if not sheet.hasFocus():
            self.walk_to(sheet)
        if sheet.cursor_cell is None:
            self.key(Qt.Key.Key_Down)
        wanted = sheet.sheet.cell_of(service, destination)

        def band(row):
            return max(at for at in range(row) if sheet.sheet.rows[at].kind == "group")

        while band(sheet.cursor_cell.row) != band(wanted.row):
            self.key(Qt.Key.Key_Down if sheet.cursor_cell.row < wanted.row else Qt.Key.Key_Up, CTRL)
        while sheet.cursor_cell.row != wanted.row:
            self.key(Qt.Key.Key_Down if sheet.cursor_cell.row < wanted.row else Qt.Key.Key_Up)
        while sheet.cursor_cell.column != wanted.column:
            self.key(Qt.Key.Key_Right if sheet.cursor_cell.column < wanted.column else Qt.Key.Key_Left)
        self.key(getattr(Qt.Key, f"Key_{slot}") if slot else Qt.Key.Key_Space)

    def fill(self, sheet, values):
        """Fill in a sheet's fields by their labels, then Enter."""
        for label, value in values.items():
            field = field_of(sheet, label)
            self.walk_to(field)
            if isinstance(field, QComboBox):
                while value.casefold() not in field.currentText().casefold():
                    before = field.currentIndex()
                    self.key(Qt.Key.Key_Down)
                    assert field.currentIndex() != before, f"{label} has no {value}"
            else:
                self.key(Qt.Key.Key_A, CTRL)
                self.type(value)
        self.key(Qt.Key.Key_Return)

    def _take_line(self, _menu, _action, at):
        for _time in range(at + 1):
            self.key(Qt.Key.Key_Down)
        self.key(Qt.Key.Key_Return)


class Mouse(Hands):
    """The mouse; values are still typed."""

    kind = "mouse"

    def click(self, widget, at=None):
        """Click a widget that is seen."""
        assert widget.isVisible(), f"{type(widget).__name__} is not seen"
        assert not widget.visibleRegion().isEmpty(), f"{type(widget).__name__} is covered or scrolled away"
        self.clicks += 1
        QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=at or widget.rect().center())
        self.over()

    press = click

    def go(self, stage, page=""):
        """Click a stage on the course, then the word of a page."""
        course = self.window.course
        self.click(course, QPoint(round(course._left(list(STAGES).index(stage))) + 20, 16))
        QTest.qWait(60)
        pages = self.window.stages[stage].pages
        if page and pages.name != page:
            for word in pages.words_to(page):
                self.click(word)
            assert pages.name == page

    def next(self):
        """Click the next step."""
        self.click(self.window.foot.next)

    def find(self, words):
        """Click into the find-or-do box and type."""
        self.click(self.window.top.finder)
        self.type(words)
        self.key(Qt.Key.Key_Return)
        self.over()

    def begin(self, label):
        """Click a value."""
        self.click(self.value(self.window, label))

    def punch(self, service, destination, slot=0):
        """Click the hole of a crossing."""
        sheet = self.window.stages["routes"].sheet
        layout = sheet.sheet
        cell = layout.cell_of(service, destination)
        sheet._reveal(cell)  # as one scrolls there
        slot = slot or next(iter(layout.places(cell.row, cell.column)), 0)
        sizes, view = layout.sizes, sheet.view()
        x = sizes.left - view.x + round((cell.column + slot_share(slot)) * sizes.column)
        y = sizes.head - view.y + layout.tops[cell.row] + sizes.row // 2
        QTest.mouseMove(sheet.viewport(), QPoint(x, y))
        self.clicks += 1
        QTest.mouseClick(sheet.viewport(), Qt.MouseButton.LeftButton, pos=QPoint(x, y))

    def fill(self, sheet, values):
        """Click each field and type or choose, then click the filled button."""
        for label, value in values.items():
            field = field_of(sheet, label)
            self.click(field)
            if isinstance(field, QComboBox):
                at = next(
                    place for place in range(field.count()) if value.casefold() in field.itemText(place).casefold()
                )
                view = field.view()
                self.clicks += 1
                QTest.mouseClick(
                    view.viewport(), Qt.MouseButton.LeftButton, pos=view.visualRect(view.model().index(at, 0)).center()
                )
                if field.currentIndex() != at:
                    field.setCurrentIndex(at)
                    field.hidePopup()
            else:
                self.key(Qt.Key.Key_A, CTRL)
                self.type(value)
        self.click(sheet._done)

    def _take_line(self, menu, action, _at):
        self.clicks += 1
        QTest.mouseClick(menu, Qt.MouseButton.LeftButton, pos=menu.actionGeometry(action).center())


def field_of(sheet: QDialog, label: str) -> QWidget:
    """The field of a sheet by its label."""
    form = sheet.form
    for at in range(form.rowCount()):
        shown, field = form.itemAt(at, form.ItemRole.LabelRole), form.itemAt(at, form.ItemRole.FieldRole)
        if shown is not None and field is not None and shown.widget().text() == label:
            return field.widget()
    raise AssertionError(f"the sheet has no field {label}")
