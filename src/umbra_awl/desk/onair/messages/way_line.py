"""On which channel of which radio something is sent: chosen, with whether it may be, and what is done before."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QComboBox, QWidget

from umbra_awl.core.messages.permit import Going, What, etiquette, may_send
from umbra_awl.core.radio.profile import Profile
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.widgets import column, row, words
from umbra_awl.desk.theme.theme import Theme


def refusal_of(bench: Workbench, radio: str, route: str, what: What) -> str:
    """Why nothing may go out on a route of a radio; empty when it may. Worked out anew from the plan of this moment."""
    index, results = bench.index, bench.worked.results
    if not bench.worked.fresh or radio not in results.fits:
        return "The plan is just being worked out anew. Try again in a moment."
    profile = bench.profiles.get(index.radios[radio].profile) if radio in index.radios else None
    if profile is None or route not in index.routes:
        return "Choose a channel first."
    return may_send(index, results.fits, radio, route, profile, what).refusal


class WayLine(QWidget):
    """Radio and channel; `changed` tells of another choice, or of another answer to whether it may be."""

    changed = pyqtSignal()

    def __init__(self, bench: Workbench, theme: Theme, what: What) -> None:
        super().__init__()
        self._bench, self.what = bench, what
        outer = column(self, 4)
        outer.addWidget(RadioTabs(bench))
        line = row(gap=8)
        line.addWidget(words("Channel", "second"))
        self.channel = QComboBox()
        self.channel.setAccessibleName("Channel that it goes out on")
        self.channel.setMinimumWidth(theme.px(220))
        self.channel.currentIndexChanged.connect(lambda _at: self._look())
        line.addWidget(self.channel)
        line.addStretch(1)
        outer.addLayout(line)
        self.verdict = words("", "second", wrap=True)
        outer.addWidget(self.verdict)
        self.going: Going | None = None
        bench.results_changed.connect(self.refresh)
        bench.radio_changed.connect(self.refresh)
        self.refresh()

    def use(self, what: What) -> None:
        """Ask for texts, or for pictures, from now on."""
        self.what = what
        self._look()

    @property
    def route(self) -> str:
        """The route that is chosen; empty for none."""
        return str(self.channel.currentData() or "")

    @property
    def profile(self) -> Profile | None:
        """The profile of the radio."""
        radio = self._bench.radio
        return self._bench.profiles.get(radio.profile) if radio is not None else None

    @property
    def refusal(self) -> str:
        """Why nothing may go out; empty when it may."""
        return refusal_of(self._bench, self._bench.radio_key, self.route, self.what)

    @property
    def rate_bps(self) -> int:
        """The useful rate on what is chosen, with nobody speaking."""
        return self.going.carrier.rate_bps(self.going.speed) if self.going is not None else 0

    def ask_again(self) -> Callable[[], str]:
        """What is asked right before something goes out on what is chosen now: no widget is looked at, from whatever thread."""
        return partial(refusal_of, self._bench, self._bench.radio_key, self.route, self.what)

    def refresh(self) -> None:
        """Offer the channels of the radio in hand, those that carry data first."""
        found, chosen = self._bench.fit, self.route
        if found is None:
            return
        index = self._bench.index
        channels = [item for item in found.memory.channels if item.route in index.routes]
        channels.sort(key=lambda item: (item.mode == "fm", index.parts(index.routes[item.route])[2].kind != "local"))
        self.channel.blockSignals(True)
        self.channel.clear()
        for item in channels:
            self.channel.addItem(f"{item.name}   {index.labels.of(index.routes[item.route])}", item.route)
        self.channel.setCurrentIndex(max(0, self.channel.findData(chosen)))
        self.channel.blockSignals(False)
        self._look()

    def _look(self) -> None:
        bench, profile = self._bench, self.profile
        self.going = None
        if profile is not None and bench.worked.fresh and bench.fit is not None and self.route in bench.index.routes:
            self.going = may_send(
                bench.index, bench.worked.results.fits, bench.radio_key, self.route, profile, self.what
            )
        refusal = self.refusal
        carrier = self.going.carrier if self.going is not None else None
        rate = (
            f"{carrier.words}, {carrier.rate_bps(self.going.speed):,} bit/s"
            if carrier is not None and self.going
            else ""
        )
        self.verdict.setText(refusal or rate)
        self.verdict.setProperty("role", "stop" if refusal else "second")
        style = self.verdict.style()
        if style is not None:
            style.unpolish(self.verdict)
            style.polish(self.verdict)
        self.changed.emit()

    def etiquette(self) -> tuple[str, ...]:
        """What is done before and after."""
        return etiquette(self._bench.index, self.route, self.what) if self.route in self._bench.index.routes else ()
