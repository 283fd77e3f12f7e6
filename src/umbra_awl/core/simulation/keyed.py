"""One key-up in the simulation."""

from umbra_awl.core.simulation.after import AfterTarget
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.told import Cut
from umbra_awl.core.trace.model import HopKind, Trace


class Keyed:
    """A key-up while it lasts: how far it has come, and who has heard it."""

    def __init__(self, target: AfterTarget, talk: TalkGroupPost, said: Trace) -> None:
        self.target, self.talk, self.trace = target, talk, said
        self.stopped: Cut | None = None
        self.reached: HopKind = "radio"
        self.released = False
        self.timed_out = False
        self.heard_by: list[str] = []
        self.lanes: list[tuple[str, float]] = []
