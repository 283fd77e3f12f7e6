"""The hops of DMR: what the radio sends, what opens the access point, what the network does with it."""

from umbra_awl.core.facts.dmr import ID_DIGITS, radio_id_fault, talk_group_fault
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.calls import behind_prefix, kept_for
from umbra_awl.core.plan.model import Call, DmrAir, Network
from umbra_awl.core.radio.memory import Contact
from umbra_awl.core.trace.model import Hop
from umbra_awl.core.trace.path import NOTHING_BACK, Path, TraceStop, encryption_stop, frequency_stop, listens

_NOT_REPEATED = "The radio may show that the repeater is busy; your call is not repeated."


def radio_hop(path: Path, _air: DmrAir) -> Hop:
    """What the radio sends."""
    channel, stop = path.channel, encryption_stop(path)
    if stop is None and path.contact is None:
        detail = "A DMR channel needs the number it calls."
        stop = TraceStop("no contact to call", detail, "The radio gives its error tone.", ("contact-missing",))
    if stop is None and (fault := radio_id_fault(path.fit.memory.dmr_id or None)):
        stop = TraceStop("no radio ID", fault, "The repeater opens, and the network drops your call.", ("dmr-id",))
    if stop or path.contact is None:
        return stop.hop("radio", "Radio")  # type: ignore[union-attr]
    kind = "private call " if path.contact.kind == "private" else "talk group "
    text = f"{format_mhz(channel.tx_hz)}, cc {channel.color_code}, slot {channel.slot}"
    return Hop("radio", "Radio", "pass", text, f"Calls {kind}{path.contact.call}.")


def access_hop(path: Path, air: DmrAir) -> Hop:
    """What opens the access point."""
    heard_hz, color = listens(path.plan, path.access, path.service)
    stop = frequency_stop(path, heard_hz) or _opening_stop(path, air, color)
    if stop:
        return stop.hop("access", path.where)
    text = f"{format_mhz(heard_hz)} in, cc {color}, slot {path.channel.slot}"
    return Hop("access", path.where, "pass", text, f"{path.access.site} hears you.")


def _opening_stop(path: Path, air: DmrAir, color: int) -> TraceStop | None:
    channel = path.channel
    if channel.color_code != color:
        detail = f"The channel has {channel.color_code}; the access point does not hear it."
        mends = ("color-code-differs", "unknown-color-code", "hotspot-color-differs")
        return TraceStop(f"has color code {color}", detail, NOTHING_BACK, mends)
    if channel.slot not in air.slots:
        return TraceStop(
            f"does not use slot {channel.slot}", "Nobody listens on that slot.", _NOT_REPEATED, ("slot-not-used",)
        )
    return None


def network_hop(path: Path, air: DmrAir) -> Hop:
    """What the network does with the call."""
    network = path.network
    if network is None:
        if path.destination.kind == "local":
            return Hop("network", "Network", "pass", "stays local")
        stop = TraceStop(
            "no network behind it", "The access point passes calls to no network.", _NOT_REPEATED, ("no-such-crossing",)
        )
        return stop.hop("network", "Network")
    text, detail, carried = _carried(path, air, network, path.contact)
    if carried:
        return Hop("network", network.name, "pass", text, detail)
    mends = _NUMBER_RULES
    return TraceStop(text, detail, "The repeater opens, and nothing answers.", mends).hop("network", network.name)


def _carried(path: Path, air: DmrAir, network: Network, contact: Contact | None) -> tuple[str, str, bool]:
    if contact is None:
        return "no number", "", False
    kind = path.destination.kind
    if kept := kept_for(path.plan, path.service, path.destination, contact.call):
        return f"{contact.call} is kept", f"{network.name} keeps {contact.call} for {kept.removeprefix('to ')}.", False
    echo = behind_prefix(path.plan, path.service, network, network.echo)
    if kind == "echo" or (echo and contact.call == echo.number):
        how = echo.kind if echo else contact.kind
        return f"{contact.call} echo", f"Answers to a {how} call.", _is_convention(echo, contact)
    if kind == "disconnect":
        right = _is_convention(behind_prefix(path.plan, path.service, network, network.disconnect), contact)
        return f"{contact.call} disconnect", "Drops what was joined on demand or dialled.", right
    if kind == "dial":
        return _dialled(path, network, contact)
    return _talk_carried(path, air, network, contact)


def _is_convention(usual: Call | None, contact: Contact) -> bool:
    """Whether a call is the one that a network's convention wants; any is where it has none."""
    return usual is None or (usual.number, usual.kind) == (contact.call, contact.kind)


def _talk_carried(path: Path, air: DmrAir, network: Network, contact: Contact) -> tuple[str, str, bool]:
    fault = _number_fault(contact)
    if fault:
        return f"{contact.call} is no number for it", fault, False
    if path.destination.kind == "local" and network.local_group not in {None, contact.call}:
        return (
            f"{contact.call} is not local",
            f"The local talk group of {network.name} is {network.local_group}.",
            False,
        )
    if path.destination.kind == "local" or contact.call == network.local_group:
        detail = "Stays on this access point, or goes to a dialled reflector while one is linked."
        return f"{contact.call} local", detail, True
    if contact.kind == "private":
        return f"{contact.call} private call", "Reaches that station wherever the network heard it most recently.", True
    return _group_carried(path, air, contact, network)


def _number_fault(contact: Contact) -> str:
    """Why a network cannot carry a call to a number, as a sentence; empty when it can."""
    if contact.kind != "private":
        return talk_group_fault(contact.call)
    digits = len(str(contact.call))
    return (
        ""
        if digits >= ID_DIGITS
        else f"A private call goes to a station's ID of {ID_DIGITS} digits; this has {digits}."
    )


def _dialled(path: Path, network: Network, contact: Contact) -> tuple[str, str, bool]:
    number, low = path.destination.number, network.dial_low
    if number is not None and low is not None and not low <= number <= (network.dial_high or low):
        return f"{number} cannot be dialled", f"{network.name} dials {low} to {network.dial_high or low}.", False
    if number is None:
        detail = f"Dial {network.dial_low} to {network.dial_high} first; then talk here."
        return f"dialled through {contact.call}", detail, True
    return f"{contact.call} is dialled", "Your key-up links it; then talk on the local talk group.", True


def _group_carried(path: Path, air: DmrAir, contact: Contact, network: Network) -> tuple[str, str, bool]:
    static = any((item.slot, item.destination) == (path.channel.slot, path.destination.key) for item in air.static)
    if static:
        return f"{contact.call} static", "This access point always carries it on this slot.", True
    quiet = f" and leaves after {network.quiet_minutes} minutes of quiet" if network.quiet_minutes else ""
    return f"{contact.call} on demand", f"Your key-up joins it{quiet}.", True


_NUMBER_RULES = (
    "number-kept",
    "wrong-call-kind",
    "number-off-convention",
    "number-out-of-range",
    "contact-missing",
    "private-number",
    "dial-out-of-range",
)
HOPS = (radio_hop, access_hop, network_hop)
