"""Fits as text that a person reviews: what a radio holds, what was left out and why, how full it is.

`python -m tests.core.golden_fits` writes tests/data/fits.txt anew; read what changed before keeping it.
"""
# ruff: noqa: E501  (a table, a case a line)

from collections.abc import Iterator
from pathlib import Path

from msgspec.structs import replace

from tests.core.spoils import air, both, edit, punched, route, service, thing
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_station import set_identity
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, Mapped, Network, PinnedName, RadioId
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PLACE = Path(__file__).parent.parent / "data" / "fits.txt"
PROFILES = shipped_profiles()
BLK, ROOM = "blackfell-dmr>isles-wide@2", "torrick-fusion>velmar-commons@0"


def radio(key, **fields):
    return thing("radios", key, **fields)


def more(*items):
    return lambda plan: replace(plan, destinations=(*plan.destinations, *items))


def far(prefix):
    """A second network behind the home hotspot, two of its talk groups, one of them punched."""
    return both(
        lambda plan: replace(plan, networks=(*plan.networks, Network("far", "Farnet", "dmr", prefix=prefix))),
        air("home-dmr", also=("far",)),
        more(
            Destination("far-talk", "Far talk", "group", "far", 77),
            Destination("far-two", "Far two", "group", "far", 78),
        ),
        punched(("home-dmr", "far-talk", 2)),
    )


def as_is(plan):
    return plan


CASES = {
    "the demo": ("tarn", as_is, {}),
    "the demo, another radio": ("moor", as_is, {}),
    "the demo, D-STAR": ("fell", as_is, {}),
    "the demo, Fusion": ("crag", as_is, {}),
    "six channels": ("tarn", as_is, {"channels": 6}),
    "exactly as many channels": ("tarn", as_is, {"channels": 29}),
    "one channel fewer": ("tarn", as_is, {"channels": 28}),
    "six channels, some first": ("tarn", radio("tarn", first=("travel-dmr>echo@2", BLK)), {"channels": 6}),
    "five contacts": ("tarn", as_is, {"contacts": 5}),
    "exactly as many contacts": ("tarn", as_is, {"contacts": 34}),
    "three group lists": ("tarn", as_is, {"group_lists": 3}),
    "short group lists": ("tarn", air("blackfell-dmr", hears="access"), {"group_list_members": 2}),
    "heard by slot": ("tarn", air("blackfell-dmr", hears="slot"), {}),
    "heard by hand": ("tarn", route(BLK, hears=("exercise", "echo", "gone", "isles-wide")), {}),
    "two zones": ("tarn", as_is, {"zones": 2}),
    "some zones only": ("tarn", radio("tarn", zones=("home", "fm")), {}),
    "no trips": ("tarn", radio("tarn", trips=()), {}),
    "left out": ("tarn", radio("tarn", leave=(BLK, "signal-b>local@0")), {}),
    "a channel for each": ("tarn", radio("tarn", school="channels"), {}),
    "dials": ("tarn", radio("tarn", school="dial"), {}),
    "halves": ("moor", radio("moor", halves=("home", "nessa")), {}),
    "one half": ("moor", radio("moor", halves=("nessa", "gone")), {}),
    "call key": ("moor", radio("moor", one_touch="echo"), {}),
    "call key to nowhere": ("moor", radio("moor", one_touch="gone"), {}),
    "own names": ("tarn", radio("tarn", names=(PinnedName(BLK, "MINE"),)), {}),
    "names it cannot show": ("tarn", thing("access", "blackfell", site="Blåfell ☂"), {}),
    "a number that cannot be called": ("tarn", thing("destinations", "isles-wide", number=16_777_216), {}),
    "the last number that can": ("tarn", thing("destinations", "isles-wide", number=16_777_215), {}),
    "number nought": ("tarn", thing("destinations", "isles-wide", number=0), {}),
    "a color code that is none": ("tarn", air("blackfell-dmr", color_code=16), {}),
    "a channel's color code that is none": ("tarn", route(BLK, color_code=16), {}),
    "a channel's own sound color code": (
        "tarn",
        both(air("blackfell-dmr", color_code=16), route(BLK, color_code=15)),
        {},
    ),
    "nothing to send on": ("tarn", service("blackfell-fm", tx_hz=0), {}),
    "where it does not receive": ("tarn", service("blackfell-fm", rx_hz=900_000_000), {}),
    "an ID that is none": ("tarn", edit(set_identity("wren", "x", ids=(RadioId(16_777_216),))), {}),
    "the last ID": ("tarn", edit(set_identity("wren", "x", ids=(RadioId(16_777_215),))), {}),
    "no ID": ("tarn", edit(set_identity("wren", "x", ids=())), {}),
    "a digital group ID that is none": ("crag", air("torrick-fusion", mapped=(Mapped(100, "velmar-commons"),)), {}),
    "a channel's digital group ID that is none": ("crag", route(ROOM, dgid_tx=-1), {}),
    "behind a prefix": ("tarn", far("5"), {}),
    "behind a prefix, three contacts": ("tarn", far("5"), {"contacts": 3}),
    "two DMR networks": (
        "tarn",
        lambda plan: replace(plan, networks=(*plan.networks, Network("far", "Farnet", "dmr"))),
        {},
    ),
    "contacts of the same number": (
        "tarn",
        more(
            Destination("again", "Isles again", "group", "lattice", 99900),
            Destination("name", "Isles-wide", "private", "lattice", 9990001, "private"),
        ),
        {},
    ),
}


def fits_text() -> str:
    return "\n".join(line for name in CASES for line in _case(name)) + "\n"


def _case(name) -> Iterator[str]:
    key, spoil, limits = CASES[name]
    index = PlanIndex(spoil(demo_plan(TODAY)), TODAY)
    owned = index.radios[key]
    base = PROFILES[owned.profile]
    made = fit(index, owned, replace(base, limits=replace(base.limits, **limits)))
    usual = () if CASES[name][1:] == (as_is, {}) else tuple(_lines(_usual(key)))
    lines = tuple(_lines(made))
    yield f"== {name}"
    yield from (line for line in lines if line not in usual)
    if gone := len(set(usual) - set(lines)):
        yield f"   and {gone} lines of the usual are no longer so"


def _usual(key):
    index = PlanIndex(demo_plan(TODAY), TODAY)
    owned = index.radios[key]
    return fit(index, owned, PROFILES[owned.profile])


def _lines(made) -> Iterator[str]:
    """Line by line what a memory holds and its report says; a case shows only how it differs from the demo's own."""
    memory = made.memory
    yield f"{memory.call} {memory.dmr_id} note {memory.note!r} alias {memory.alias!r} call key {memory.one_touch} halves {memory.halves}"
    yield from (f"channel {item.name} {item.route} {item.contact} {item.group_list}" for item in memory.channels)
    yield from (f"contact {item.number} {item.name} {item.call} {item.kind}" for item in memory.contacts)
    yield from (f"hears {item.number} {item.name} {item.members}" for item in memory.group_lists)
    yield from (f"zone {item.number} {item.name} {item.members}" for item in memory.zones)
    yield from (f"{line.kind} {line.key} {line.title}: {line.reason}" for line in made.report.lines)
    yield from (f"gauge {item.name} {item.used} of {item.limit}" for item in made.report.gauges)


if __name__ == "__main__":
    PLACE.write_text(fits_text(), "utf-8")
