"""Rules on what a radio is set to as a whole, whatever is programmed into it."""

from collections.abc import Iterator, Mapping

from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.fit.choices import set_settings
from umbra_awl.core.fit.position import tells_position
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile import Profile

TELLS_POSITION = Rule(
    "position-with-speech",
    "warn",
    "Position goes along with speech",
    "A radio that sends its position by itself tells it with every over: to all who hear it, and by gateways onto public maps. "
    "The station's privacy says that nothing of it may be told.",
)


def check_radios(index: PlanIndex, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """All findings on what radios are set to."""
    if index.plan.station.privacy != "none":
        return
    for radio in index.plan.radios:
        profile = profiles.get(radio.profile)
        if profile is None or not tells_position(radio, profile):
            continue
        repair = None
        if "none" in profile.extras.position:
            edit = set_settings(radio, f"Let {radio.name} keep its position to itself", position="none")
            repair = Repair("Keep it to itself", edit)
        text = f"{radio.name} sends its position with every over; your privacy allows nothing of it."
        yield Finding(TELLS_POSITION, Target("radio", radio.key), text, repair)
