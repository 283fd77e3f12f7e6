"""What the lanes show of a simulation: bars of overs, notes, sounds and cuts, where somebody keeps a book."""

from typing import TYPE_CHECKING

from umbra_awl.core.simulation.ears import Heard
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import NETWORK, RADIO, Cut, LaneBar, LaneNote, Sound, Tone

if TYPE_CHECKING:
    from umbra_awl.core.simulation.world import World


_UNHEARD = {
    "group list": "silent: not in its list",
    "other slot": "silent: other slot",
    "decoder taken": "decoder taken",
    "another call": "has another call",
    "scan elsewhere": "scan is elsewhere",
}


_BURST = "A burst of noise: somebody digital is on the frequency."


class DrawnLanes:
    """Draws into the book of a world; without a book nothing is drawn."""

    def __init__(self, owner: "World") -> None:
        self._world = owner
        self.bars: dict[tuple[TalkGroupPost, str], LaneBar] = {}

    def name(self, group: str) -> str:
        """A group as people say it."""
        destination = self._world.setting.index.destinations.get(group.partition(" ")[0])
        return destination.name if destination is not None else group

    def short(self, group: str) -> str:
        """A group as a bar has room for it: its number, else its name."""
        destination = self._world.setting.index.destinations.get(group.partition(" ")[0])
        if destination is None:
            return ""
        return str(destination.number) if destination.number is not None else destination.name

    def bar(self, lane: str, talk: TalkGroupPost, text: str, early_s: float = 0.0, tone: Tone | None = None) -> None:
        """Begin a bar of an over in a lane, in the tone of whose over it is unless told otherwise."""
        if self._world.book is not None:
            usual: Tone = "you" if talk.mine else "echo" if talk.origin == "echo" else "others"
            if lane.startswith("far") and not talk.mine:
                usual = "far"
            self.bars[talk, lane] = self._world.book.begin(
                lane, self._world.now - early_s, text, tone or usual, talk.number
            )

    def close(self, lane: str, talk: TalkGroupPost, late_s: float = 0.0) -> None:
        """End a bar."""
        bar = self.bars.pop((talk, lane), None)
        if bar is not None:
            bar.end = max(self._world.now + late_s, bar.start)

    def close_all(self, talk: TalkGroupPost) -> None:
        """End all bars of an over."""
        latency = self._world.setting.figures["latency_s"]
        for one, lane in tuple(self.bars):
            if one is talk:
                self.close(lane, talk, -latency if lane.startswith("far") else 0.0)

    def draw_far(self, talk: TalkGroupPost) -> None:
        """Begin the bars of somebody who speaks on the network."""
        lanes = self._world.setting.far.get(talk.group, ())
        latency = self._world.setting.figures["latency_s"]
        if talk.origin != "net":
            return
        if lanes:
            self.bar(lanes[talk.number % len(lanes)], talk, f"{talk.who} speaks", latency)
        self.bar(NETWORK, talk, f"{talk.who} {self.short(talk.group)}")

    def doubled(self, talk: TalkGroupPost) -> None:
        """Somebody else keyed in the same moment: only one of them is decoded."""
        if self._world.book is not None:
            self._world.book.cuts.append(
                Cut(talk.number, self._world.now, NETWORK, "doubling: another keyed too, and only one is heard")
            )

    def note(self, lane: str, words: str) -> None:
        """Something changed in a lane."""
        if self._world.book is not None:
            self._world.book.notes.append(LaneNote(self._world.now, lane, words))

    def draw_unheard(self, talk: TalkGroupPost, call: Heard) -> None:
        """A call that is on the air where the radio listens, and that it does not let through: why."""
        receiver = self._world.receiver
        if receiver.talk is talk or receiver.sending:
            return
        if receiver.unheard.hears_noise(call):
            self.bar(RADIO, talk, "noise", tone="lost")
            assert self._world.book is not None  # noqa: S101  (asked before)
            self._world.book.sounds.append(Sound(self._world.now, "noise", _BURST))
        elif (why := _UNHEARD.get(receiver.unheard.why_not(call))) is not None:
            self.bar(RADIO, talk, why, tone="lost")

    def hush(self, *, sending: bool) -> None:
        """The radio begins to send, and what it lets go by is no longer drawn; or it has let go, and what is there is."""
        if self._world.book is None:
            return
        for talk, call in tuple(self._world.receiver.air.items()):
            if sending:
                self.close(RADIO, talk)
            elif (talk, RADIO) not in self.bars:
                self.draw_unheard(talk, call)

    def radio_changed(self, talk: TalkGroupPost, begins: bool) -> None:
        """The radio lets another over be heard, or none."""
        if self._world.book is None:
            return
        self.close(RADIO, talk)
        if begins:
            self.bar(RADIO, talk, f"{talk.who} {self.short(talk.group)}".strip())
