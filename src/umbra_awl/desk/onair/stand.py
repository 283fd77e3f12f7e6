"""What is played on the lanes: the scene in hand, on the practice plan or on one's own, its clock, and what hands do to it."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date
from functools import cache

from PyQt6.QtCore import QObject, pyqtSignal

from umbra_awl.core.fit.fitting import Fit, fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.simulation.fitting_route import SceneNeeds
from umbra_awl.core.simulation.play import Lane, Play, What, lanes_of
from umbra_awl.core.simulation.scenes import Laid, Scene, lay_out, shipped_scenes
from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting, make_setting
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.play_advice import PlayAdvice
from umbra_awl.desk.onair.play_time import PlayTime
from umbra_awl.desk.settings import Settings

SPEEDS = (1, 2, 4, 10, 60)
FREE = "free"
"""The scene that is none: the channel in hand, as the evening brings it."""


@cache
def practice(today: date) -> tuple[PlanIndex, dict[str, Fit]]:
    """The plan that scenes are shown on, with its fits."""
    index, profiles = PlanIndex(demo_plan(today), today), shipped_profiles()
    return index, {item.key: fit(index, item, profiles[item.profile]) for item in index.plan.radios}


class Stand(QObject):
    """One play at a time. `changed` tells of another scene or state, `ticked` of time that went on."""

    changed = pyqtSignal()
    ticked = pyqtSignal()

    def __init__(self, bench: Workbench, settings: Settings) -> None:
        super().__init__()
        self._bench, self.settings = bench, settings
        self.scenes: tuple[Scene, ...] = shipped_scenes()
        self.scene: Scene = self.scenes[0]
        self.free = False
        self.own = False
        self.shown = True
        """Whether the shown operator keys; else it is left to whoever sits here."""
        self.seed = 7
        self.advice = PlayAdvice(self)
        self.time = PlayTime(self)
        self.laid: Laid | None = None
        self.play: Play | None = None
        self.lanes: tuple[Lane, ...] = ()
        self.trouble = ""
        self.holding = False

    # choosing

    def choose(self, key: str) -> None:
        """Take another scene in hand, from its beginning; “free” is the route in hand without any scene."""
        self.free = key == FREE
        self.scene = next((item for item in self.scenes if item.key == key), self.scene)
        self.time.speed = 1.0 if self.free else self.scene.speed
        self.shown = True
        self.restart()

    def by_hand(self) -> None:
        """The same scene from its beginning, keyed by whoever sits here, with time going on."""
        self.shown = False
        self.restart()
        self.time.run()

    def another_seed(self) -> None:
        """The same scene on another evening."""
        self.seed += 1
        self.restart()

    def on_own_plan(self, own: bool) -> None:
        """Play on one's own plan, or on the practice plan."""
        self.own = own
        self.restart()

    def restart(self) -> None:
        """Lay the scene out anew, and stand at its beginning."""
        self.time.pause()
        self.advice.said.clear()
        self.holding = False
        self.trouble, self.laid, self.play = "", None, None
        try:
            self.laid = self._free() if self.free else self._scene()
        except NoSetting as error:
            self.trouble = str(error)
        if self.laid is not None:
            self.play = self.laid.play(self.seed, shown=self.shown)
            self.lanes = lanes_of(self.laid.setting, self.laid.seen)
        self.changed.emit()

    def _scene(self) -> Laid:
        bench = self._bench
        if not self.own:
            index, fits = practice(bench.clock.today())
            return lay_out(self.scene, index, fits, shipped_profiles().get, "tarn")
        if not bench.worked.fresh:
            raise NoSetting("The plan is just being worked out anew. Choose the scene again.")
        profiles: Callable[[str], object] = bench.profiles.get
        return lay_out(self.scene, bench.index, bench.worked.results.fits, profiles, bench.radio_key)  # type: ignore[arg-type]

    def _free(self) -> Laid:
        """The route in hand, or the radio's first, with whatever the evening brings."""
        bench = self._bench
        found = bench.worked.results.fits.get(bench.radio_key) if bench.worked.fresh else None
        if found is None or not found.memory.channels:
            raise NoSetting("This radio has no channel yet. Punch a hole at Routes, or choose another radio.")
        in_hand = bench.route.key if bench.route is not None else ""
        keys = [channel.route for channel in found.memory.channels if channel.route in bench.index.routes]
        first = in_hand if in_hand in keys else next(iter(keys), "")
        choice = ListeningChoice(bench.radio_key, (first, *(key for key in keys if key != first)), whole=True)
        setting = replace(
            make_setting(bench.index, bench.worked.results.fits, choice),
            profile=bench.profiles.get(bench.index.radios[bench.radio_key].profile),
        )
        scene = Scene(FREE, "Free play", "", "", 60.0, SceneNeeds((), ()))
        return Laid(scene, setting, first, first, (), ())

    # time

    @property
    def over(self) -> bool:
        """Whether the scene has come to its end."""
        return self.laid is not None and self.now >= 60 * self.laid.scene.minutes

    @property
    def now(self) -> float:
        """Seconds since the beginning."""
        return self.play.now if self.play is not None else 0.0

    def stand_at(self, moment: float) -> None:
        """Go on to a moment, in seconds since the beginning."""
        if self.play is not None:
            self.go_to(moment)

    def go_to(self, moment: float) -> None:
        assert self.play is not None
        before = len(self.play.keyer.done)
        self.play.advance(moment)
        if len(self.play.keyer.done) != before or self.play.keyer.now_keyed is None:
            self.advice.advise()
        self.ticked.emit()

    # hands

    def do(self, what: What, value: str = "") -> None:
        """Do something to the radio, now. What the shown operator would have done from here on is left out."""
        if self.play is not None:
            self.play.do(what, value)
            self.advice.advise()
            self._follow()
            self.ticked.emit()

    def _follow(self) -> None:
        """In free play the lanes are those of the access point that the knob is on."""
        if self.laid is None or self.play is None or not self.free:
            return
        lanes = lanes_of(self.laid.setting, self.play.controls.channel.route or self.laid.seen)
        if lanes != self.lanes:
            self.lanes = lanes
            self.changed.emit()

    def press(self) -> None:
        """Hold the key; time goes on by itself then."""
        if self.play is not None and not self.holding:
            self.holding = True
            self.do("press")
            if not self.time.running:
                self.time.run()

    def release(self) -> None:
        """Let go of the key."""
        if self.holding:
            self.holding = False
            self.do("release")

    # advice
