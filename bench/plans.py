"""A big plan in the spirit of the demo: 4,000 routes, 16,000 contacts."""

import random

from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FusionAir,
    Identity,
    Licence,
    Network,
    OwnedRadio,
    Plan,
    RadioId,
    Route,
    Service,
    Station,
    Zone,
)

SYLLABLES = "vel mar har row quay sten by nes sa tor rick old mere cairn low oss fer corr mirr tal dun wych".split()


def _name(chance: random.Random) -> str:
    return " ".join("".join(chance.choices(SYLLABLES, k=2)).capitalize() for _ in range(chance.randint(1, 2)))


def big_plan(routes: int = 4000, contacts: int = 16_000, services: int = 200, groups: int = 400) -> Plan:
    """A plan of that many routes over that many services and talk groups, with contacts besides."""
    chance = random.Random(7)
    access = []
    for at in range(services):
        rx = 438_000_000 + 12_500 * (at % 150)
        service = Service(f"s{at}", rx, rx - 7_600_000, DmrAir(at % 16, "lattice"))
        call = f"Q{at % 10}{''.join(chance.choices('ABCDEFGHIJKLM', k=3))}"
        access.append(AccessPoint(f"a{at}", call, _name(chance), "repeater", f"Place {at % 20}", (service,)))
    places = [Destination(f"g{at}", f"{_name(chance)}", "group", "lattice", 4000 + at) for at in range(groups)]
    people = [
        Destination(f"p{at}", _name(chance), "private", "lattice", 9_990_000 + at, "private") for at in range(contacts)
    ]
    holes = [(f"s{a}", f"g{g}") for a in range(services) for g in range(groups)]
    punched = tuple(Route(s, g, 1 + at % 2) for at, (s, g) in enumerate(chance.sample(holes, routes)))
    return Plan(
        name="Big",
        station=Station(
            (Identity("me", "Q4WRN", "Wren", (RadioId(9994217),)),), Licence("Full", True, "", (), 0, False)
        ),
        networks=(Network("lattice", "Lattice", "dmr"),),
        access=tuple(access),
        destinations=(*places, *people),
        routes=punched,
        zones=tuple(Zone(f"z{at}", f"Zone {at}", "access", f"a{at}") for at in range(services)),
        radios=(OwnedRadio("moor", "Moor 4K", "moor4k"),),
    )


def mode_plan(mode: str, routes: int = 4000) -> Plan:
    """A plan of that many routes of D-STAR or System Fusion, over 100 access points."""
    chance = random.Random(9)
    access, places, holes = [], [], []
    for at in range(100):
        rx = 438_000_000 + 12_500 * (at % 150)
        air = DstarAir("B", network="stars") if mode == "dstar" else FusionAir(("DN",), 10, network="rooms")
        call = f"Q{at % 10}{''.join(chance.choices('ABCDEFGHIJKLM', k=3))}"
        service = Service(f"s{at}", rx, rx - 7_600_000, air)
        access.append(AccessPoint(f"a{at}", call, _name(chance), "repeater", "", (service,)))
    for at in range(routes // 100):
        if mode == "dstar":
            places.append(Destination(f"d{at}", f"VLR{at:03d} A", "reflector", "stars", text=f"VLR{at:03d} A"))
        else:
            places.append(Destination(f"d{at}", _name(chance), "room", "rooms", 40_000 + at))
        holes += [(f"s{site}", f"d{at}") for site in range(100)]
    punched = tuple(Route(s, d, 1 + at % 2 if mode == "dstar" else 0) for at, (s, d) in enumerate(holes[:routes]))
    return Plan(
        name=f"Big {mode}",
        station=Station((Identity("me", "Q4WRN"),), Licence("Full", True, "", (), 0, False)),
        networks=(Network("stars", "Skein", "dstar"), Network("rooms", "Commons", "fusion")),
        access=tuple(access),
        destinations=tuple(places),
        routes=punched,
        zones=tuple(Zone(f"z{at}", f"Zone {at}", "access", f"a{at}") for at in range(100)),
        radios=(OwnedRadio("radio", "Radio", "fell-d2" if mode == "dstar" else "crag-f3"),),
    )
