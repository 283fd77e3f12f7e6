"""Plans with slips in them: the demo put right, and one or two of the slips people make on purpose."""

from functools import cache

from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, Plan, RadioId
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PROFILES = shipped_profiles()


@cache
def sound_plan() -> Plan:
    """The demo with every finding's repair applied until none is left that has one."""
    plan = demo_plan(TODAY)
    for _round in range(60):
        found = next(
            (item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.repair and item.severity != "note"),
            None,
        )
        if found is None:
            return plan
        plan = found.repair.edit.apply(plan)
    raise AssertionError("the demo cannot be put right")


def _swap(items, at, **fields):
    """The items with one of them changed."""
    at %= len(items)
    return (*items[:at], replace(items[at], **fields), *items[at + 1 :])


ROUTE_SLIPS = [
    {"color_code": 9}, {"tone_tx": "77.0"}, {"tone_rx": "77.0"}, {"hears": ()}, {"hears": ("worldwide",)}, {"encrypted": True},
    {"ur": "       U"}, {"ur": "VLR001CL"}, {"ur": "VLR001DL"}, {"ur": "CQCQCQ  "}, {"ur": "Q9ODL   "}, {"ur": "        "},
    {"ur": "VLR001 L"}, {"ur": "/Q0SIG B"}, {"rpt1": "        "}, {"rpt1": "Q0SIG  C"}, {"rpt2": "Q0SIG  B"},
    {"rpt1": "Q0SIG B "}, {"rpt2": "        "},
    {"rpt2": "Q0SIG G"}, {"rpt2": " Q0SIG G"}, {"rpt1": " Q0SIG B"}, {"rpt1": "Q0SIG  b"},
    {"rpt1": "Q0SIG B", "rpt2": "Q0SIG G"}, {"ur": " CQCQCQ"}, {"dgid_tx": 0}, {"dgid_tx": 1}, {"dgid_rx": 0},
    {"dgid_tx": 77}, {"dgid_rx": 33}, {"way": "FM"}, {"way": "VW"}, {"width_hz": 25_000}, {"receive_only": True},
    {"promiscuous": True},
]  # fmt: skip
DESTINATION_SLIPS = [
    {"number": 9_990}, {"number": 99_901}, {"number": 9_994_217}, {"number": 16_777_215}, {"call": "private"}, {"call": "group"},
    {"kind": "private"}, {"kind": "group"}, {"number": 999_421}, {"text": "VLR001"}, {"text": "Q0SIG C"}, {"kind": "echo"},
    {"number": 999_097}, {"number": 999_000}, {"text": "VLR00123 C"}, {"text": "Q9ODLABCDE"},
]  # fmt: skip
AIR_SLIPS = [
    {"color_code": 3},
    {"tone_tx": "88.5"},
    {"module": ""},
    {"module": "G"},
    {"dgid_tx": 5},
    {"slots": (1,)},
    {"gateway": False},
    {"dgid_tx": 0},
    {"module": "b"},
    {"slots": (2,)},
]
HOTSPOT_SLIPS = [{"duplex": True}, {"duplex": False}, {"color_code": 7}, {"transmit_hz": 434_600_000}]
ACCESS_SLIPS = [{"call": "Q0SIGNAL"}, {"call": "Q0SIGNA"}, {"call": ""}]
NETWORK_SLIPS = [
    {"echo": Call(999_097, "group")},
    {"disconnect": None},
    {"echo": None},
    {"local_group": None},
    {"dial_high": 7_999},
]
IDENTITY_SLIPS = [
    {"call": ""}, {"call": "q4 wrn"}, {"dstar_call": "Q4WRN-TOO-LONG"}, {"dstar_call": "Q4WRN/P"}, {"ids": ()},
    {"ids": (RadioId(42),)}, {"ids": (RadioId(999_421),)}, {"dstar_note": "TOOLONG"},
]  # fmt: skip


def _slip_routes(plan, at, fields):
    return replace(plan, routes=_swap(plan.routes, at, **fields))


def _slip_destinations(plan, at, fields):
    return replace(plan, destinations=_swap(plan.destinations, at, **fields))


def _slip_networks(plan, at, fields):
    return replace(plan, networks=_swap(plan.networks, at, **fields))


def _slip_hotspots(plan, at, fields):
    return replace(plan, hotspots=_swap(plan.hotspots, at, **fields))


def _slip_access(plan, at, fields):
    return replace(plan, access=_swap(plan.access, at, **fields))


def _slip_identity(plan, at, fields):
    identities = _swap(plan.station.identities, 0, **fields)
    return replace(plan, station=replace(plan.station, identities=identities))


def _slip_service(plan, at, change):
    """Change one service of the plan, where the change suits it."""
    places = [(a, s) for a, access in enumerate(plan.access) for s in range(len(access.services))]
    a, s = places[at % len(places)]
    access = plan.access[a]
    services = list(access.services)
    services[s] = change(services[s])
    return replace(plan, access=(*plan.access[:a], replace(access, services=tuple(services)), *plan.access[a + 1 :]))


def _slip_air(plan, at, fields):
    def change(service):
        suits = set(fields) <= set(service.air.__struct_fields__)
        return replace(service, air=replace(service.air, **fields)) if suits else service

    return _slip_service(plan, at, change)


SHIFTS = {
    "swapped": lambda service: replace(service, rx_hz=service.tx_hz, tx_hz=service.rx_hz),
    "other sign": lambda service: replace(service, tx_hz=2 * service.rx_hz - service.tx_hz),
    "short": lambda service: replace(service, tx_hz=service.rx_hz + (service.tx_hz - service.rx_hz) // 10),
    "short, other sign": lambda service: replace(service, tx_hz=service.rx_hz - (service.tx_hz - service.rx_hz) // 10),
    "left on": lambda service: replace(service, tx_hz=service.tx_hz - 600_000 * (service.tx_hz == service.rx_hz)),
    "raster": lambda service: replace(service, rx_hz=service.rx_hz + 12_500),
    "simplex": lambda service: replace(service, tx_hz=service.rx_hz),
}


def _slip_shift(plan, at, name):
    return _slip_service(plan, at, SHIFTS[name])


SLIPS = [
    (_slip_routes, ROUTE_SLIPS),
    (_slip_destinations, DESTINATION_SLIPS),
    (_slip_networks, NETWORK_SLIPS),
    (_slip_identity, IDENTITY_SLIPS),
    (_slip_air, AIR_SLIPS),
    (_slip_shift, list(SHIFTS)),
    (_slip_hotspots, HOTSPOT_SLIPS),
    (_slip_access, ACCESS_SLIPS),
]


slips = st.lists(
    st.tuples(st.integers(0, len(SLIPS) - 1), st.integers(0, 200), st.integers(0, 40)), min_size=1, max_size=2
)
"""One or two slips: which kind, at which of the plan's things, which of the kind's choices."""


def slipped(made) -> Plan:
    """The sound plan with these slips."""
    plan = sound_plan()
    for kind, at, choice in made:
        slip, choices = SLIPS[kind]
        plan = slip(plan, at, choices[choice % len(choices)])
    return plan


def each_slip():
    """Every slip of every kind at every thing of the sound plan, one at a time: its name and the plan with it."""
    plan = sound_plan()
    services = sum(len(access.services) for access in plan.access)
    counts = (
        len(plan.routes),
        len(plan.destinations),
        len(plan.networks),
        1,
        services,
        services,
        len(plan.hotspots),
        len(plan.access),
    )
    for (slip, choices), count in zip(SLIPS, counts, strict=True):
        for choice in choices:
            for at in range(count):
                made = slip(plan, at, choice)
                if made != plan:
                    yield f"{slip.__name__} {choice} at {at}", made
