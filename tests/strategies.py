"""Hypothesis strategies for plans, in one place."""

from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Destination,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    Hotspot,
    Identity,
    Licence,
    Mapped,
    NameStyle,
    Network,
    OwnedRadio,
    Plan,
    RadioId,
    Route,
    ScanList,
    Service,
    Short,
    Static,
    Station,
    Zone,
)
from umbra_awl.core.plan.model import Call as NumberedCall
from umbra_awl.core.routes.crossing import crossing

WORDS = st.text(st.sampled_from("ABCabcéß –.1 23xyzö\u2028猫"), max_size=14)
SITE_WORDS = st.one_of(
    st.sampled_from(
        ["Blackfell", "Cairnlow", "Great Vellis", "Great Velmar", "Stenby", "Oldmere North", "Oldmere South", "Éire Ö"]
    ),
    WORDS,
)
STYLES = st.sampled_from(
    [
        NameStyle(),
        NameStyle(),
        NameStyle("call", "-", True, True),
        NameStyle("destination", "/", shorts=(Short("Velmar", "Vm"), Short("Blackfell", "Bf"))),
    ]
)
CALLS = st.sampled_from(["Q0BLK", "Q0NES", "Q4WRN", "Q0BLX", "", "Q9ODL"])
FREQUENCIES = st.integers(136_000, 480_000).map(lambda khz: khz * 1000)
NUMBERS = st.one_of(st.integers(1, 99_999), st.integers(0, 2**24))
NETWORK = Network(
    "net", "Lattice", "dmr", "x.invalid", NumberedCall(999097, "private"), NumberedCall(999000), 8, 8001, 8099, 15
)
FAR = Network("far", "Farnet", "dmr", prefix="7")


@st.composite
def services(draw, key):
    rx = draw(FREQUENCIES)
    tx = rx + draw(st.sampled_from([0, -600_000, 600_000, -7_600_000, 7_600_000]))
    tones = st.sampled_from(["", "103.5", "88.5", "103.4", "D023N", "nonsense"])
    dstar = st.builds(
        DstarAir,
        st.sampled_from(["B", "C", "D", "G", "7"]),
        st.booleans(),
        st.sampled_from(["stars", "stars", ""]),
    )
    fusion = st.builds(
        FusionAir,
        st.sampled_from([("DN",), ("DN", "VW"), ("XX",)]),
        st.sampled_from([0, 10, 120]),
        st.sampled_from([0, 0, 10]),
        st.booleans(),
        st.sampled_from(["rooms", ""]),
        st.sampled_from([(), (Mapped(40, "d1"),)]),
        st.booleans(),
    )
    fm = st.builds(FmAir, tones, st.just(""), st.sampled_from([12_500, 25_000]))
    dmr = st.builds(
        DmrAir,
        st.integers(0, 17),
        st.sampled_from(["net", "net", ""]),
        st.sampled_from([(1, 2), (2,), (1,)]),
        st.sampled_from([(), (Static(1, "d0"),), (Static(2, "d1"),)]),
        st.sampled_from(["always", "free", "color"]),
        st.sampled_from(["own", "slot", "access"]),
        st.sampled_from([(), (), ("far",)]),
    )
    return Service(key, rx, tx, draw(st.one_of(fm, dmr, dmr, dstar, fusion)))


@st.composite
def accesses(draw, at):
    count = draw(st.integers(1, 2))
    made = tuple(draw(services(f"s{at}-{number}")) for number in range(count))
    kind = draw(st.sampled_from(["repeater", "hotspot", "simplex", "receive"]))
    return AccessPoint(
        f"a{at}", draw(CALLS), draw(SITE_WORDS), kind, draw(st.sampled_from(["", "Nessa", "Home"])), made
    )


@st.composite
def plans(draw, *, tidy=False):
    """Any plan of sound structure; `tidy` ones punch only possible crossings."""
    access = tuple(draw(accesses(at)) for at in range(draw(st.integers(1, 4))))
    kinds = st.sampled_from([
        "group", "group", "group", "private", "local", "echo", "disconnect", "dial",
        "reflector", "direct", "repeater", "station", "info", "room",
    ])  # fmt: skip
    destinations = tuple(
        Destination(
            f"d{at}",
            draw(SITE_WORDS),
            draw(kinds),
            draw(st.sampled_from(["net", "net", "", "stars", "rooms", "far"])),
            draw(st.one_of(st.none(), NUMBERS)),
            draw(st.sampled_from(["group", "private"])),
            draw(st.sampled_from(["", "VLR001 C", "Q0SIG B", "Q9ODL", "no such"])),
        )
        for at in range(draw(st.integers(2, 7)))
    )
    keys = [service.key for item in access for service in item.services]
    holes = draw(
        st.lists(
            st.tuples(st.sampled_from(keys), st.sampled_from([item.key for item in destinations]), st.integers(0, 2)),
            unique=True,
            max_size=14,
        )
    )
    routes = tuple(draw(_routes(hole, [item.key for item in destinations])) for hole in holes)
    hotspots = tuple(
        Hotspot(
            f"h{at}",
            item.key,
            item.services[0].rx_hz,
            item.services[0].tx_hz + draw(st.sampled_from([0, 500])),
            draw(st.integers(0, 2)),
        )
        for at, item in enumerate(access)
        if item.kind == "hotspot"
    )
    identity = Identity(
        "me",
        draw(st.sampled_from(["Q4WRN", "q4 wrn", "", "ZZZ"])),
        "Wren",
        (RadioId(draw(st.sampled_from([9994217, 42]))),),
    )
    licence = Licence(
        "First",
        draw(st.sampled_from([True, True, False])),
        "",
        draw(st.sampled_from([(), ("2 m",), ("2 m", "70 cm")])),
        draw(st.sampled_from([0.0, 0.5, 5.0, 10.0])),
        draw(st.booleans()),
    )
    zones = draw(st.sampled_from([(), (Zone("z", "Everything there is to hear", "everything"),)]))
    scans = draw(st.sampled_from([(), (ScanList("scan", "Scan", "everything", hang_s=15.0),)]))
    plan = Plan(
        name=draw(WORDS),
        station=Station((identity,), licence, draw(st.sampled_from([1, 2, 3]))),
        networks=(NETWORK, FAR, Network("stars", "Skein", "dstar"), Network("rooms", "Commons", "fusion")),
        access=access,
        destinations=destinations,
        routes=routes,
        zones=zones,
        scans=scans,
        names=draw(STYLES),
        radios=(
            OwnedRadio("tarn", "Tarn 16", "tarn16", "me"),
            OwnedRadio("moor", "Moor 4K", "moor4k", "me"),
            OwnedRadio("fell", "Fell D2", "fell-d2", "me"),
            OwnedRadio("crag", "Crag F3", "crag-f3", "me"),
        ),
        hotspots=hotspots,
    )
    return _only_possible(plan) if tidy else plan


def _routes(hole, destinations):
    slips = st.sampled_from(
        [
            {},
            {},
            {"name": "Home worldwide"},
            {"name": "Home worldwide slow", "power": "low"},
            {"receive_only": True},
            {"promiscuous": True, "hears": ()},
            {"encrypted": True, "color_code": 6},
            {"hears": tuple(destinations[:2])},
            {"hears": (), "color_code": 19},
            {"tone_tx": "88.5", "tone_rx": "103.5"},
            {"tone_tx": "88.6", "width_hz": 25_000},
            {"ur": "VLR001CL"},
            {"ur": " VLR001L", "rpt1": "Q0BLK  B"},
            {"rpt1": "", "rpt2": ""},
            {"way": "FM", "dgid_tx": 7, "dgid_rx": 9},
            {"way": "AMS"},
        ]
    )
    return slips.map(lambda fields: Route(*hole, **fields))


def _only_possible(plan):
    from msgspec.structs import replace

    index = PlanIndex(plan, TODAY)

    def fits(route):
        access, service, destination = index.parts(route)
        verdict = crossing(index, access, service, destination)
        return verdict.possible and route.slot in verdict.slots

    return replace(plan, routes=tuple(route for route in plan.routes if fits(route)))


def let_out(plan):
    """A plan whose station may transmit anywhere, on frequencies that radios have, so that a key-up gets past the guard."""
    wide = (Band("all", 100_000_000, 600_000_000),)
    free = Licence("Full", True, "", (), 0.0, guard=False)
    people = tuple(replace(item, call=item.call or "Q4WRN") for item in plan.station.identities)
    station = replace(plan.station, licence=free, bands=wide, identities=people)
    access = tuple(replace(item, services=tuple(map(_on_70_cm, item.services))) for item in plan.access)
    return replace(plan, station=station, access=access)


def _on_70_cm(service):
    moved = 430_000_000 + service.rx_hz % 8_000_000
    offset = service.tx_hz - service.rx_hz if abs(service.tx_hz - service.rx_hz) < 1_000_000 else 600_000
    return replace(service, rx_hz=moved, tx_hz=moved + offset)
