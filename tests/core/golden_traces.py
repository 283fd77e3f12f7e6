"""Traces and silences as text that a person reviews: every hop with its words, who hears it, what keeps a speaker shut.

`python -m tests.core.golden_traces` writes tests/data/traces.txt anew; read what changed before keeping it.
"""

from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from tests.core.spoils import air, both, network, punched, route, service, thing, without
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_access import swap_offset
from umbra_awl.core.plan.edit.edit_station import set_guard, set_identity, set_licence
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, Mapped, Plan, Static
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.trace.keyup import trace
from umbra_awl.core.trace.silent import calls_to_ask, why_silent
from umbra_awl.demo.fresh import demo_plan

PLACE = Path(__file__).parent.parent / "data" / "traces.txt"
PROFILES = shipped_profiles()
BLK, FM, HOME = "blackfell-dmr>isles-wide@2", "blackfell-fm>local@0", "home-dmr>isles-wide@1"
TALK, LINK, ROOM = "signal-b>vlr001-a@2", "signal-b>vlr001-c@1", "torrick-fusion>velmar-commons@0"


TRACES = {
    "the wrong sign is mended": (
        "tarn",
        "cairnlow-dmr>nessa-torrick@1",
        lambda plan: swap_offset(*PlanIndex(plan, TODAY).services["cairnlow-dmr"]).apply(plan),
    ),
    "the guard is on": ("tarn", BLK, lambda plan: set_guard(True).apply(plan)),
    "the licence is of another band": ("tarn", BLK, lambda plan: set_licence("x", bands=("2 m",)).apply(plan)),
    "wide at the edge": (
        "tarn",
        "calling-fm>local@0",
        both(service("calling-fm", rx_hz=145_993_500, tx_hz=145_993_500), route("calling-fm>local@0", width_hz=25_000)),
    ),
    "held to listening": ("tarn", BLK, route(BLK, receive_only=True)),
    "only listened to": ("tarn", FM, thing("access", "blackfell", kind="receive")),
    "power over the licence": ("tarn", BLK, lambda plan: set_licence("x", max_watts=0.5).apply(plan)),
    "encrypted": ("tarn", BLK, route(BLK, encrypted=True)),
    "no number": ("tarn", BLK, thing("destinations", "isles-wide", number=None)),
    "another color code": ("tarn", BLK, route(BLK, color_code=2)),
    "a slot that is not used": ("tarn", BLK, air("blackfell-dmr", slots=(1,))),
    "no network": ("tarn", BLK, air("blackfell-dmr", network="")),
    "local without network": ("tarn", "blackfell-dmr>local@1", air("blackfell-dmr", network="")),
    "another tone": ("tarn", FM, route(FM, tone_tx="88.5")),
    "no tone sent": ("tarn", FM, route(FM, tone_tx="")),
    "no tone wanted": ("tarn", FM, air("blackfell-fm", tone_tx="")),
    "hotspot stands elsewhere": ("tarn", HOME, thing("hotspots", "home", receive_hz=433_025_000)),
    "hotspot has another color code": ("tarn", HOME, thing("hotspots", "home", color_code=3)),
    "static on this slot": ("tarn", BLK, air("blackfell-dmr", static=(Static(2, "isles-wide"),))),
    "static on the other slot": ("tarn", BLK, air("blackfell-dmr", static=(Static(1, "isles-wide"),))),
    "quiet minutes": ("tarn", BLK, both(air("blackfell-dmr", static=()), network(quiet_minutes=10))),
    "no quiet minutes": ("tarn", BLK, both(air("blackfell-dmr", static=()), network(quiet_minutes=0))),
    "echo by the wrong kind": ("tarn", "home-dmr>echo@2", thing("destinations", "echo", call="group")),
    "echo without a convention": (
        "tarn",
        "home-dmr>echo@2",
        both(network(echo=None), thing("destinations", "echo", number=999097, call="private")),
    ),
    "the echo's number as a talk group": ("tarn", BLK, thing("destinations", "isles-wide", number=999097)),
    "disconnect by another number": (
        "tarn",
        "home-dmr>disconnect@1",
        thing("destinations", "disconnect", number=999001),
    ),
    "a private call": (
        "moor",
        "home-dmr>someone@1",
        both(
            lambda plan: replace(
                plan,
                destinations=(
                    *plan.destinations,
                    type(plan.destinations[0])("someone", "Someone", "private", "lattice", 9990123, "private"),
                ),
            ),
            punched(("home-dmr", "someone", 1)),
        ),
    ),
    "dialled by number": ("tarn", "home-dmr>dialled@1", thing("destinations", "dialled", number=4500)),
    "left out by choice": (
        "tarn",
        BLK,
        lambda plan: replace(plan, radios=(replace(plan.radios[0], leave=(BLK,)), *plan.radios[1:])),
    ),
    "in no zone": (
        "tarn",
        BLK,
        lambda plan: replace(plan, zones=tuple(item for item in plan.zones if item.key != "blackfell")),
    ),
    "static at a far repeater": ("tarn", BLK, air("cairnlow-dmr", static=(Static(2, "isles-wide"),))),
    "another radio waits for a tone": ("tarn", FM, route(FM, tone_rx="88.5")),
    "MY is blank": ("fell", TALK, lambda plan: set_identity("wren", "x", call="", dstar_call="").apply(plan)),
    "unlinks at every key-up": ("fell", TALK, route(TALK, ur="       U")),
    "asks for an echo at every key-up": ("fell", TALK, route(TALK, ur="       E")),
    "asks for nothing": ("fell", TALK, route(TALK, ur="")),
    "asks for something wrong": ("fell", TALK, route(TALK, ur="VLR001 L")),
    "not addressed": ("fell", TALK, route(TALK, rpt1="")),
    "another module": ("fell", TALK, route(TALK, rpt1="Q0SIG  C")),
    "not through the gateway": ("fell", TALK, route(TALK, rpt2="Q0SIG  B")),
    "local without the gateway's letter": ("fell", "signal-c>local@0", route("signal-c>local@0", rpt2="")),
    "no gateway": ("fell", "signal-c>local@0", air("signal-c", gateway=False)),
    "no memory that links": ("fell", TALK, without("signal-b>vlr001-a@1")),
    "beside the frequency": ("fell", "home-dstar>ds-echo@0", thing("hotspots", "home", receive_hz=434_000_000)),
    "routed to a repeater": (
        "fell",
        "signal-b>far@0",
        both(
            lambda plan: replace(
                plan,
                destinations=(
                    *plan.destinations,
                    type(plan.destinations[0])("far", "Far", "repeater", "", text="Q0TRK B"),
                ),
            ),
            punched(("signal-b", "far", 0)),
        ),
    ),
    "routed to a station": (
        "fell",
        "signal-b>one@0",
        both(
            lambda plan: replace(
                plan,
                destinations=(
                    *plan.destinations,
                    type(plan.destinations[0])("one", "One", "station", "", text="Q7ABC"),
                ),
            ),
            punched(("signal-b", "one", 0)),
        ),
    ),
    "information": (
        "fell",
        "signal-b>info@0",
        both(
            lambda plan: replace(
                plan, destinations=(*plan.destinations, type(plan.destinations[0])("info", "Info", "info"))
            ),
            punched(("signal-b", "info", 0)),
        ),
    ),
    "another way": ("crag", ROOM, route(ROOM, way="VW")),
    "in FM where FM is not answered": (
        "crag",
        ROOM,
        both(air("torrick-fusion", auto_mode=False), route(ROOM, way="FM")),
    ),
    "in FM where FM is answered": ("crag", ROOM, both(air("torrick-fusion", auto_mode=True), route(ROOM, way="FM"))),
    "another digital group ID": ("crag", ROOM, route(ROOM, dgid_tx=33)),
    "a digital group ID wanted by the access point": (
        "crag",
        ROOM,
        both(air("torrick-fusion", mapped=(), dgid_tx=12), route(ROOM, dgid_tx=13)),
    ),
    "any digital group ID": ("crag", ROOM, both(air("torrick-fusion", mapped=(), dgid_tx=0), route(ROOM, dgid_tx=13))),
    "a room to connect to": ("crag", ROOM, air("torrick-fusion", mapped=(), node=True)),
    "a room without a number": (
        "crag",
        ROOM,
        both(air("torrick-fusion", mapped=(), node=True), thing("destinations", "velmar-commons", number=None)),
    ),
    "a room that nothing leads to": ("crag", ROOM, air("torrick-fusion", mapped=(), node=False)),
    "Fusion without a network": ("crag", "torrick-fusion>local@0", air("torrick-fusion", network="")),
    "FM on a Fusion frequency": (
        "crag",
        ROOM,
        both(service("blackfell-fm", rx_hz=438_900_000), service("torrick-fusion", rx_hz=438_900_000)),
    ),
}

SILENT = {
    "a sound channel": ("moor", BLK, ("blackfell-dmr", "isles-wide", 2), lambda plan: plan),
    "another slot": ("moor", BLK, ("blackfell-dmr", "isles-wide", 1), lambda plan: plan),
    "slot not told": ("moor", BLK, ("blackfell-dmr", "isles-wide", 0), lambda plan: plan),
    "another talk group": ("moor", BLK, ("blackfell-dmr", "worldwide", 2), lambda plan: plan),
    "another frequency": ("moor", BLK, ("home-dmr", "isles-wide", 1), lambda plan: plan),
    "another mode": ("tarn", FM, ("signal-b", "vlr001-a", 2), service("signal-b", rx_hz=145_712_500)),
    "promiscuous": ("moor", BLK, ("blackfell-dmr", "worldwide", 2), route(BLK, promiscuous=True)),
    "another color code": ("moor", BLK, ("blackfell-dmr", "isles-wide", 2), route(BLK, color_code=1)),
    "a tone that is not sent": ("tarn", FM, ("blackfell-fm", "local", 0), route(FM, tone_rx="88.5")),
    "a tone that is sent": (
        "tarn",
        FM,
        ("blackfell-fm", "local", 0),
        both(air("blackfell-fm", tone_rx="88.5"), route(FM, tone_rx="88.5")),
    ),
    "no tone waited for": ("tarn", FM, ("blackfell-fm", "local", 0), route(FM, tone_rx="")),
    "joined on demand": ("moor", BLK, ("blackfell-dmr", "isles-wide", 2), air("blackfell-dmr", static=())),
    "always carried": (
        "moor",
        BLK,
        ("blackfell-dmr", "isles-wide", 2),
        air("blackfell-dmr", static=(Static(2, "isles-wide"),)),
    ),
    "always carried on the other slot": (
        "moor",
        BLK,
        ("blackfell-dmr", "isles-wide", 2),
        air("blackfell-dmr", static=(Static(1, "isles-wide"),)),
    ),
    "linked first": ("fell", TALK, ("signal-b", "vlr001-a", 2), lambda plan: plan),
    "linked by others": ("fell", TALK, ("signal-b", "vlr001-a", 2), without("signal-b>vlr001-a@1")),
    "the echo": ("tarn", "home-dmr>echo@2", ("home-dmr", "echo", 2), lambda plan: plan),
    "a room that is mapped": ("crag", ROOM, ("torrick-fusion", "velmar-commons", 0), lambda plan: plan),
    "a room to connect to": (
        "crag",
        ROOM,
        ("torrick-fusion", "velmar-commons", 0),
        air("torrick-fusion", mapped=(Mapped(44, "local"),)),
    ),
    "another digital group ID": ("crag", ROOM, ("torrick-fusion", "velmar-commons", 0), route(ROOM, dgid_rx=9)),
    "all digital group IDs": ("crag", ROOM, ("torrick-fusion", "velmar-commons", 0), route(ROOM, dgid_rx=0)),
    "the same digital group ID": ("crag", ROOM, ("torrick-fusion", "velmar-commons", 0), route(ROOM, dgid_rx=40)),
    "a hotspot that stands elsewhere": (
        "tarn",
        HOME,
        ("home-dmr", "isles-wide", 1),
        thing("hotspots", "home", transmit_hz=433_025_000),
    ),
    "a hotspot of another color code": (
        "tarn",
        HOME,
        ("home-dmr", "isles-wide", 1),
        thing("hotspots", "home", color_code=3),
    ),
    "no such channel": ("tarn", TALK, ("signal-b", "vlr001-a", 2), lambda plan: plan),
    "the dialled convention": ("moor", "home-dmr>dialled@1", ("home-dmr", "dialled", 1), network(disconnect=Call(5))),
}


def traces_text() -> str:
    return "\n".join([*_traces_of_the_demo(), *_spoiled(), *_silences(), *_asked()]) + "\n"


def _fits(plan: Plan):
    index = PlanIndex(plan, TODAY)
    return index, {radio.key: fit(index, radio, PROFILES[radio.profile]) for radio in plan.radios}


def _traces_of_the_demo() -> Iterator[str]:
    """Every route of the demo, on the first radio that carries it, and the first that does not."""
    index, fits = _fits(demo_plan(TODAY))
    for key in index.routes:
        carrying = [radio for radio in index.radios if fits[radio].channel_of(key)]
        left = [radio for radio in index.radios if not fits[radio].channel_of(key)]
        for radio in [*carrying[:1], *(left[:1] if key in {BLK, FM, TALK} else ())]:
            yield from _trace(f"{key} on {radio}", index, fits, radio, key)


def _spoiled() -> Iterator[str]:
    for name, (radio, key, edit) in TRACES.items():
        index, fits = _fits(edit(demo_plan(TODAY)))
        yield from _trace(name, index, fits, radio, key)


def _trace(title, index, fits, radio, key) -> Iterator[str]:
    found = trace(index, fits, radio, key)
    yield f"== {title}"
    for hop in found.hops:
        yield f"{hop.kind} {hop.state}: {hop.title} | {hop.text} | {hop.detail} | {hop.notice} | {' '.join(hop.mends)}"
    yield from (f"   {'hears' if item.hears else 'deaf'}: {item.who}: {item.why}" for item in found.listeners)
    yield from (f"   use: {step}" for step in found.order)


def _silences() -> Iterator[str]:
    for name, (radio, key, call, edit) in SILENT.items():
        found = why_silent(*_fits(edit(demo_plan(TODAY))), radio, key, call)
        yield f"== silent: {name}: {found.call} on {found.channel or 'no channel'}, instead {found.instead or 'none'}"
        yield from (f"   {item.holds}: {item.text} {' '.join(item.mends)}".rstrip() for item in found.conditions)


def _asked() -> Iterator[str]:
    index = PlanIndex(demo_plan(TODAY), TODAY)
    for key in (FM, TALK):
        yield f"== asked at {key}"
        yield from (f"   {' '.join(map(str, call))}" for call in calls_to_ask(index, index.routes[key])[:14])


if __name__ == "__main__":
    PLACE.write_text(traces_text(), "utf-8")
