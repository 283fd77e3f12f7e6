"""Why a receiver does not let a call be heard that is on the air."""

from typing import TYPE_CHECKING

from umbra_awl.core.simulation.ears import Heard

if TYPE_CHECKING:
    from umbra_awl.core.simulation.receiver import Receiver


class Unheard:
    """Judges for a receiver."""

    def __init__(self, owner: "Receiver") -> None:
        self._receiver = owner

    def hears_noise(self, call: Heard) -> bool:
        """Whether a digital call is noise on an FM channel it listens to."""
        at = self._receiver.locked
        return at >= 0 and call[0] in self._receiver.ears[at].noise

    def why_not(self, call: Heard) -> str:
        """Why a call that is on the air is not taken, by its kind."""
        if self._receiver.sending:
            return "sending"
        watched = self._receiver.stance.channels
        if any(self._receiver.opens(at, call) for at in watched):
            if self._receiver.stance.kind == "scan":
                return (
                    "scan elsewhere"
                    if self._receiver.talk is not None or self._receiver.locked >= 0
                    else "found too late"
                )
            return "decoder taken" if self._receiver.stance.kind == "watch" else "another call"
        near = [self._receiver.ears[at] for at in watched if self._receiver.ears[at].service == call[0]]
        if any(ear.slot != call[1] for ear in near) and not any(ear.slot == call[1] for ear in near):
            return "other slot"
        return "group list" if near else "elsewhere"
