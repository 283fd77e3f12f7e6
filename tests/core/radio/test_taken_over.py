"""A profile of one's own has nothing of a similar radio that nobody confirmed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.paper.taps import CannotTypeError
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_edit import from_similar
from umbra_awl.core.radio.profile_file import own_profiles, profile_text, shipped_profiles
from umbra_awl.core.radio.taken_over import (
    PARTS,
    confirmed_only,
    drop_part,
    missing_parts,
    offered_parts,
    take_part,
)

SHIPPED = shipped_profiles()
EACH = pytest.mark.parametrize("key", SHIPPED)


@EACH
def test_a_profile_made_from_a_similar_radio_has_no_part_of_it(key):
    own = from_similar(SHIPPED[key], SHIPPED)
    assert missing_parts(own) == PARTS
    assert own.ways_in == ("file",)
    assert not own.image.size
    assert own.card is None
    assert not profile_faults(own)


@EACH
def test_a_part_comes_when_it_is_said_to_be_the_same_and_goes_again(key):
    similar, own = SHIPPED[key], from_similar(SHIPPED[key], SHIPPED)
    for part in offered_parts(own, similar):
        taken = take_part(own, similar, part.field)
        assert part not in missing_parts(taken)
        assert part.field in taken.confirmed
        assert not profile_faults(taken)
        assert confirmed_only(taken, similar) == taken
        assert drop_part(taken, part.field) == own
    everything = own
    for part in offered_parts(own, similar):
        everything = take_part(everything, similar, part.field)
    assert not offered_parts(everything, similar)
    assert not profile_faults(everything)


@EACH
def test_a_file_from_before_loses_what_nobody_confirmed(tmp_path, key):
    similar = SHIPPED[key]
    ways = tuple(way for way in similar.ways_in if way not in {"card", "cable"}) or ("file",)
    old = replace(similar, key="mine", name="Mine", own_of=key, card=None, ways_in=ways)
    old = replace(old, image=from_similar(similar, SHIPPED).image, line=from_similar(similar, SHIPPED).line)
    (tmp_path / "mine.toml").write_text(profile_text(old))
    found, faults = own_profiles(tmp_path)
    assert not [text for text in faults if "mine" not in text]
    for own in found.values():
        assert not [part for part in PARTS if part not in missing_parts(own)]


@given(st.sampled_from(list(SHIPPED)), st.sets(st.sampled_from([part.field for part in PARTS])))
def test_what_differs_from_the_similar_radio_was_described_and_stays(key, changed):
    similar = SHIPPED[key]
    own = from_similar(similar, SHIPPED)
    for field in changed:
        own = take_part(own, similar, field)
    own = replace(own, confirmed=(), extras=replace(own.extras, startup=9))
    assert confirmed_only(own, similar).extras.startup == 9


def test_no_key_of_another_radio_is_printed(index):
    similar = next(profile for profile in SHIPPED.values() if profile.keypad is not None)
    own = from_similar(similar, SHIPPED)
    with pytest.raises(CannotTypeError, match="not programmed by its keys"):
        key_sheet(fit(index, index.plan.radios[0], SHIPPED[index.plan.radios[0].profile]).memory, own)
