"""The hops of DMR: what the radio sends, what opens the access point, what the network does with it."""

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.plan.model import Call, DmrAir, Network
from umbra_awl.core.radio.memory import Contact
from umbra_awl.core.trace.model import Hop
from umbra_awl.core.trace.path import NOTHING_BACK, Path, Stop, encryption_stop, frequency_stop, listens

_NOT_REPEATED = "The radio may show that the repeater is busy; your call is not repeated."


def radio_hop(path: Path, _air: DmrAir) -> Hop:
    """What the radio sends."""
    channel, stop = path.channel, encryption_stop(path)
    if stop is None and path.contact is None:
        detail = "A DMR channel needs the number it calls."
        stop = Stop("no contact to call", detail, "The radio gives its error tone.", ("contact-missing",))
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


def _opening_stop(path: Path, air: DmrAir, color: int) -> Stop | None:
    channel = path.channel
    if channel.color_code != color:
        detail = f"The channel has {channel.color_code}; the access point does not hear it."
        mends = ("color-code-differs", "unknown-color-code", "hotspot-color-differs")
        return Stop(f"has color code {color}", detail, NOTHING_BACK, mends)
    if channel.slot not in air.slots:
        return Stop(
            f"does not use slot {channel.slot}", "Nobody listens on that slot.", _NOT_REPEATED, ("slot-not-used",)
        )
    return None


def network_hop(path: Path, air: DmrAir) -> Hop:
    """What the network does with the call."""
    network = path.network
    if network is None:
        if path.destination.kind == "local":
            return Hop("network", "Network", "pass", "stays local")
        stop = Stop(
            "no network behind it", "The access point passes calls to no network.", _NOT_REPEATED, ("no-such-crossing",)
        )
        return stop.hop("network", "Network")
    text, detail, carried = _carried(path, air, network, path.contact)
    if carried:
        return Hop("network", network.name, "pass", text, detail)
    mends = ("wrong-call-kind", "number-off-convention", "number-out-of-range", "contact-missing")
    return Stop(text, detail, "The repeater opens, and nothing answers.", mends).hop("network", network.name)


def _carried(path: Path, air: DmrAir, network: Network, contact: Contact | None) -> tuple[str, str, bool]:
    if contact is None:
        return "no number", "", False
    kind = path.destination.kind
    if kind == "echo" or (network.echo and contact.call == network.echo.number):
        how = network.echo.kind if network.echo else contact.kind
        return f"{contact.call} echo", f"Answers to a {how} call.", _is_convention(network.echo, contact)
    if kind == "disconnect":
        right = _is_convention(network.disconnect, contact)
        return f"{contact.call} disconnect", "Drops what was joined on demand or dialled.", right
    if kind == "dial":
        return _dialled(path, network, contact)
    return _talk_carried(path, air, network, contact)


def _is_convention(usual: Call | None, contact: Contact) -> bool:
    """Whether a call is the one that a network's convention wants; any is where it has none."""
    return usual is None or (usual.number, usual.kind) == (contact.call, contact.kind)


def _talk_carried(path: Path, air: DmrAir, network: Network, contact: Contact) -> tuple[str, str, bool]:
    if path.destination.kind == "local" or contact.call == network.local_group:
        detail = "Stays on this access point, or goes to a dialled reflector while one is linked."
        return f"{contact.call} local", detail, True
    if contact.kind == "private":
        return f"{contact.call} private call", "Reaches that station wherever the network heard it most recently.", True
    return _group_carried(path, air, contact, network)


def _dialled(path: Path, network: Network, contact: Contact) -> tuple[str, str, bool]:
    if path.destination.number is None:
        detail = f"Dial {network.dial_low} to {network.dial_high} first; then talk here."
        return f"dialled through {contact.call}", detail, True
    return f"{contact.call} is dialled", "Your key-up links it; then talk on the local talk group.", True


def _group_carried(path: Path, air: DmrAir, contact: Contact, network: Network) -> tuple[str, str, bool]:
    static = any((item.slot, item.destination) == (path.channel.slot, path.destination.key) for item in air.static)
    if static:
        return f"{contact.call} static", "This access point always carries it on this slot.", True
    quiet = f" and leaves after {network.quiet_minutes} minutes of quiet" if network.quiet_minutes else ""
    return f"{contact.call} on demand", f"Your key-up joins it{quiet}.", True


HOPS = (radio_hop, access_hop, network_hop)
