"""What the picture in hand costs on the channel in hand: computed, and shown in three lines."""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.messages.cost import Cost, Means, cost_of, cost_words, seconds_words
from umbra_awl.core.messages.legible import READABLE
from umbra_awl.core.messages.permit import Power, least_power
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.messages.in_hand import PictureInHand
from umbra_awl.desk.onair.messages.way_line import WayLine
from umbra_awl.desk.parts.widgets import column, words

if TYPE_CHECKING:
    from umbra_awl.core.asked.figure import Figure

_USUAL_LOSS = 0.2


class PicturePrice(QWidget):
    """Bytes, blocks, airtime and power of the picture in hand, and what one size or one quality less would save."""

    def __init__(self, bench: Workbench, way: WayLine, hand: PictureInHand, loss: Callable[[], float]) -> None:
        super().__init__()
        self.bench, self.way, self.hand, self._loss = bench, way, hand, loss
        self.price = words("", wrap=True)
        self.more = words("", "second", wrap=True)
        self.told = words("", "brass", wrap=True)
        lines = column(self, 6, 0)
        for made in (self.price, self.more, self.told):
            lines.addWidget(made)

    def power(self) -> Power | None:
        """The power proposed on the channel in hand."""
        profile, route = self.way.profile, self.way.route
        if profile is None or route not in self.bench.index.routes:
            return None
        access = self.bench.index.parts(self.bench.index.routes[route])[0]
        return least_power(self.bench.index, profile, access)

    def cost(self) -> Cost | None:
        """What sending it costs on the channel in hand."""
        return self._cost_of(len(self.hand.seen.small.data)) if self.hand.seen is not None else None

    def _cost_of(self, size: int) -> Cost | None:
        seen, going, profile, power = self.hand.seen, self.way.going, self.way.profile, self.power()
        if seen is None or going is None or profile is None or power is None or not going.carrier.pictures:
            return None
        loss = self._loss() or _USUAL_LOSS
        return cost_of(size, Means(going.carrier, going.speed, profile, power.step, loss))

    def _less_words(self, seconds: float) -> str:
        """What one size or one quality less would save, both computed."""
        said = []
        for item in self.hand.seen.less if self.hand.seen is not None else ():
            cost = self._cost_of(item.size)
            if cost is not None:
                said.append(f"{item.words} {seconds_words(cost.seconds)}")
        return f"In place of {seconds_words(seconds)}: {', '.join(said)}." if said else ""

    def figures(self) -> "list[Figure]":
        """The airtime of the picture in hand."""
        from umbra_awl.core.asked.estimates import airtime_figure

        seen, going = self.hand.seen, self.way.going
        if seen is None or going is None or self.cost() is None:
            return []
        carrier, size = going.carrier, len(seen.small.data)
        return [airtime_figure(size, carrier.rate_bps(going.speed), 0.0, f"{carrier.words}, {going.speed}")]

    def refresh(self) -> None:
        """Show what the picture in hand costs now."""
        hand, cost, power = self.hand, self.cost(), self.power()
        left = f"Left behind: {', '.join(hand.opened.told)}." if hand.opened is not None and hand.opened.told else ""
        self.told.setText(left)
        self.told.setVisible(bool(left))
        if hand.seen is None:
            self.price.setText("What it costs stands here: bytes, blocks, airtime, battery.")
            self.more.setText("")
            return
        small, kept = hand.seen.small, hand.seen.kept
        head = f"{small.width} × {small.height}, {small.quality}: {len(small.data):,} bytes"
        print_ = f"Fine detail kept {100 * kept:.0f} %; print is usually readable from {100 * READABLE:.0f} % on."
        if cost is None or power is None:
            self.price.setText(f"{head}.")
            self.more.setText(print_)
            return
        first, second = cost_words(cost)
        self.price.setText(f"{head}, {first}")
        less = self._less_words(cost.seconds)
        self.more.setText(f"{less} {print_} {second} Least power: {power.watts:g} W, {power.why}.")
