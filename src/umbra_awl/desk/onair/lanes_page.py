"""Lanes: a scene played in time, the radio's front under it, scenes beside it, and what is heard."""

from collections.abc import Callable
from datetime import timedelta
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QListWidget, QListWidgetItem, QPushButton, QSizePolicy, QWidget

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.simulation.advice import SpokenAdvice
from umbra_awl.core.simulation.outcome import outcome
from umbra_awl.core.simulation.told import Book, LaneNote, Sound
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.front import Front
from umbra_awl.desk.onair.lanes_picture import LanesPicture
from umbra_awl.desk.onair.stand import FREE, SPEEDS, Stand
from umbra_awl.desk.parts.tabs import chosen_of, one_of
from umbra_awl.desk.parts.widgets import Whole, button, card, clear, column, restyle, row, rows_of, words
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.desk.book.log_book import LogBook

_CAUTION = "Simulated: nothing is transmitted."
_MOST_HEARD = 5
OPENS_AT_S = _SPAN_S = 20.0
"""The lanes open with so many seconds across at the usual speed, and follow; plus and minus change it."""


class LanesPage(QWidget):
    """The canvas page; `side` has the scenes."""

    def __init__(self, bench: Workbench, theme: Theme, settings: Settings, book: "Callable[[], LogBook]") -> None:
        super().__init__()
        self._bench, self._theme, self._book = bench, theme, book
        self.stand = Stand(bench, settings)
        self._ended = False
        outer = column(self, 6)
        outer.addLayout(self._head())
        self.picture = LanesPicture(theme)
        self.picture.pressed.connect(self.stand.press)
        self.picture.released.connect(self.stand.release)
        self.picture.key_wanted.connect(self._key)
        outer.addWidget(self.picture, 1)
        outer.addWidget(self._foot())
        self.side = QWidget()
        self._place_side()
        self.stand.changed.connect(self.refresh)
        self.stand.ticked.connect(self._ticked)
        bench.results_changed.connect(self._plan_moved)
        bench.radio_changed.connect(self._plan_moved)
        self.stand.choose(self.stand.scenes[0].key)
        self.stand.stand_at(OPENS_AT_S)  # whoever comes here sees what lanes are, before anything is pressed

    # parts

    def _head(self) -> QHBoxLayout:
        line = row(gap=8)
        self.title = words("", "title")
        self.told = Whole()
        line.addWidget(self.title)
        line.addWidget(self.told, 1)
        self.on_practice = button("Practice plan", partial(self.stand.on_own_plan, False), "segment")
        self.on_own = button("Do it on my plan", partial(self.stand.on_own_plan, True), "segment")
        for made in (self.on_practice, self.on_own):
            line.addWidget(made)
        return line

    def _foot(self) -> QFrame:
        frame = card()
        inner = column(frame, 6, 8)
        line = row(gap=8)
        self.key = QPushButton("Hold: key")
        self.key.setProperty("role", "main")
        self.key.setAccessibleName("Push to talk: hold, or Space on the lanes")
        self.key.setMinimumHeight(self._theme.px(34))
        self.key.pressed.connect(self.stand.press)
        self.key.released.connect(self.stand.release)
        line.addWidget(self.key)
        self.front = Front(self._theme, self.stand)
        line.addWidget(self.front, 1)
        inner.addLayout(line)
        self.back = button("−5 s", self.stand.time.back, tip="Back in time (left arrow); what came after is undone")
        self.run = button("Run", self.stand.time.toggle, tip="Let time go on, or hold it (Return)")
        self.forward = button("+5 s", self.stand.time.forward, tip="On in time (right arrow)")
        self.begin = button("Begin anew", self.stand.restart, tip="From the beginning (Home)")
        self.other = button("Another seed", self.stand.another_seed, tip="The same scene as another evening brings it")
        self.speeds = {at: button(f"×{at}", partial(self.stand.time.set_speed, at), "segment") for at in SPEEDS}
        self.log = button(
            "Log as simulated", self.log_overs, tip="Your overs go into the log, marked: they prove nothing"
        )
        parts = (self.back, self.run, self.forward, self.begin, self.other, *self.speeds.values(), self.log)
        inner.addLayout(rows_of(*parts, gap=4))
        self.advice = QWidget()
        self._advice_lines = column(self.advice, 2)
        self._advice_shown: tuple[SpokenAdvice, ...] | None = None
        inner.addWidget(self.advice)
        frame.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Maximum)
        return frame

    def _place_side(self) -> None:
        beside = column(self.side, 6)
        beside.addWidget(words("Scenes", "title"))
        self.list = QListWidget()
        self.list.setAccessibleName("Scenes")
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        for scene in self.stand.scenes:
            item = QListWidgetItem(scene.title)
            item.setData(Qt.ItemDataRole.UserRole, scene.key)
            self.list.addItem(item)
        free = QListWidgetItem("Free: the route in hand, as an evening goes")
        free.setData(Qt.ItemDataRole.UserRole, FREE)
        self.list.addItem(free)
        self.list.setCurrentRow(0)
        self.list.currentItemChanged.connect(lambda item, _before: self._choose(item))
        self.list.itemActivated.connect(lambda _item: self.stand.time.toggle())
        beside.addWidget(self.list, 3)
        self.story = words("", wrap=True)
        self.look = words("", "second", wrap=True)
        beside.addWidget(self.story)
        self.look_head = words("Look at this", "title")
        beside.addWidget(self.look_head)
        beside.addWidget(self.look)
        self.right = words("", wrap=True)
        beside.addWidget(self.right)
        self.by_hand = button(
            "Now you: key it yourself", self._do_it, tip="The same scene from its beginning; you hold the key"
        )
        beside.addLayout(rows_of(self.by_hand))
        beside.addWidget(words("You hear and see", "title"))
        self.heard = words("", "second", wrap=True)
        self.heard.setAlignment(Qt.AlignmentFlag.AlignTop)
        beside.addWidget(self.heard, 1)

    # what happens

    def log_overs(self) -> None:
        """Write the overs keyed so far into the log, marked as simulated; only those on one's own plan belong there."""
        from umbra_awl.core.logbook.from_play import entries_of_play

        stand, bench = self.stand, self._bench
        if stand.play is None or stand.laid is None or not (stand.own or stand.free):
            bench.say("This is the practice plan: its routes are not yours. Play on your own plan to log it.", "stop")
            return
        book, began = self._book(), bench.clock.utc() - timedelta(seconds=stand.now)
        run = f"{stand.scene.key}-{stand.seed}-{bench.radio_key}-{bench.clock.utc():%Y%m%d}"
        taken = [item.key for item in book.entries]
        made = entries_of_play(bench.index, stand.laid.setting.radio, stand.play.keyer.done, began, run, taken)
        if made:
            book.add(made, f"Log {counted(len(made), 'simulated over')}")
        else:
            bench.say("No over of yours has ended since it was logged last. Hold the key, and let go.", "stop")

    def _choose(self, item: QListWidgetItem | None) -> None:
        if item is not None:
            self.stand.choose(item.data(Qt.ItemDataRole.UserRole))

    def _key(self, what: str) -> None:
        acts: dict[str, Callable[[], object]] = {
            "up": partial(self.stand.do, "turn", "-1"),
            "down": partial(self.stand.do, "turn", "1"),
            "zone up": partial(self.stand.do, "zone", "-1"),
            "zone down": partial(self.stand.do, "zone", "1"),
            "back": self.stand.time.back,
            "forward": self.stand.time.forward,
            "toggle": self.stand.time.toggle,
            "begin": self.stand.restart,
        }
        acts[what]()

    def _plan_moved(self) -> None:
        """One's own plan, or the radio in hand, is another one."""
        if (self.stand.own or self.stand.free) and self._bench.worked.fresh:
            self.stand.restart()

    def refresh(self) -> None:
        """Show the scene, its state and its speed."""
        stand = self.stand
        self.title.setText("Free play" if stand.free else stand.scene.title)
        radio = stand.laid.setting.index.radios[stand.laid.setting.radio].name if stand.laid is not None else ""
        where = f"{radio}, seed {stand.seed}. " if radio else ""
        self.told.setText(f"{where}{_CAUTION}")
        one_of([self.on_practice, self.on_own], int(stand.own or stand.free))
        self.on_practice.setEnabled(not stand.free)
        free = "Whatever the evening brings, on the route in hand. Hold the key, turn the knob."
        self.story.setText(stand.trouble or (free if stand.free else stand.scene.story))
        restyle(self.story, "role", "stop" if stand.trouble else "")
        self._show_end()
        self.run.setText("Hold time" if stand.time.running else "Run")
        self.run.setEnabled(stand.play is not None)
        chosen_of(self.speeds, stand.time.speed)
        if stand.play is not self.picture.play or stand.lanes != self.picture.lanes:
            span = None if stand.laid is None else min(60 * stand.laid.scene.minutes, _SPAN_S * stand.time.speed)
            self.picture.show_play(stand.play, stand.lanes, span)
        self.front.refresh()
        self._ticked()

    def _show_end(self) -> None:
        """What to look at; at the scene's end what was seen, and what to do right."""
        stand = self.stand
        self._ended = stand.over
        plain = stand.free or bool(stand.trouble)
        ended = stand.over and stand.play is not None and not plain
        seen = "\n".join(outcome(stand.play)) if ended and stand.play is not None else stand.scene.look
        self.look_head.setText("What was seen" if ended else "Look at this")
        self.look.setText("" if plain else seen)
        self.right.setText(f"Do it right: {stand.scene.right}" if ended else "")
        for part in (self.look_head, self.look):
            part.setVisible(not plain)
        self.right.setVisible(ended)
        self.by_hand.setVisible(ended)
        if ended:
            self.picture.show_span(stand.now)

    def _do_it(self) -> None:
        """The scene anew by one's own hand; the keyboard goes to the lanes, where Space talks."""
        self.stand.by_hand()
        self.picture.setFocus()

    def _ticked(self) -> None:
        self.picture.update()
        self.front.show_screen()
        play = self.stand.play
        told = "\n".join(_heard(play.book)) if play is not None else ""
        told = told or "Nothing yet."
        if told != self.heard.text():
            self.heard.setText(told)
            self.picture.describe()
        if self.stand.over != self._ended:
            self._show_end()
        if self.key.isDown() != self.stand.holding:
            self.key.setDown(self.stand.holding)
        self._show_advice()

    def _show_advice(self) -> None:
        shown = tuple(self.stand.advice.said[-2:])
        if shown == self._advice_shown:
            return
        self._advice_shown = shown
        clear(self._advice_lines)
        for item in reversed(shown):
            line = row(gap=6)
            line.addWidget(words(item.words, "brass", wrap=True), 1)
            line.addWidget(button("I know", partial(self.stand.advice.know, item.key), tip="It is not said again"))
            self._advice_lines.addLayout(line)
        if not shown:
            hint = "Space talks on the lanes · arrows turn the knob and step in time · Return runs or holds"
            self._advice_lines.addWidget(words(hint, "second", wrap=True))

    def take_focus(self) -> None:
        """Give the keyboard to the lanes."""
        self.picture.setFocus()

    def reach(self, field: str) -> bool:
        """The list of scenes."""
        if field == "scenes":
            self.list.setFocus()
        return field == "scenes"

    def hideEvent(self, event: object) -> None:
        """Nobody looks: time is held, the key is let go."""
        self.stand.release()
        self.stand.time.pause()
        super().hideEvent(event)  # type: ignore[arg-type]


def _heard(book: Book) -> list[str]:
    """The latest of what is heard and what has changed, the newest first."""
    found: list[Sound | LaneNote] = [*book.sounds[-_MOST_HEARD:], *book.notes[-_MOST_HEARD:]]
    found.sort(key=lambda item: -item.at)
    return [f"{item.at:.0f} s  {item.words}" for item in found[:_MOST_HEARD]]
