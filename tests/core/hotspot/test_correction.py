"""A correction is no way out of the band, and no words of a layout stand for what a transmitter does."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.hotspot.match.layout import (
    NO_WORDS,
    SettingsLayoutError,
    layout_text,
    parse_layout,
    shipped_layouts,
)
from umbra_awl.core.hotspot.match.sending import sending_refusal
from umbra_awl.core.hotspot.match.take import take_value
from umbra_awl.core.plan.hotspots import MOST_CORRECTION_HZ
from umbra_awl.core.plan.index import PlanIndex


def home(plan, **fields):
    hotspot = replace(plan.hotspots[0], **fields)
    changed = replace(plan, hotspots=(hotspot, *plan.hotspots[1:]))
    index = PlanIndex(changed, TODAY)
    return index, index.access[hotspot.access], hotspot


@pytest.mark.parametrize("hz", [0, 410, -4_999, MOST_CORRECTION_HZ])
def test_a_correction_of_an_oscillator_is_one(plan, hz):
    assert sending_refusal(*home(plan, tx_correction_hz=hz)) == ""


@pytest.mark.parametrize("field", ["tx_correction_hz", "rx_correction_hz"])
@pytest.mark.parametrize("hz", [MOST_CORRECTION_HZ + 1, -5_001, 999_999, 90_000_000])
def test_what_is_more_is_another_frequency_refused_found_and_repaired(plan, profiles, field, hz):
    index, access, hotspot = home(plan, **{field: hz})
    assert "another frequency" in sending_refusal(index, access, hotspot)
    (found,) = (item for item in findings_of(index, profiles) if item.rule.name == "hotspot-correction")
    assert (found.severity, found.target.key) == ("stop", hotspot.key)
    assert getattr(found.repair.edit.apply(index.plan).hotspots[0], field) == 0


def test_a_correction_that_moves_the_edge_of_the_emission_out_of_the_band_is_refused(plan):
    edge = {"transmit_hz": 439_993_750, "receive_hz": 433_012_500}
    assert sending_refusal(*home(plan, **edge)) == ""
    assert "over the edge" in sending_refusal(*home(plan, **edge, tx_correction_hz=4_000))


def test_a_hotspots_own_wild_correction_is_not_followed(plan):
    index, access, hotspot = home(plan)
    assert take_value(index, access, hotspot, "tx_correction", "999999") is None
    assert take_value(index, access, hotspot, "tx_correction", "-410").apply(plan).hotspots[0].tx_correction_hz == -410


@pytest.mark.parametrize("field", sorted(NO_WORDS))
def test_no_words_stand_for_what_a_transmitter_does(field):
    layout = shipped_layouts()[0]
    keys = tuple(replace(key, words={"434612500": "137900000"}) if key.field == field else key for key in layout.key)
    if keys == layout.key:
        keys = (replace(layout.key[0], field=field, words={"a": "b"}), *layout.key[1:])
    with pytest.raises(SettingsLayoutError, match="no words stand for it"):
        parse_layout(layout_text(replace(layout, key=keys)))
