"""The path from an empty card to the echo, each step ticked by what is seen; beside it the ladder of proof."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QFrame, QWidget

from umbra_awl.core.agenda.next_steps import Where
from umbra_awl.core.hotspot.compatible import shipped_parts
from umbra_awl.core.hotspot.logs.ladder import RUNGS, note_proof
from umbra_awl.core.hotspot.path import KnownOfHotspot, PathStep, build_fault, path_steps, see_step
from umbra_awl.core.hotspot.wifi.card_file import WifiFileError, laid, lay_down
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.parts import HOTSPOTS
from umbra_awl.desk.hotspots.ask_secret import ask_secret
from umbra_awl.desk.hotspots.echoing import key_echo
from umbra_awl.desk.hotspots.seen import Seen
from umbra_awl.desk.hotspots.spot import Spot
from umbra_awl.desk.hotspots.step_thread import State, StepThread, Stop
from umbra_awl.desk.parts.asking import ask
from umbra_awl.desk.parts.menus import lead, menu_button
from umbra_awl.desk.parts.saving import REPLACE
from umbra_awl.desk.parts.widgets import button, card, column, row, rows_of, scrolled, words
from umbra_awl.desk.theme.theme import Theme

_HANDS = {"you": "your hands", "here": "this computer"}
_LADDER = "Weak at the top, strong at the bottom. Return notes a rung as proven today."
_CAUTION = "Antenna on before it starts. Low power is enough beside your own hotspot."


class PathPage(QWidget):
    """The canvas page; `side` is the ladder."""

    def __init__(self, spot: Spot, theme: Theme) -> None:
        super().__init__()
        self._spot = spot
        self._steps: tuple[PathStep, ...] = ()
        outer = column(self, 8)
        outer.addWidget(self._parts_card())
        self.thread_ = StepThread(theme, "From an empty card to the echo")
        self.thread_.chosen.connect(self._open)
        outer.addWidget(scrolled(self.thread_), 1)
        self.thread_.moved.connect(self._say_eye)
        self.eye = button("I saw it", self.saw, tip="Marks the chosen step as seen by eye; again takes it back")
        self._eye_words = words("", "second", wrap=True)
        line = row(gap=8)
        line.addWidget(self.eye)
        line.addWidget(self._eye_words, 1)
        outer.addLayout(line)
        self.side = QWidget()
        beside = column(self.side, 6)
        beside.addWidget(words("Ladder of proof", "title"))
        self._stands = words("", "second", wrap=True)
        beside.addWidget(self._stands)
        self.ladder = StepThread(theme, "Ladder of proof", 16)
        self.ladder.chosen.connect(self._note)
        beside.addWidget(scrolled(self.ladder), 1)
        beside.addWidget(words(_LADDER, "second", wrap=True))
        spot.changed.connect(Seen(self, self.refresh).changed)

    def _parts_card(self) -> QFrame:
        frame = card()
        inner = column(frame, 4, 10)
        parts = shipped_parts()
        self.choices = {
            name: menu_button(f"{name.capitalize()} of the hotspot", partial(self._choices, name))
            for name in ("board", "computer", "image")
        }
        self._names = {
            "board": {item.key: item.name for item in parts.board},
            "computer": {item.key: item.name for item in parts.computer},
            "image": {item.key: item.name for item in parts.image},
        }
        self.wifi = button(
            "Lay the Wi-Fi file on the card …", self.ask_wifi, tip="Before the first start, beside the image"
        )
        inner.addLayout(rows_of(lead("Parts"), *self.choices.values(), self.wifi, gap=6))
        self._fault = words("", "second", wrap=True)
        inner.addWidget(self._fault)
        inner.addWidget(words(_CAUTION, "second", wrap=True))
        return frame

    def _choices(self, name: str) -> list[tuple[str, Callable[[], object]]]:
        return [(text, partial(self.choose_part, name, key)) for key, text in self._names[name].items()]

    def take_focus(self) -> None:
        """Give the keyboard to the steps."""
        self.thread_.setFocus()

    def reach(self, field: str) -> bool:
        """The steps, or the ladder."""
        target = {"steps": self.thread_, "ladder": self.ladder}.get(field)
        if target is not None:
            target.setFocus()
        return target is not None

    def _open(self, at: int) -> None:
        """Go to where a step is done."""
        step = self._steps[at]
        if step.key == "echo":
            key_echo(self._spot)
        elif step.page != "path":
            field = {"address": "address", "log": "log"}.get(step.key, "act")
            self._spot.bench.where_wanted.emit(Where("hotspots", step.page, field))
        elif step.key == "wifi":
            self.ask_wifi()
        elif step.key == "parts":
            self.choices["board"].setFocus()

    def _step(self) -> PathStep | None:
        at = self.thread_.at
        return self._steps[at] if 0 <= at < len(self._steps) else None

    def _say_eye(self) -> None:
        """What must be seen for the chosen step, where nothing can be asked."""
        step, hotspot = self._step(), self._spot.hotspot
        if step is None or hotspot is None:
            return
        held = any(item.rung == step.key for item in hotspot.by_eye)
        self.eye.setText("Not seen after all" if held else "I saw it")
        self.eye.setEnabled(held or not step.done)
        told = step.seen or f"“{step.what}” counts where you have seen: {step.sees[0].lower()}{step.sees[1:]}."
        self._eye_words.setText(told[0].upper() + told[1:])

    def saw(self) -> None:
        """Note the chosen step as seen by eye, or take that back."""
        step, hotspot = self._step(), self._spot.hotspot
        if step is not None and hotspot is not None:
            self._spot.bench.do(see_step(hotspot, step.key, self._spot.bench.index.today.isoformat()))

    def _note(self, at: int) -> None:
        hotspot = self._spot.hotspot
        if hotspot is not None:
            self._spot.bench.do(note_proof(hotspot, RUNGS[at].key, self._spot.bench.index.today.isoformat()))

    def ask_wifi(self) -> None:
        """Ask for the card's start folder, a name and its password, and lay the file down."""
        spot, plan = self._spot, self._spot.bench.plan
        if not spot.bench.reaches_out():
            return
        folder = QFileDialog.getExistingDirectory(self, "The card's start folder", str(Path.home()))
        hotspot = spot.hotspot
        if not folder or hotspot is None:
            return
        there = laid(Path(folder))
        if there and ask(self, "Wi-Fi file", f"“{there}” is there already. Replace it?", [REPLACE]) != REPLACE:
            return
        home = plan.station.home_wifi
        name = home.name if home is not None and home.name else next(iter(hotspot.wifi), "")
        lead = "It goes onto the card and nowhere else."
        told = ask_secret(self, spot.secrets, f"wifi:{name}", f"Password of “{name}”", lead)
        if told is None:
            return
        try:
            path = lay_down(Path(folder), "supplicant", name, told)
        except (WifiFileError, OSError) as error:
            spot.bench.say(str(error), "stop")
            return
        spot.wifi_laid = True
        spot.bench.say(
            f"“{path.name}” lies on the card, for “{name}”. Now the card into the hotspot, and switch it on."
        )
        self.refresh()

    def refresh(self) -> None:
        """Show how far it has come."""
        spot, hotspot = self._spot, self._spot.hotspot
        standing = spot.own.ladder()
        if hotspot is None or standing is None:
            return
        for name, choice in self.choices.items():
            chosen = getattr(hotspot, name)
            choice.setText(self._names[name].get(chosen, f"choose the {name}"))
        fault = build_fault(shipped_parts(), hotspot)
        self._fault.setText(fault or "Board, computer and image go together.")
        known = KnownOfHotspot(hotspot, spot.status, spot.log, spot.rows(), spot.wifi_laid)
        self._steps = path_steps(known, shipped_parts(), standing)
        upcoming = next((at for at, step in enumerate(self._steps) if not step.done), -1)
        self.thread_.show_stops(
            [
                Stop(_HANDS[step.hands], step.what, step.seen or f"see: {step.sees}", _state(step.done, at == upcoming))
                for at, step in enumerate(self._steps)
            ]
        )
        self._say_eye()
        self._stands.setText(f"It stands at: {standing.words}.")
        self.ladder.show_stops(
            [
                Stop(
                    f"{at + 1}",
                    rung.words,
                    standing.reached[at] or (rung.todo if at == standing.highest + 1 else rung.proves),
                    _state(bool(standing.reached[at]), at == standing.highest + 1),
                )
                for at, rung in enumerate(RUNGS)
            ]
        )

    def choose_part(self, name: str, key: str) -> None:
        """Take a part for the hotspot."""
        hotspot = self._spot.hotspot
        if hotspot is not None:
            sentence = f"Take the {name} {self._names[name].get(key, key)}"
            self._spot.bench.do(set_fields(HOTSPOTS, hotspot.key, sentence, **{name: key}))


def _state(done: bool, upcoming: bool) -> State:
    return "done" if done else "next" if upcoming else "later"
