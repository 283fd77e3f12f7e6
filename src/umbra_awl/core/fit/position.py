"""Whether a radio tells where it is while one only speaks, and where that goes."""

from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile


def tells_position(radio: OwnedRadio, profile: Profile) -> bool:
    """Whether a radio sends its position with every over, speech as well: it is set to, and its mode carries it beside speech."""
    beside = any(mode in profile.modes for mode in ("dstar", "fusion")) and profile.extras.data != "none"
    return beside and radio.settings.position in {"gps", "fixed"} and radio.settings.data_by_itself is not False


def spoken_position_words(radio: OwnedRadio, profile: Profile) -> str:
    """What is said of a radio that tells its position with speech too, and where it goes; empty where it does not."""
    if not tells_position(radio, profile):
        return ""
    return f"{radio.name} sends its position with speech too: to all who hear it, and by gateways onto maps."
