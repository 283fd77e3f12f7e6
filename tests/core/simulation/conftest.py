"""The demo's fits, and worlds made of its routes."""

import pytest

from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.simulation.posts import TalkGroupPost
from umbra_awl.core.simulation.receiver import Receiver, Stance
from umbra_awl.core.simulation.setting import ListeningChoice, make_setting

TRAVEL = ("travel-dmr>worldwide@2", "travel-dmr>isles-wide@2", "travel-dmr>echo@2")
HOME = ("home-dmr>worldwide@2", "home-dmr>amber-coast@2", "home-dmr>isles-wide@1")


@pytest.fixture
def fits(index, profiles):
    return {radio.key: fit(index, radio, profiles[radio.profile]) for radio in index.plan.radios}


@pytest.fixture
def made(index, fits):
    """Makes a setting of the demo: `made("tarn", routes, stance=…)`."""
    return lambda radio, routes, **more: make_setting(
        index, fits, ListeningChoice(radio, tuple(routes), whole=True, **more)
    )


FOUR = (
    "blackfell-dmr>isles-wide@2",
    "blackfell-dmr>great-velmar@1",
    "blackfell-dmr>nessa-torrick@2",
    "blackfell-dmr>exercise@2",
)


class Clock:
    """Calls what is due, in its order."""

    def __init__(self):
        self.now, self.due = 0.0, []

    def later(self, seconds, call, what):
        self.due.append((self.now + seconds, len(self.due), call, what))

    def run(self, until):
        while ready := sorted(item for item in self.due if item[0] <= until):
            self.due.remove(ready[0])
            self.now = ready[0][0]
            ready[0][2](ready[0][3], self.now)
        self.now = until


@pytest.fixture
def listener(made):
    def make(kind, routes=FOUR, priority=-1, hang_s=3.0):
        setting = made("moor", routes)
        at = {ear.route: number for number, ear in enumerate(setting.ears)}
        clock = Clock()
        stance = Stance(kind, tuple(at[key] for key in routes), at.get(priority, -1) if priority != -1 else -1, hang_s)
        return Receiver(setting.ears, stance, setting.figures, clock.later), clock

    return make


def call(number, route, seconds=20.0):
    service, _, rest = route.partition(">")
    group, _, slot = rest.partition("@")
    return TalkGroupPost(number, f"Q{number}", group, 0.0, seconds), (service, int(slot), group)
