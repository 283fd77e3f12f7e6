"""A big plan in the spirit of the demo: 4,000 routes, 16,000 contacts."""

import random

from umbra_awl.core.plan.model import (
    AccessPoint,
    Air,
    Call,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Hotspot,
    Identity,
    Licence,
    Network,
    OwnedRadio,
    Plan,
    RadioId,
    Route,
    ScanList,
    Service,
    Station,
    Zone,
)
from umbra_awl.core.radio.profile_file import shipped_profiles

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


def heavy_plan(routes: int = 10_000, services: int = 2_500, destinations: int = 600, contacts: int = 16_000) -> Plan:
    """A plan of all modes with a radio of every kind: hotspots, repeaters, zones and scan lists by rule, names of its own."""
    chance = random.Random(3)
    access = [_any_access(chance, at) for at in range(services)]
    of_mode: dict[str, list[str]] = {}
    for item in access:
        of_mode.setdefault(item.services[0].mode, []).append(item.services[0].key)
    reached = _reached(chance, destinations)
    people = [
        Destination(f"p{at}", _name(chance), "private", "lattice", 9_990_000 + at, "private") for at in range(contacts)
    ]
    punched = _punched(chance, routes, of_mode, reached)
    zones = [Zone(f"z{at}", f"Zone {at}", "access", f"a{at}") for at in range(0, services, 2)]
    places = [Zone(f"pl{at}", f"Place {at}", "place", f"Place {at}") for at in range(40)]
    scans = [ScanList(f"sc{at}", f"Scan {at}", "access", f"a{at}") for at in range(min(200, services))]
    return Plan(
        name="Heavy",
        station=Station(
            (Identity("me", "Q4WRN", "Wren", (RadioId(9994217),)),),
            Licence("Full", True, "", (), 0, False),
            lat=46.4,
            lon=-31.1,
        ),
        networks=(
            Network("lattice", "Lattice", "dmr", local_group=9, echo=Call(9990, "private")),
            Network("skein", "Skein", "dstar"),
            Network("commons", "Commons", "fusion"),
        ),
        access=tuple(access),
        destinations=tuple([item for group in reached.values() for item in group] + people),
        routes=punched,
        zones=(*zones, Zone("all", "All", "everything"), *places),
        scans=tuple(scans),
        radios=tuple(OwnedRadio(key, key, key) for key in shipped_profiles()),
        hotspots=tuple(
            Hotspot(f"h{at}", f"a{at}", access[at].services[0].tx_hz, access[at].services[0].rx_hz)
            for at in range(0, min(100, services), 10)
        ),
    )


def _any_access(chance: random.Random, at: int) -> AccessPoint:
    mode = chance.choice(["dmr", "dmr", "fm", "dstar", "fusion"])
    airs: dict[str, Air] = {
        "dmr": DmrAir(at % 16, "lattice", hears=chance.choice(["own", "slot", "access"])),
        "fm": FmAir("88.5"),
        "dstar": DstarAir("B", network="skein"),
        "fusion": FusionAir(network="commons"),
    }
    hotspot = at % 10 == 0 and mode != "fm"
    rx = 438_000_000 + 12_500 * (at % 150)
    service = Service(f"s{at}", rx, rx if hotspot else rx - 7_600_000, airs[mode])
    call = f"Q{at % 10}{''.join(chance.choices('ABCDEFGHIJKLM', k=3))}"
    return AccessPoint(
        f"a{at}",
        call,
        _name(chance),
        "hotspot" if hotspot else "repeater",
        f"Place {at % 40}",
        (service,),
        lat=46 + chance.random(),
        lon=-31 - chance.random(),
    )


def _reached(chance: random.Random, count: int) -> dict[str, list[Destination]]:
    return {
        "dmr": [Destination(f"g{at}", _name(chance), "group", "lattice", 4000 + at) for at in range(count)],
        "fm": [Destination("local", "Local", "local")],
        "dstar": [
            Destination(f"d{at}", f"VLR{at:03d} A", "reflector", "skein", text=f"VLR{at:03d} A")
            for at in range(count // 4)
        ],
        "fusion": [Destination(f"r{at}", _name(chance), "room", "commons", 40_000 + at) for at in range(count // 4)],
    }


def _punched(
    chance: random.Random, count: int, of_mode: dict[str, list[str]], reached: dict[str, list[Destination]]
) -> tuple[Route, ...]:
    found: dict[str, Route] = {}
    while len(found) < count:
        mode = chance.choice(["dmr", "dmr", "dmr", "dstar", "fusion", "fm"])
        hears = tuple(item.key for item in chance.sample(reached["dmr"], 3))
        route = Route(
            chance.choice(of_mode[mode]),
            chance.choice(reached[mode]).key,
            chance.choice((1, 2)) if mode in {"dmr", "dstar"} else 0,
            name=_name(chance) if chance.random() < 0.1 else "",
            hears=hears if mode == "dmr" and chance.random() < 0.1 else None,
            width_hz=25_000 if mode == "fm" and chance.random() < 0.3 else None,
        )
        found[route.key] = route
    return tuple(found.values())
