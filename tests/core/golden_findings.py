"""Findings as text that a person reviews: for each spoiled plan what it brings, with the repair and what that leaves.

`python -m tests.core.golden_findings` writes tests/data/findings.txt anew; read what changed before keeping it.
"""

from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from tests.core.spoils import air, both, edit, network, punched, route, service, thing, without
from tests.days import TODAY
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.plan.disk.patch import difference
from umbra_awl.core.plan.edit.edit_station import set_guard, set_licence, set_station
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Network, Phone, Static
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PLACE = Path(__file__).parent.parent / "data" / "findings.txt"
PROFILES = shipped_profiles()
BLK, FM, HOME = "blackfell-dmr>isles-wide@2", "blackfell-fm>local@0", "home-dmr>isles-wide@1"
CALLING, WEATHER = "calling-fm", "weather-fm"


def more(*items):
    """Further destinations."""
    return lambda plan: replace(plan, destinations=(*plan.destinations, *items))


def further(key, prefix):
    """A second network behind the home hotspot, with a talk group of it punched."""
    return both(
        lambda plan: replace(plan, networks=(*plan.networks, Network("far", "Farnet", "dmr", prefix=prefix))),
        air(key, also=("far",)),
        more(Destination("far-talk", "Far talk", "group", "far", 77)),
        punched((key, "far-talk", 2)),
    )


def listening(key):
    """Every route through a service only listens."""

    def make(plan):
        return replace(
            plan,
            routes=tuple(replace(item, receive_only=True) if item.service == key else item for item in plan.routes),
        )

    return make


def unpunched(key):
    return lambda plan: without(*(item.key for item in plan.routes if item.service == key))(plan)


def crowd(low_hz, high_hz):
    """Everything from one frequency to another taken, a channel a service."""

    def make(plan):
        base = next(item for item in plan.access if item.key == "calling")
        made = [replace(base.services[0], key=f"x{hz}", rx_hz=hz, tx_hz=hz) for hz in range(low_hz, high_hz, 25_000)]
        return replace(plan, access=(*plan.access, replace(base, key="crowd", services=tuple(made))))

    return make


def pair(rx_hz, tx_hz):
    """Both services of the travel hotspot on a pair, the hotspot as well."""
    return both(
        service("travel-dmr", rx_hz=rx_hz, tx_hz=tx_hz),
        service("travel-dstar", rx_hz=rx_hz, tx_hz=tx_hz),
        thing("hotspots", "travel", transmit_hz=rx_hz, receive_hz=tx_hz),
    )


SPOILED = {
    "the demo": lambda plan: plan,
    "the licence is of 70 cm": edit(set_licence("x", bands=("70 cm",))),
    "the guard is on": edit(set_guard(True)),
    "a pair far out": service("blackfell-dmr", tx_hz=460_000_000),
    "a pair far out, listened to": both(service("blackfell-dmr", tx_hz=460_000_000), listening("blackfell-dmr")),
    "a pair far out, partly listened to": both(
        service("blackfell-dmr", tx_hz=460_000_000), route(BLK, receive_only=True)
    ),
    "a pair far out, nothing punched": both(service("blackfell-dmr", tx_hz=460_000_000), unpunched("blackfell-dmr")),
    "a pair far out, only listened to": both(
        service("blackfell-dmr", tx_hz=460_000_000), thing("access", "blackfell", kind="receive")
    ),
    "out of band on one frequency": service(CALLING, rx_hz=146_500_000, tx_hz=146_500_000),
    "simplex over the edge": both(service(CALLING, rx_hz=145_996_000, tx_hz=145_996_000)),
    "a repeater over the edge": service("blackfell-fm", tx_hz=144_002_000),
    "duplex over the edge on a simplex place": service(CALLING, rx_hz=145_600_000, tx_hz=145_997_000),
    "a hotspot out of band": both(
        service("home-dmr", rx_hz=446_000_000, tx_hz=446_000_000),
        thing("hotspots", "home", transmit_hz=446_000_000, receive_hz=446_000_000),
    ),
    "a hotspot's sign": service("home-dmr", tx_hz=441_000_000),
    "a hotspot over the edge": service("travel-dmr", rx_hz=430_002_000, tx_hz=430_002_000),
    "a hotspot reaching into a segment": service("travel-dmr", rx_hz=434_997_000, tx_hz=434_997_000),
    "a hotspot at a segment's edge": both(
        service("travel-dmr", rx_hz=434_990_000, tx_hz=434_990_000),
        service("travel-dstar", rx_hz=434_990_000, tx_hz=434_990_000),
    ),
    "a hotspot on 2 m in a segment": service("travel-dmr", rx_hz=145_900_000, tx_hz=145_900_000),
    "a hotspot beside a repeater": both(service("travel-dmr", rx_hz=438_625_000, tx_hz=438_625_000)),
    "a hotspot two channels off a repeater": service("travel-dmr", rx_hz=439_275_000, tx_hz=439_275_000),
    "a hotspot a channel off a repeater": service("travel-dmr", rx_hz=439_262_500, tx_hz=439_262_500),
    "no room from 434 MHz on": crowd(434_000_000, 435_000_000),
    "no room anywhere": crowd(429_900_000, 440_100_000),
    "a hotspot that hears elsewhere": thing("hotspots", "home", receive_hz=433_025_000),
    "a hotspot set out of band": thing("hotspots", "home", transmit_hz=446_000_000),
    "a hotspot set into a segment, the radios too": both(
        thing("hotspots", "travel", transmit_hz=436_000_000, receive_hz=436_000_000)
    ),
    "a hotspot's color code": thing("hotspots", "home", color_code=3),
    "a hotspot's color code that is none": thing("hotspots", "home", color_code=17),
    "a hotspot that waits": air("travel-dmr", admit="color"),
    "the phone's name in another case": edit(set_station("x", phone=Phone("WREN-away", 2.4))),
    "the phone's name with a curly quote": both(
        edit(set_station("x", phone=Phone("Wren’s", 2.4))), thing("hotspots", "travel", wifi=("Wren's",))
    ),
    "the phone's name, right": both(edit(set_station("x", phone=Phone("Wren-away", 2.4)))),
    "the phone on 5 GHz": edit(set_station("x", phone=Phone("Wren-away", 5.0))),
    "no phone": edit(set_station("x", phone=None)),
    "no Wi-Fi": thing("hotspots", "travel", wifi=()),
    "off the raster": service("blackfell-fm", rx_hz=145_712_400),
    "off the raster, where it sends": service("blackfell-fm", tx_hz=145_112_400),
    "an offset a digit short": service("blackfell-dmr", tx_hz=437_852_500),
    "an offset a digit short upwards": service("signal-b", tx_hz=438_450_000 + 760_000),
    "an offset that is not usual": service("blackfell-dmr", tx_hz=438_100_000),
    "an offset on simplex": service(CALLING, tx_hz=144_900_000),
    "an offset on simplex whose frequency does not fit": service(CALLING, rx_hz=147_000_000, tx_hz=144_900_000),
    "an offset on what is listened to": service(WEATHER, tx_hz=161_312_500),
    "a tone near one": air("blackfell-fm", tone_tx="103.4"),
    "a tone with a comma": air("blackfell-fm", tone_tx="88,4"),
    "a tone far from any": air("blackfell-fm", tone_rx="300"),
    "a tone in words": air("blackfell-fm", tone_tx="none at all"),
    "a channel's tone near one": route(FM, tone_tx="88.6"),
    "a channel's receive tone near one": route(FM, tone_rx="88.6"),
    "a channel's other tone": route(FM, tone_tx="88.5"),
    "a channel's code": route(FM, tone_tx="D023N"),
    "a channel without tone": route(FM, tone_tx=""),
    "a channel's same tone": route(FM, tone_tx="103.5"),
    "a channel that waits": route(FM, tone_rx="103.5"),
    "a channel that waits for what is sent": both(air("blackfell-fm", tone_rx="103.5"), route(FM, tone_rx="103.5")),
    "a channel of another width": route(FM, width_hz=25_000),
    "a channel of the same width": route(FM, width_hz=12_500),
    "a channel wide at the edge": both(
        service(CALLING, rx_hz=145_993_500, tx_hz=145_993_500), route("calling-fm>local@0", width_hz=25_000)
    ),
    "a channel wide at the edge, listening": both(
        service(CALLING, rx_hz=145_993_500, tx_hz=145_993_500),
        route("calling-fm>local@0", width_hz=25_000, receive_only=True),
    ),
    "a channel of another mode's values": route(
        FM, color_code=6, promiscuous=True, ur="CQCQCQ", dgid_tx=3, hears=("echo",), encrypted=True
    ),
    "a digital channel with tones": route(
        BLK, tone_tx="103.5", tone_rx="88.5", width_hz=25_000, way="DN", rpt1="x", rpt2="y", dgid_rx=1
    ),
    "a channel's color code": route(BLK, color_code=2),
    "a channel's color code that is none": route(BLK, color_code=16),
    "a channel's same color code": route(BLK, color_code=6),
    "encrypted": route(BLK, encrypted=True),
    "hears another only": route(BLK, hears=("exercise",)),
    "hears nothing": route(BLK, hears=()),
    "hears its own": route(BLK, hears=("isles-wide", "gone")),
    "hears nothing and everything": route(BLK, hears=(), promiscuous=True),
    "a color code that is none": air("blackfell-dmr", color_code=16),
    "color code nought": air("blackfell-dmr", color_code=0),
    "a slot that is not used": air("blackfell-dmr", slots=(1,)),
    "a slot that is not used, the other one taken": both(
        punched(("blackfell-dmr", "isles-wide", 1)), air("blackfell-dmr", slots=(1,))
    ),
    "no slots": air("blackfell-dmr", slots=()),
    "a slot on FM": both(without(FM), punched(("blackfell-fm", "local", 1))),
    "static on the other slot": air("blackfell-dmr", static=(Static(1, "isles-wide"),)),
    "static on the other slot, both punched": both(
        punched(("blackfell-dmr", "isles-wide", 1)), air("blackfell-dmr", static=(Static(1, "isles-wide"),))
    ),
    "static on a slot that is not used": air("blackfell-dmr", slots=(2,), static=(Static(1, "isles-wide"),)),
    "no network": air("blackfell-dmr", network=""),
    "two slots on one frequency": air("travel-dmr", slots=(1, 2)),
    "two slots on one frequency, both punched": both(
        air("travel-dmr", slots=(1, 2), static=(Static(1, "worldwide"),)),
        punched(("travel-dmr", "isles-wide", 1), ("travel-dmr", "exercise", 1)),
    ),
    "a second network without prefix": further("home-dmr", ""),
    "a second network with a prefix": further("home-dmr", "5"),
    "a second network without prefix, unused": both(further("home-dmr", ""), without("home-dmr>far-talk@2")),
    "dialled and nothing to talk on": both(
        without("blackfell-dmr>local@1"),
        more(Destination("r", "R", "dial", "lattice", 4500)),
        punched(("blackfell-dmr", "r", 1)),
    ),
    "dialled with something to talk on": both(
        more(Destination("r", "R", "dial", "lattice", 4500)), punched(("blackfell-dmr", "r", 1))
    ),
    "dialled on a slot that is not used": both(
        without("blackfell-dmr>local@1"),
        air("blackfell-dmr", slots=(2,)),
        more(Destination("r", "R", "dial", "lattice", 4500)),
        punched(("blackfell-dmr", "r", 1)),
    ),
    "dialled, the local group of another network": both(
        without("blackfell-dmr>local@1"),
        thing("destinations", "local", network="skein"),
        more(Destination("r", "R", "dial", "lattice", 4500)),
        punched(("blackfell-dmr", "r", 2)),
    ),
    "echo by the wrong kind": thing("destinations", "echo", call="group"),
    "no number": thing("destinations", "isles-wide", number=None),
    "own bands": edit(
        set_station(
            "x", bands=(Band("70 cm", 430_000_000, 439_000_000, "mine"), Band("2 m", 144_000_000, 146_000_000, "mine"))
        )
    ),
    "a hotspot's sign, the other leads inside": pair(439_900_000, 441_400_000),
    "a hotspot's sign, the other leads into a segment": pair(439_000_000, 440_600_000),
    "a hotspot's sign, one service of it": service("travel-dmr", rx_hz=439_900_000, tx_hz=441_400_000),
    "a hotspot's offset a digit short": service("home-dmr", tx_hz=434_612_500 - 760_000),
    "a band narrower than what is sent": edit(
        set_station(
            "x", bands=(Band("2 m", 145_499_000, 145_501_000, "mine"), Band("70 cm", 430_000_000, 440_000_000, "mine"))
        )
    ),
    "the phone's name at home": both(
        edit(set_station("x", phone=Phone("Wren-home", 5.0))),
        thing("hotspots", "home", wifi=("wren-HOME", "Wren-home")),
    ),
    "the phone's name at home differs": both(
        edit(set_station("x", phone=Phone("Wren-home", 5.0))), thing("hotspots", "home", wifi=("wren-HOME", "Other"))
    ),
    "wide, in a band of its own": both(
        service(CALLING, rx_hz=145_993_500, tx_hz=145_993_500),
        route("calling-fm>local@0", width_hz=25_000),
        edit(
            set_station(
                "x",
                bands=(Band("2 m", 144_000_000, 147_000_000, "mine"), Band("70 cm", 430_000_000, 440_000_000, "mine")),
            )
        ),
    ),
    "Fusion in FM at the edge": both(
        service("torrick-fusion", rx_hz=145_995_000, tx_hz=145_995_000), route("torrick-fusion>local@0", way="FM")
    ),
    "Fusion in FM, in a band of its own": both(
        service("torrick-fusion", rx_hz=145_995_000, tx_hz=145_995_000),
        route("torrick-fusion>local@0", way="FM"),
        edit(
            set_station(
                "x",
                bands=(Band("2 m", 144_000_000, 147_000_000, "mine"), Band("70 cm", 430_000_000, 440_000_000, "mine")),
            )
        ),
    ),
    "quiet minutes": network(quiet_minutes=0),
}


def findings_text() -> str:
    return "\n".join(line for name, spoil in SPOILED.items() for line in _brought(name, spoil(demo_plan(TODAY)))) + "\n"


def _found(plan):
    return findings_of(PlanIndex(plan, TODAY), PROFILES)


def _brought(name, plan) -> Iterator[str]:
    """What a spoiled plan is told beyond the demo's own, and what is no longer told."""
    yield f"== {name}"
    own = {item.key: item.text for item in _found(demo_plan(TODAY))} if name != "the demo" else {}
    here = _found(plan)
    for item in here:
        if own.get(item.key) != item.text:
            mark = "!" if item.rule.safety else ""
            yield f"{item.severity}{mark} {item.rule.name} | {item.target.kind} {item.target.key} {item.part} | {item.text}"
            if item.repair is not None:
                left = {found.key for found in _found(item.repair.edit.apply(plan))}
                new = sorted("/".join(key) for key in left - {found.key for found in here})
                gone = "gone" if item.key not in left else "STAYS"
                yield f"   [{item.repair.label}] {item.repair.edit.sentence} | {gone}{''.join(' +' + key for key in new)}"
                yield f"   {_changed(plan, item.repair.edit.apply(plan))}"
    missing = sorted(set(own) - {item.key for item in here})
    yield from (f"   no longer: {key[0]}" for key in missing)


def _changed(old, new) -> str:
    """What a repair changes, collection by collection."""
    spans = difference(old, new).spans.items()
    return (
        "; ".join(f"{name} {span.at} -{span.gone} {bytes(span.new).decode()[:160]}" for name, span in spans)[:420]
        or "station"
    )


if __name__ == "__main__":
    PLACE.write_text(findings_text(), "utf-8")
