"""Placing zones and scan lists into a radio: split or cut, named, numbered, counted against the limits."""

import pytest
from msgspec.structs import replace

from umbra_awl.core.fit.placing import fit_scans, fit_zones
from umbra_awl.core.plan.model import ScanList, Zone
from umbra_awl.core.radio.memory import MemoryList

KEYS = tuple("abcdefghij")
NUMBERS = {key: at for at, key in enumerate(KEYS, 11)}


@pytest.fixture
def small(profiles):
    """A radio of three zones of four channels and two scan lists of three."""
    base = profiles["moor4k"]
    return replace(
        base, limits=replace(base.limits, zones=3, zone_channels=4, scan_lists=2, scan_members=3, scan_hang_s=10)
    )


def zones(small, *lengths, cut=(), numbers=NUMBERS):
    lines = []
    items = [Zone(f"z{at}", f"Zone {chr(65 + at)}") for at in range(len(lengths))]
    members = {item.key: KEYS[:length] for item, length in zip(items, lengths, strict=True)}
    placed, first_of = fit_zones(items, members, numbers, small, (lines, frozenset(cut)))
    return placed, first_of, lines


def scans(small, *items, numbers=NUMBERS):
    lines = []
    return fit_scans(items, {item.key: item.members for item in items}, numbers, small, lines), lines


def test_a_zone_that_fits_is_one_zone(small):
    assert zones(small, 4) == ((MemoryList(1, "Zone A", (11, 12, 13, 14)),), {"z0": 1}, [])


def test_a_zone_too_long_becomes_several_and_says_so(small):
    placed, first_of, lines = zones(small, 1, 9)
    assert [(item.number, item.name, item.members) for item in placed[:3]] == [
        (1, "Zone A", (11,)),
        (2, "Zone B 1", (11, 12, 13, 14)),
        (3, "Zone B 2", (15, 16, 17, 18)),
    ]
    assert first_of == {"z0": 1, "z1": 2}
    split, over = lines
    assert (split.kind, split.key, split.title) == ("split", "z1", "Zone B")
    assert split.reason == "It has 9 channels; a zone of this radio takes 4, so it became 3 zones."
    assert (over.kind, over.key, over.title) == ("left out", "z1", "Zone B 3")
    assert "holds 3 zones; 4 are asked for" in over.reason


def test_a_zone_too_long_is_cut_where_that_was_chosen(small):
    placed, first_of, lines = zones(small, 5, cut=("z0",))
    assert placed == (MemoryList(1, "Zone A", (11, 12, 13, 14)),)
    assert first_of == {"z0": 1}
    (line,) = lines
    assert (line.kind, line.key) == ("cut", "z0")
    assert line.reason == "It has 5 channels; you chose to keep the first 4 in one zone."


def test_a_zone_chosen_to_be_cut_that_fits_says_nothing(small):
    assert zones(small, 4, cut=("z0",))[2] == []


def test_a_zone_without_channels_in_this_radio_is_no_zone(small):
    placed, first_of, lines = zones(small, 2, 1, numbers={"b": 12})
    assert (placed, first_of, lines) == ((MemoryList(1, "Zone A", (12,)),), {"z0": 1}, [])


def test_as_many_zones_as_the_radio_holds_say_nothing_and_one_more_does(small):
    assert zones(small, 1, 1, 1)[2] == []
    placed, first_of, lines = zones(small, 1, 1, 1, 1, 1)
    assert [item.number for item in placed] == [1, 2, 3]
    assert first_of == {"z0": 1, "z1": 2, "z2": 3}
    assert [(line.key, line.title) for line in lines] == [("z3", "Zone D"), ("z4", "Zone E")]


def test_equal_names_are_told_apart_and_long_ones_leave_room_for_the_number(small):
    length = small.display.length
    items = [Zone("x", "North"), Zone("y", "North"), Zone("z", "W" * (length + 4))]
    members = {"x": ("a",), "y": ("b",), "z": KEYS[:5]}
    placed, _first = fit_zones(items, members, NUMBERS, small, ([], frozenset()))
    assert [item.name for item in placed] == ["North", "North 2", "W" * (length - 3) + " 1"]


def test_a_display_of_two_characters_still_names_the_parts(small):
    tiny = replace(small, display=replace(small.display, length=2))
    placed, _first = fit_zones([Zone("z", "Zone")], {"z": KEYS[:5]}, NUMBERS, tiny, ([], frozenset()))
    assert len({item.name for item in placed}) == 2
    assert all(0 < len(item.name) <= 2 for item in placed)


def test_a_scan_list_that_fits(small):
    placed, lines = scans(small, ScanList("s", "Scan", members=("a", "b", "c"), priority="b", hang_s=2.5))
    assert (placed, lines) == ((MemoryList(1, "Scan", (11, 12, 13), 12, 2500),), [])


def test_a_scan_list_too_long_keeps_its_first_and_says_so(small):
    placed, lines = scans(small, ScanList("s", "Scan", members=KEYS[:4]))
    assert placed[0].members == (11, 12, 13)
    (line,) = lines
    assert (line.kind, line.key, line.title) == ("left out", "s", "part of Scan")
    assert line.reason == "It has 4 channels; a scan list of this radio takes 3. The first 3 are scanned."


def test_the_priority_channel_is_kept_in_any_case(small):
    for key, members in (("d", (14, 11, 12)), ("c", (11, 12, 13)), ("nowhere", (11, 12, 13))):
        placed, _lines = scans(small, ScanList("s", "Scan", members=KEYS[:4], priority=key))
        assert (placed[0].members, placed[0].priority) == (members, NUMBERS.get(key, 0))


def test_empty_scan_lists_take_no_place(small):
    placed, lines = scans(small, ScanList("s", "Empty"), ScanList("t", "Full", members=("a",)))
    assert ([item.name for item in placed], [item.number for item in placed], lines) == (["Full"], [1], [])


@pytest.mark.parametrize(("asked_s", "ms"), [(-1.0, 0), (0.0, 0), (0.25, 250), (10.0, 10_000), (99.0, 10_000)])
def test_waiting_stays_inside_what_the_radio_can(small, asked_s, ms):
    placed, _lines = scans(small, ScanList("s", "Scan", members=("a",), hang_s=asked_s))
    assert placed[0].hang_ms == ms


def test_scan_lists_over_the_limit_are_left_out_by_name(small):
    items = [ScanList(f"s{at}", f"Scan {chr(65 + at)}", members=("a",)) for at in range(3)]
    assert scans(small, *items[:2])[1] == []
    placed, lines = scans(small, *items)
    assert [item.number for item in placed] == [1, 2]
    assert [(line.kind, line.key, line.title) for line in lines] == [("left out", "", "Scan C")]
    assert "holds 2 scan lists; 3 are asked for" in lines[0].reason
