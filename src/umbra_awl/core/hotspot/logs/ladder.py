"""The ladder of proof, weak to strong: on which rung a hotspot stands, by what can be seen and what the operator has noted."""

from collections.abc import Sequence
from typing import NamedTuple

from umbra_awl.core.hotspot.logs.reading import LogReading, own_overs
from umbra_awl.core.hotspot.seek.talk import Status
from umbra_awl.core.plan.edit.edits import Edit, set_fields
from umbra_awl.core.plan.model import Hotspot, Proof
from umbra_awl.core.plan.parts import HOTSPOTS


class Rung(NamedTuple):
    """A rung: what it is called, what it proves, what to do when one does not get there."""

    key: str
    words: str
    proves: str
    todo: str


RUNGS: tuple[Rung, ...] = (
    Rung("display", "Display names the Wi-Fi", "It found a network", "Look at Wi-Fi: names letter for letter"),
    Rung("listed", "Phone lists it as joined", "The password is right", "Sharing off and on, then the hotspot"),
    Rung("page", "Its page opens", "It has an address you can reach", "Find it: by name, by list, by looking"),
    Rung("passing", "Others' calls pass by", "Login and link work", "Read the log: login, master, start-up link"),
    Rung("beep", "A beep answers the key", "It hears you, and you it", "Frequency, color code, slot, mode"),
    Rung("line", "Your own line with BER", "Your ID and fields arrive", "Routing fields, ID, module letter"),
    Rung("echo", "The echo comes back", "There and back through the network", "Echo's number, private or group call"),
    Rung("answered", "Somebody answers", "Everything", "Another group, another hour"),
)
BY_KEY = {rung.key: at for at, rung in enumerate(RUNGS)}


class Standing(NamedTuple):
    """Where one stands: for each rung the reason it counts as reached (empty: not reached), the highest, and the next."""

    reached: tuple[str, ...]
    highest: int

    @property
    def next(self) -> Rung | None:
        """The rung to reach next; None at the top."""
        return RUNGS[self.highest + 1] if self.highest + 1 < len(RUNGS) else None

    @property
    def words(self) -> str:
        """The state of the hotspot in a line."""
        if self.highest < 0:
            return "nothing is proven yet"
        return f"{RUNGS[self.highest].words}: rung {self.highest + 1} of {len(RUNGS)}"


def standing(
    hotspot: Hotspot, status: Status | None, log: LogReading | None, calls: Sequence[str] = (), ids: Sequence[int] = ()
) -> Standing:
    """The ladder as it stands: what its page and log show now, and what was noted before."""
    noted = {item.rung: f"noted {item.day[:10]}" for item in hotspot.proofs}
    seen = {**noted, **_seen(status, log, calls, ids)}
    reached = tuple(seen.get(rung.key, "") for rung in RUNGS)
    highest = max((at for at, reason in enumerate(reached) if reason), default=-1)
    return Standing(reached, highest)


def _seen(status: Status | None, log: LogReading | None, calls: Sequence[str], ids: Sequence[int]) -> dict[str, str]:
    made: dict[str, str] = {}
    if status is not None:
        made["page"] = "its page answers"
        if status.wifi:
            made["display"] = f"it joined {status.wifi}"
        if status.calls:
            made["passing"] = "calls are on its page"
    if log is not None:
        own = own_overs(log, calls, ids)
        if any(item.way == "call-network" for item in log.calls):
            made["passing"] = "others' calls are in its log"
        if own:
            rate = f", {own[0].ber:g} %" if own[0].ber is not None else ""
            made["line"] = f"your over is in its log{rate}"
        if any(item.way == "echo" and item.call in calls for item in log.calls):
            made["echo"] = "the echo is in its log"
    return made


def note_proof(hotspot: Hotspot, rung: str, day: str) -> Edit:
    """Note that a rung was reached; noting it again takes the note away."""
    held = any(item.rung == rung for item in hotspot.proofs)
    kept = tuple(item for item in hotspot.proofs if item.rung != rung)
    words = RUNGS[BY_KEY[rung]].words
    sentence = f"Note that this is not proven any more: {words}" if held else f"Note as proven: {words}"
    return set_fields(HOTSPOTS, hotspot.key, sentence, proofs=kept if held else (*kept, Proof(rung, day)))
