"""What happened, as the lanes show it: bars, cuts, sounds, what a display shows. Times in seconds from the beginning."""

from typing import Literal, NamedTuple

Tone = Literal["you", "others", "far", "lost", "echo"]
SoundKind = Literal["denied", "error", "beep", "voice", "speech", "noise", "echo", "morse", "quiet"]
YOU, RADIO, GATEWAY, NETWORK = "you", "radio", "gateway", "network"


def access_lane(service: str, slot: int) -> str:
    """The lane of one slot of an access point's service; slot 0 where it has none."""
    return f"access {service} {slot}"


def far_lane(place: str) -> str:
    """The lane of a far place."""
    return f"far {place}"


class LaneBar:
    """One over in one lane; `end` is None while it lasts."""

    __slots__ = ("end", "lane", "over", "start", "text", "tone")

    def __init__(self, lane: str, start: float, text: str, tone: Tone, over: int) -> None:
        self.lane, self.start, self.text, self.tone, self.over = lane, start, text, tone, over
        self.end: float | None = None

    def as_tuple(self) -> tuple[str, float, float | None, str, str, int]:
        """All of it as a value."""
        return (self.lane, self.start, self.end, self.text, self.tone, self.over)


class Cut(NamedTuple):
    """Where the thread of an over is cut: after which lane, towards which, and why, in short and in full."""

    over: int
    at: float
    lane: str
    reason: str
    detail: str = ""
    notice: str = ""


class Sound(NamedTuple):
    """Something heard: its kind, in words."""

    at: float
    kind: SoundKind
    words: str


class Screen(NamedTuple):
    """What the radio's display shows from a moment on: two lines."""

    at: float
    top: str
    bottom: str


class LaneNote(NamedTuple):
    """Something that changed in a lane: joined, linked, dropped."""

    at: float
    lane: str
    words: str


class Book:
    """Collects what happens; without one a world runs the same and remembers nothing."""

    def __init__(self) -> None:
        self.bars: list[LaneBar] = []
        self.cuts: list[Cut] = []
        self.sounds: list[Sound] = []
        self.screens: list[Screen] = []
        self.notes: list[LaneNote] = []

    def begin(self, lane: str, at: float, text: str, tone: Tone, over: int) -> LaneBar:
        """Begin a bar."""
        bar = LaneBar(lane, at, text, tone, over)
        self.bars.append(bar)
        return bar

    def show(self, at: float, top: str, bottom: str) -> None:
        """Show other lines on the display."""
        if not self.screens or self.screens[-1][1:] != (top, bottom):
            self.screens.append(Screen(at, top, bottom))

    def events(self) -> tuple[tuple[object, ...], ...]:
        """Everything as one value, for comparing two runs."""
        bars = tuple(bar.as_tuple() for bar in self.bars)
        return (bars, tuple(self.cuts), tuple(self.sounds), tuple(self.screens), tuple(self.notes))
