"""The places of a crossing: time slots for DMR, link and talk where D-STAR links before it talks, one place elsewhere."""

from umbra_awl.core.plan.model import Destination, DstarAir, Service

LINKS, TALKS = 1, 2
PAIR = (LINKS, TALKS)
LINKED = frozenset({"reflector", "direct"})
_PAIR_WORDS = {LINKS: "link", TALKS: "talk"}


def is_pair(service: Service, destination: Destination) -> bool:
    """Whether the crossing takes a memory that links and one that talks."""
    return service.mode == "dstar" and destination.kind in LINKED


def place_word(service: Service, destination: Destination, place: int) -> str:
    """What a place is called: “slot 2”, “link”, “talk”, or nothing where there is only one."""
    if is_pair(service, destination):
        return _PAIR_WORDS.get(place, "")
    return f"slot {place}" if place else ""


def module_word(service: Service) -> str:
    """The module of a D-STAR service, in front of what its routes reach; nothing elsewhere."""
    return service.air.module if isinstance(service.air, DstarAir) else ""
