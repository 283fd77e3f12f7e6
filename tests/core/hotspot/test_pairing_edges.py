"""How a pairing begins, and what is said of how it stands."""

import pytest

from umbra_awl.core.hotspot.pairing.devices import shipped_devices
from umbra_awl.core.hotspot.pairing.machine import BEFORE, PairingSides, begun, next_move, proof_words, proven

DEVICES = shipped_devices().device


@pytest.mark.parametrize("device", DEVICES, ids=lambda item: item.key)
def test_how_a_real_pair_begins(device):
    new, old, stuck = (begun(device, start) for start in ("new", "old", "stuck"))
    assert new == PairingSides({item.key: "" for item in device.settings})
    for sides in (old, stuck):
        assert sides.settings == {item.key: item.want if item.key == "wireless" else "" for item in device.settings}
    assert (old.paired_in, old.radio_names, old.stuck) == (BEFORE, "another phone", False)
    assert (stuck.paired_in, stuck.radio_names, stuck.stuck) == (
        "phone" if device.starts == "app" else "app",
        "your phone",
        True,
    )
    assert all(next_move(device, sides) is not None for sides in (new, old, stuck))


def test_what_proves_a_pairing_and_what_stands_in_its_way():
    sides = PairingSides({})
    assert proof_words(sides).startswith("Not yet.")
    assert proof_words(sides._replace(paired_in=BEFORE)).startswith("An old pairing stands in the way")
    assert proof_words(sides._replace(stuck=True)).startswith("Stuck: it was paired in the wrong place.")
    assert proof_words(sides._replace(connected=True)) == "Proven: the app mirrors the radio's front over the cable."
    both = sides._replace(connected=True, radio_names="Wren's phone", mirror=("BLK", "ISLES"))
    assert proof_words(both) == "Proven: the radio names “Wren's phone”, the app mirrors “BLK / ISLES”."
    assert proven(both)
    assert not proven(sides._replace(connected=True))
    assert proven(sides._replace(connected=True), "cable")
    assert not proven(sides._replace(radio_names="Wren's phone"))
