"""The memory-card page of Transfer: what is found on the card ticks the steps, one button does what is to be done here.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from functools import partial

from PyQt6.QtCore import QTimer
from PyQt6.QtGui import QHideEvent, QShowEvent
from PyQt6.QtWidgets import QFileDialog, QFrame, QMenu, QWidget

from umbra_awl.core.transfer.card.steps import PROVEN, CardSights, steps_of
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.tips import set_tip
from umbra_awl.desk.parts.widgets import act, button, card, column, row, words
from umbra_awl.desk.runs.runner import Runner
from umbra_awl.desk.theme.theme import Theme
from umbra_awl.desk.transfer.cable.change_table import ChangeTable
from umbra_awl.desk.transfer.card.card_picture import CardPicture
from umbra_awl.desk.transfer.card.card_side import CardSide
from umbra_awl.desk.transfer.card.card_words import CardPageWords

LOOK_MS = 700


class CardPage(QWidget):
    """The canvas page; `side` is what stands beside it."""

    def __init__(self, bench: Workbench, theme: Theme, runner: Runner) -> None:
        super().__init__()
        self.said = CardPageWords(self)
        self._bench, self.runner = bench, runner
        self.found: CardSights | None = None
        outer = column(self, 8)
        head = row(gap=6)
        head.addWidget(RadioTabs(bench), 1)
        self.bench_radio = button("The simulated radio …", self.open_bench, tip="Its switch, its menu, its card slot")
        head.addWidget(self.bench_radio)
        head.addWidget(words("Card", "second"))
        self.folder = button("", self.choose_card, "value", "The folder in which the radio's card appears")
        head.addWidget(self.folder)
        outer.addLayout(head)
        self.picture = CardPicture(theme)
        outer.addWidget(self.picture)
        outer.addWidget(self._action_card())
        self.table = ChangeTable(theme)
        outer.addWidget(self.table, 1)
        self._room = QWidget()
        outer.addWidget(self._room, 1)
        self.side = CardSide(bench, runner)
        self._watch = QTimer(self)
        self._watch.setInterval(LOOK_MS)
        self._watch.timeout.connect(self.look)
        for signal in (runner.changed, bench.radio_changed, bench.plan_changed):
            signal.connect(self.look)
        self.look()

    def _action_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        line = row()
        self.main = button("", self.go, "main")
        self.again = button("Read again", self.read, tip="Read the card anew")
        self.older = button("Take it all the same", self._take_older, tip="Read the older save of the radio")
        self.all_the_same = button("Lay it on all the same", self._restore_other, tip="Send it to this other radio")
        self._state = words("", wrap=True)
        line.addWidget(self.main)
        line.addWidget(self._state, 1)
        for more in (self.older, self.all_the_same, self.again):
            line.addWidget(more)
        inner.addLayout(line)
        self._todo = words("", wrap=True)
        inner.addWidget(self._todo)
        self._fault = words("", "stop", wrap=True)
        inner.addWidget(self._fault)
        return frame

    def showEvent(self, event: QShowEvent | None) -> None:
        super().showEvent(event)
        self._watch.start()
        self.look()

    def hideEvent(self, event: QHideEvent | None) -> None:
        super().hideEvent(event)
        self._watch.stop()

    def take_focus(self) -> None:
        """Give the keyboard to the one action."""
        (self.main if self.main.isEnabled() else self.folder).setFocus()

    def reach(self, field: str) -> bool:
        """The one action."""
        if field == "act":
            self.take_focus()
        return field == "act"

    def choose_card(self) -> None:
        """Choose among the removable media that are there, or any folder."""
        from umbra_awl.core.transfer.card.places import places

        menu = QMenu(self)
        for place in places():
            act(menu, f"{place.name}   {place.folder}", partial(self._set_card, str(place.folder)))
        act(menu, "Choose a folder …", self._ask_folder)
        menu.aboutToHide.connect(menu.deleteLater)
        menu.popup(self.folder.mapToGlobal(self.folder.rect().bottomLeft()))

    def _ask_folder(self) -> None:
        folder = QFileDialog.getExistingDirectory(self, "Folder of the card", self.runner.ways.card)
        if folder:
            self._set_card(folder)

    def _set_card(self, folder: str) -> None:
        self.runner.ways.set_card(folder)
        self.look()

    def open_bench(self) -> None:
        """Show the simulated radio, where there is one."""
        from umbra_awl.desk.transfer.card.bench_radio import BenchRadio

        radio, profile = self._bench.radio, self.runner.profile
        process = self.runner.ways.on_bench.get(self._bench.radio_key)
        if radio is None or profile is None or process is None:
            return
        shown = BenchRadio(self, radio.name, profile, process)
        shown.moved.connect(self.look)
        shown.finished.connect(shown.deleteLater)
        shown.show()

    def look(self) -> None:
        """Look at the card, in the background; the latest wins."""
        runner = self.runner
        if not runner.by_card or runner.running or self._bench.document is None:
            return
        radio = self._bench.radio_key
        self._bench.jobs.latest("card", runner.ways.to_find(runner.held), lambda found: self._take(found, radio))

    def _take(self, found: CardSights | None, radio: str) -> None:
        if found is not None and radio == self._bench.radio_key:
            self.found = found
            self.refresh()

    def read(self) -> None:
        """Read what the radio wrote out."""
        self.runner.read()

    def _take_older(self) -> None:
        self.runner.read(older_ok=True)

    def _restore_other(self) -> None:
        if self.runner.other is not None:
            self.runner.restoring.restore(self.runner.other, other_unit=True)

    def go(self) -> None:
        """Do what is to be done here now."""
        runner, found = self.runner, self.found
        if found is None or not self.said.can_go(found):
            return
        if runner.senseless:
            runner.difference.begin_anew()
        elif found.stage == "taken" and runner.stand == "compared":
            runner.write()
        elif not self.runner.ways.card:
            self.choose_card()
        else:
            runner.read()

    def refresh(self) -> None:
        """Show what was found."""
        runner, found, radio = self.runner, self.found, self._bench.radio
        profile = runner.profile
        if found is None or profile is None or radio is None:
            return
        found = self._seen(found)
        self.bench_radio.setVisible(radio.key in runner.ways.on_bench)
        place = runner.ways.card
        self.folder.setText(place.rpartition("/")[2] or "choose it")
        set_tip(self.folder, place or "The folder in which the radio's card appears")
        self.picture.show_steps(radio.name, steps_of(profile, found.sent), found)
        had_focus = self.main.hasFocus()
        self.main.setText(self.said.main_words(found))
        self.main.setEnabled(self.said.can_go(found))
        if had_focus and self.main.isEnabled():
            self.main.setFocus()
        self.again.setVisible(found.stage in {"taken", "sent"} and not runner.running)
        self.older.setVisible(runner.older or found.stage == "older")
        self.all_the_same.setVisible(runner.other is not None and not runner.running)
        self._state.setText(self.said.state_words(found))
        self._todo.setText(self.said.todo_words(found))
        self._fault.setText(runner.fault)
        self._fault.setVisible(bool(runner.fault))
        compared = runner.difference.compared
        self.table.changes.show_sheet(compared.sheet if compared is not None else None)
        self.table.setVisible(compared is not None)
        self._room.setVisible(compared is None)
        self.side.show_proofs(compared, profile)

    def _seen(self, found: CardSights) -> CardSights:
        """What was found, with what the comparison says: proven, or nothing left to send."""
        runner = self.runner
        if found.stage != "taken":
            return found
        if runner.stand == "proven":
            return found._replace(done=PROVEN, text=runner.success, todo="Turn to it, key it, and read the display.")
        if runner.difference.compared is not None and not runner.difference.compared.sheet.changes:
            return found._replace(text="The radio holds the plan already.", todo="There is nothing to send.")
        return found
