"""A picture to send: what arrives is seen before, with its price; sent block by block, and gone on with after a break."""

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtWidgets import QFrame, QLineEdit, QProgressBar, QVBoxLayout

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.messages.blocks import Arrived, Outgoing, make_offer
from umbra_awl.core.messages.cost import seconds_words
from umbra_awl.core.messages.history import utc_stamp
from umbra_awl.core.messages.picture import QUALITIES, SIZES, Small
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.onair.messages.air_job import AirJob
from umbra_awl.desk.onair.messages.crop_picture import CropPicture
from umbra_awl.desk.onair.messages.in_hand import PictureInHand
from umbra_awl.desk.onair.messages.picture_price import PicturePrice
from umbra_awl.desk.onair.messages.picture_sources import PictureSources
from umbra_awl.desk.onair.messages.way_line import WayLine
from umbra_awl.desk.parts.tabs import chosen_of
from umbra_awl.desk.parts.widgets import Flow, button, column, restyle, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from umbra_awl.core.facts.coast import Coast


class Given(NamedTuple):
    """What the page gives: on what it goes out, to whom, the share of blocks lost on the bench, the coastline for a map."""

    way: WayLine
    to: QLineEdit
    loss: Callable[[], float]
    coast: "Callable[[], Coast]"


class PictureCard(QFrame):
    """Where a picture comes from, its size and price, and sending it; what arrives of it is `picture`, which the page places."""

    def __init__(self, bench: Workbench, theme: Theme, air: AirJob, given: Given) -> None:
        super().__init__()
        self.sources = PictureSources(self)
        self.setProperty("role", "card")
        self.bench, self._theme, self.air = bench, theme, air
        self.way, self.to, loss, self.coast = given
        self.hand = PictureInHand(bench)
        self.price = PicturePrice(bench, self.way, self.hand, loss)
        self.asked = False
        self.picture = CropPicture(theme)
        self.picture.cropped.connect(self.hand.take_crop)
        self.picture.dropped.connect(lambda name: self.hand.open(Path(name)))
        inner = column(self, 6, 10)
        inner.addLayout(self.sources.source_line())
        inner.addLayout(self._set_line())
        self._add_cost(inner)
        self.to.textChanged.connect(lambda _text: self._another())
        self.hand.changed.connect(self._another)
        self.hand.opened_one.connect(self.picture.setFocus)
        self.way.changed.connect(self.refresh)
        air.changed.connect(self.refresh)

    def _set_line(self) -> Flow:
        hand = self.hand
        self.sizes = {size: button(f"{size[0]} × {size[1]}", partial(hand.set_size, size), "segment") for size in SIZES}
        self.qualities = {key: button(key, partial(hand.set_quality, key), "segment") for key in QUALITIES}
        tip = "The fewest bytes at which the fine print stays readable"
        self.least = button("Smallest readable", hand.find_least, tip=tip)
        return rows_of(*self.sizes.values(), *self.qualities.values(), self.least, gap=4)

    def _add_cost(self, inner: QVBoxLayout) -> None:
        inner.addWidget(self.price)
        line = row(gap=8)
        self.fault = words("", "second", wrap=True)
        line.addWidget(self.fault, 1)
        line.addWidget(ask_button(self.bench))
        self.progress = QProgressBar()
        self.progress.setMaximumWidth(self._theme.px(160))
        self.progress.setTextVisible(False)
        line.addWidget(self.progress)
        self.no = button("Not yet", self._take_back)
        line.addWidget(self.no)
        self.yes = button("Send", self.send, "main")
        line.addWidget(self.yes)
        inner.addLayout(line)

    def _another(self) -> None:
        self.asked = False
        self.refresh()

    # sending

    @property
    def trouble(self) -> str:
        """Why it cannot go out just now; empty when it can."""
        if self.way.refusal:
            return self.way.refusal
        if self.hand.seen is None:
            return "Open a picture first."
        if self.to.text().strip() and (fault := call_sign_fault(self.to.text().strip())):
            return fault
        if not self.air.on:
            return "The bench is off. Switch it on beside, then send."
        return f"Just sending {self.air.sending}." if self.air.sending else ""

    def send(self) -> None:
        """Ask once more; the second time, send. While it goes, stop it; after a break, go on."""
        if self.air.sending == "a picture":
            self.air.out.cancel()
            return
        trouble, seen = self.trouble, self.hand.seen
        if trouble or seen is None:
            self.bench.say(trouble, "stop")
            return
        out = self.air.outgoing if self._broken() else None
        if not self.asked and out is None:
            self.asked = True
            self.refresh()
            return
        self.asked = False
        outgoing = out or self._fresh(seen.small)
        kept = partial(
            self.air.kept.history.keep_picture,
            Arrived(outgoing.offer, seen.small.data),
            "mine",
            self._stamp(),
        )
        self.air.out.send_picture(outgoing, kept, self.way.ask_again(), self.way.rate_bps)

    def _stamp(self) -> str:
        return utc_stamp(self.bench.clock.utc())

    def _fresh(self, small: Small) -> Outgoing:
        radio = self.bench.radio
        identity = self.bench.index.owners.identity_of(radio) if radio is not None else None
        call, size = identity.call if identity is not None else "", (small.width, small.height)
        return Outgoing(small.data, make_offer(small.data, call, self._to, size, small.quality, self._stamp()))

    @property
    def _to(self) -> str:
        """To whom; empty for all."""
        return tidy_call_sign(self.to.text()) if self.to.text().strip() else ""

    def _broken(self) -> bool:
        """Whether the picture in hand broke off, and can be gone on with."""
        out, seen = self.air.outgoing, self.hand.seen
        if out is None or seen is None or out.state == "done" or not out.turns:
            return False
        same = make_offer(seen.small.data, "", "", (1, 1), "").sha256 == out.offer.sha256
        return same and out.offer.to == self._to

    def _take_back(self) -> None:
        self.asked = False
        self.refresh()

    # showing

    def refresh(self) -> None:
        """Show the picture, what arrives, what it costs, and how far it is."""
        hand = self.hand
        chosen_of(self.sizes, hand.within)
        chosen_of(self.qualities, hand.quality)
        self.least.setEnabled(hand.opened is not None)
        self.picture.show_pictures(hand.whole, hand.arrives, hand.crop)
        self.price.refresh()
        self._show_state()

    def _show_state(self) -> None:
        air, out = self.air, self.air.outgoing
        sending, broken = air.sending == "a picture", self._broken()
        self.progress.setVisible(sending or broken)
        if out is not None:
            self.progress.setMaximum(out.offer.blocks)
            self.progress.setValue(len(out.have))
        self.no.setVisible(self.asked)
        self.yes.setText("Stop" if sending else "Go on" if broken else "Yes, send it" if self.asked else "Send")
        asks = "A last yes: is the frequency free, and the far side ready?" if self.asked else ""
        trouble = "" if sending else self.trouble if self.hand.opened is not None or self.way.refusal else ""
        self.fault.setText(self._going_words() if sending else air.fault or trouble or asks)
        stop = bool(air.fault or trouble) and not sending
        restyle(self.fault, "role", "stop" if stop else "brass" if self.asked else "second")

    def _going_words(self) -> str:
        now = self.air.progress
        if now is None:
            return "It is offered to the far side."
        again = max(0, now.sent - now.have)
        return f"{now.have} of {now.all} blocks are there, {again} sent again, {seconds_words(now.seconds)} of airtime."

    def take_focus(self) -> None:
        """Give the keyboard to the picture, or to opening one."""
        (self.picture if self.hand.opened is not None else self.sources.open_it).setFocus()
