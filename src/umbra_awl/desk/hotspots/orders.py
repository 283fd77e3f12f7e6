"""What a hotspot in hand is told to do: take settings, link, take passwords, and the simulated radio beside it be keyed."""

from collections.abc import Callable
from functools import partial
from typing import TYPE_CHECKING, NamedTuple

from PyQt6.QtCore import QTimer

from umbra_awl.core.hotspot.logs.reading import LogReading, read_log_bytes
from umbra_awl.core.hotspot.match.layout import SettingsLayout, asked_keys, write_settings
from umbra_awl.core.hotspot.match.says import plan_says
from umbra_awl.core.hotspot.match.sending import sending_refusal
from umbra_awl.core.hotspot.seek.talk import Over, Status, Talk
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.parts import HOTSPOTS

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.spot import Spot

_ASK_MS, _MOST_ASKS = 3_000, 60


class KeyedHotspot(NamedTuple):
    """A hotspot with its page's password, and what the device calls itself that the password was given to."""

    talk: Talk
    name: str


def with_key(opened: KeyedHotspot, layout: SettingsLayout) -> Talk:
    """The hotspot to be changed, once that very device has answered; with the password that it came with while it has that.

    Raises HotspotError.
    """
    talk = opened.talk.proven(opened.name) if opened.name else opened.talk._replace(key="")
    if talk.key or not talk.status().default_password:
        return talk
    return talk._replace(key=next((key.words.get("default", "") for key in layout.key if key.field == "password"), ""))


class SpotOrders:
    """Gives orders to the hotspot in hand, in the background; each asks first whether it may be given."""

    def __init__(self, spot: "Spot") -> None:
        self._spot = spot
        self._asks_left = 0
        self._again = QTimer(spot)
        self._again.setInterval(_ASK_MS)
        self._again.timeout.connect(self._ask_again)

    def forget(self) -> None:
        """Another hotspot is in hand: this one is not waited for."""
        self._again.stop()

    def _opened(self) -> "KeyedHotspot":
        """The same with its page's password, for what changes it, and the name of the device that it belongs to."""
        name = self._spot.status.name if self._spot.status is not None else ""
        key = self._spot.password or self._spot.secrets.get(self._spot.page_secret)
        return KeyedHotspot(Talk(self._spot.address, key, words=self._spot.words_here), name)

    def _unproven(self) -> bool:
        """Whether nothing that was asked there has answered as a hotspot yet; says so."""
        unproven = self._spot.status is None or not self._spot.answered_here
        if unproven:
            self._spot.bench.say(
                "Nothing has answered as this hotspot yet. Ask it first; a password goes to nobody else.", "stop"
            )
        return unproven

    def _refused(self) -> bool:
        """Whether it must not be set to send now; says why."""
        hotspot, access = self._spot.hotspot, self._spot.access
        why = (
            sending_refusal(self._spot.bench.index, access, hotspot)
            if access is not None and hotspot is not None
            else ""
        )
        if why:
            self._spot.bench.say(why, "stop")
        return bool(why)

    def _wait_until_up(self) -> None:
        """Ask now and then until it has started, for some minutes at the most."""
        self._asks_left = _MOST_ASKS
        self._again.start()

    def _ask_again(self) -> None:
        self._asks_left -= 1
        up = self._spot.status is not None and self._spot.status.up
        if up or not self._asks_left or not self._spot.key:
            self._again.stop()
        elif not self._spot.running:
            self._spot.ask()

    def apply(self) -> None:
        """Hand over what the plan says; it restarts then."""
        hotspot, access = self._spot.hotspot, self._spot.access
        if hotspot is None or access is None:
            return
        if self._refused():
            return
        if asked_keys(self._spot.layout):
            self._spot.bench.say(
                "The layout was guessed from a file and is not confirmed: nothing was set. Ask the hotspot first.",
                "stop",
            )
            return
        talk, layout, values = self._opened(), self._spot.layout, plan_says(self._spot.bench.index, access, hotspot)
        rules, today = self._spot.rules, self._spot.bench.clock.today()

        def work() -> tuple[Status, str, LogReading]:
            opened = with_key(talk, layout)
            opened.apply(write_settings(opened.settings(), layout, values))
            return opened.status(), opened.settings(), read_log_bytes(opened.log(), rules, today)

        def done(found: tuple[Status, str, LogReading]) -> None:
            self._spot.take(found)
            self._spot.said = "Applied. It restarts now, about a minute; only then the start-up link can be chosen."
            self._wait_until_up()

        self._spot.work.run(work, done)

    def link(self, target: str) -> None:
        """Have it link; it refuses until it is up."""
        if self._refused():
            return
        talk, layout = self._opened(), self._spot.layout
        self._spot.work.run(
            lambda: with_key(talk, layout).link(target), partial(self._took_status, f"Linked to {target}.")
        )

    def give_key(self, new: str) -> None:
        """Give its page another password, and keep that in the system's key store where there is one."""
        if self._unproven():
            return
        talk, layout = self._opened(), self._spot.layout

        def done(status: Status) -> None:
            kept = self._spot.secrets.keep(self._spot.page_secret, new)
            self._spot.password = new
            where = "in the system's key store" if kept else "for this run only"
            self._took_status(f"Its page has a password of its own now, kept {where}.", status)
            sentence = "Note that the hotspot's page has a password of its own"
            self._spot.bench.do(set_fields(HOTSPOTS, self._spot.key, sentence, locked=True))

        self._spot.work.run(lambda: with_key(talk, layout).set_key(new), done)

    def give_secret(self, new: str) -> None:
        """Give it the password for its master; it restarts then, and sends."""
        if self._refused() or self._unproven():
            return
        talk, layout = self._opened(), self._spot.layout
        said = "It has the master's password now, and restarts: about a minute."

        def done(status: Status) -> None:
            self._took_status(said, status)
            self._wait_until_up()

        self._spot.work.run(lambda: with_key(talk, layout).set_secret(new), done)

    def key_up(self, told: dict[str, str], done: Callable[[Over], None]) -> None:
        """Key the simulated radio beside a simulated hotspot, and read its log."""
        talk, rules, today = self._spot.talk(), self._spot.rules, self._spot.bench.clock.today()

        def work() -> tuple[Over, Status, LogReading]:
            over = talk.over(told)
            return over, talk.status(), read_log_bytes(talk.log(), rules, today)

        def over_done(found: tuple[Over, Status, LogReading]) -> None:
            over, self._spot.status, self._spot.log = found
            done(over)

        self._spot.work.run(work, over_done)

    def _took_status(self, said: str, status: Status) -> None:
        self._spot.status, self._spot.said = status, said
