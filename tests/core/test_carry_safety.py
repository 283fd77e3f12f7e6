"""What a write does to a radio that is not, or no longer, the one that was read; and the last look before it."""

from datetime import datetime, timedelta

import pytest
from hypothesis import given
from msgspec.structs import replace

from tests.core.test_link import DirectLine, a_change, to
from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edit_station import set_guard, set_licence
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import set_route
from umbra_awl.core.transfer.carry import compare, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.errors import ChangedRadioError, OtherUnitError, StaleError, UnpluggedError
from umbra_awl.core.transfer.frames import pack_identity, unpack_identity
from umbra_awl.core.transfer.image import merge
from umbra_awl.core.transfer.interlock import must_not_send, refusal
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.protocols import RadioIdentity
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults

PROFILES = shipped_profiles()
TARN = PROFILES["tarn16"]
NOW = datetime(2026, 11, 24, 3, 0, 0)
ROUTE = "blackfell-dmr>isles-wide@2"


@pytest.fixture
def radios(tmp_path):
    """The memories of two radios of the same kind."""
    paths = tmp_path / "one.radio", tmp_path / "two.radio"
    for unit, path in enumerate(paths):
        path.write_bytes(factory_image(TARN, str(unit)))
    return paths


@pytest.fixture
def shelf(tmp_path):
    return Shelf(tmp_path / "shelf")


def link(path, **line):
    return Link(DirectLine(SimulatedRadio(TARN, path, Faults()), **line), quiet_s=0.02)


def read(path, shelf, now=NOW):
    return read_radio(link(path), TARN, shelf, now)


def stored(shelf):
    return [shelf.load(item).image for item in shelf.backups()]


def flip(path, at):
    data = bytearray(path.read_bytes())
    data[at] ^= 0xFF
    path.write_bytes(data)
    return bytes(data)


def test_another_radio_of_the_same_kind_is_not_written(radios, shelf):
    one, two = radios
    held = read(one, shelf)
    before = two.read_bytes()
    with pytest.raises(OtherUnitError, match="another Tarn 16 than the one that was read"):
        write_radio(link(two), TARN, shelf, held, to(held, a_change(held.image)))
    assert two.read_bytes() == before
    assert shelf.unfinished() is None


def test_a_byte_set_by_hand_in_a_block_to_be_written_stops_the_write(radios, shelf):
    held = read(radios[0], shelf)
    by_hand = flip(radios[0], 0x1010)
    with pytest.raises(ChangedRadioError, match="has changed since it was read, in 1 of the 5 blocks"):
        write_radio(link(radios[0]), TARN, shelf, held, to(held, a_change(held.image)))
    assert radios[0].read_bytes() == by_hand
    again = read(radios[0], shelf)
    assert by_hand in stored(shelf)
    write_radio(link(radios[0]), TARN, shelf, again, to(again, a_change(again.image)))
    assert radios[0].read_bytes() == a_change(by_hand)


def test_a_comparison_with_an_earlier_reading_is_not_written(radios, shelf):
    earlier = read(radios[0], shelf)
    flip(radios[0], 0x9000)
    held = read(radios[0], shelf)
    with pytest.raises(StaleError, match="earlier reading"):
        write_radio(link(radios[0]), TARN, shelf, held, to(earlier, a_change(earlier.image)))


def test_restoring_keeps_the_present_content_first(radios, shelf):
    held = read(radios[0], shelf)
    present = flip(radios[0], 0x5000)
    restore_radio(link(radios[0]), TARN, shelf, held.backup, NOW)
    assert radios[0].read_bytes() == held.image
    assert present in stored(shelf)


def test_a_restore_that_is_cut_says_neither_and_is_brought_back(radios, shelf):
    held = read(radios[0], shelf)
    radios[0].write_bytes(a_change(a_change(flip(radios[0], 0x5000))[:0x9000] + held.image[0x9000:]))
    changed = flip(radios[0], 0xB000)
    with pytest.raises(UnpluggedError):
        restore_radio(link(radios[0], cut_after=70_800), TARN, shelf, held.backup, NOW)
    again = read(radios[0], shelf)
    assert again.state == "neither"
    assert again.backup == held.backup
    assert changed in stored(shelf)
    restore_radio(link(radios[0]), TARN, shelf, again.backup, NOW)
    assert radios[0].read_bytes() == held.image
    assert shelf.unfinished() is None


def test_a_backup_of_another_radio_is_refused_unless_it_is_meant(radios, shelf):
    one, two = radios
    backup = read(one, shelf).backup
    before = two.read_bytes()
    with pytest.raises(OtherUnitError, match="of another Tarn 16"):
        restore_radio(link(two), TARN, shelf, backup, NOW)
    assert two.read_bytes() == before
    assert before in stored(shelf), "its own memory is on the shelf"
    restore_radio(link(two), TARN, shelf, backup, NOW, other_unit=True)
    own = TARN.image.unit
    assert two.read_bytes()[own.at : own.at + own.length] == before[own.at : own.at + own.length]
    assert two.read_bytes()[0x1000:] == one.read_bytes()[0x1000:]


def test_the_mark_of_an_unproven_write_belongs_to_one_radio(radios, shelf):
    one, two = radios
    first = read(one, shelf)
    with pytest.raises(UnpluggedError):
        write_radio(link(one, cut_after=5_200), TARN, shelf, first, to(first, a_change(first.image)))
    second = read(two, shelf)
    assert second.state == "known"
    assert second.before == first.unit
    assert shelf.load(second.backup).image == two.read_bytes()
    write_radio(link(two), TARN, shelf, second, to(second, a_change(second.image)))
    assert shelf.unfinished(second.unit) is None
    again = read(one, shelf)
    assert (again.state, again.backup) == ("neither", first.backup)
    restore_radio(link(one), TARN, shelf, again.backup, NOW)
    assert one.read_bytes() == first.image
    assert shelf.unfinished() is None


@pytest.mark.parametrize(
    "mark", [b"", b"[]", b'{"backup":5,"before":null}', b"\xff", b'{"backup":"../../x","before":"a","after":"b"}']
)
def test_a_mark_that_cannot_be_read_still_says_that_a_write_began(radios, shelf, mark):
    held = read(radios[0], shelf)
    (shelf.folder / "unfinished.json").write_bytes(mark)
    assert shelf.unfinished() is not None
    again = read(radios[0], shelf)
    assert (again.state, again.backup) == ("neither", held.backup)


def test_a_serial_number_names_the_radio_where_it_tells_one(tmp_path):
    moor = PROFILES["moor4k"]
    names = set()
    for unit in "ab":
        path = tmp_path / unit
        path.write_bytes(factory_image(moor, unit))
        shelf = Shelf(tmp_path / f"shelf {unit}")
        names.add(read_radio(Link(DirectLine(SimulatedRadio(moor, path, Faults()))), moor, shelf, NOW).unit)
    assert len(names) == 2
    assert all(name.startswith("serial ") for name in names)


def test_an_identity_with_and_without_a_serial_number_comes_back():
    for serial in ("", "A1B2"):
        identity = RadioIdentity("tarn16", "1.04", 65_536, 512, serial)
        assert unpack_identity(pack_identity(identity)) == identity
    assert len(unpack_identity(pack_identity(RadioIdentity("m", "1", 1, 1, "9" * 500))).serial) == 64


def test_backups_of_one_second_and_of_a_clock_set_back_are_in_their_order(radios, shelf):
    for at in range(12):
        flip(radios[0], 0x5000 + at)
        read(radios[0], shelf)
    flip(radios[0], 0x6000)
    newest = read(radios[0], shelf, NOW - timedelta(days=900)).backup
    assert shelf.backups()[0] == newest
    assert [item.number for item in shelf.backups()] == list(range(13, 0, -1))
    assert newest.path.stat().st_mode & 0o777 == 0o600


# The last look: what would be written, held against the plan as it stands.


def fitted(plan, key="tarn"):
    index = PlanIndex(plan, TODAY)
    radio = index.radios[key]
    return index, radio, PROFILES[radio.profile], fit(index, radio, PROFILES[radio.profile]).memory


def test_a_fitted_memory_passes(plan):
    for radio in plan.radios:
        assert must_not_send(*fitted(plan, radio.key)) == []


@given(plans())
def test_whatever_is_fitted_passes(plan):
    for radio in plan.radios:
        assert must_not_send(*fitted(plan, radio.key)) == []


@pytest.mark.parametrize(
    ("change", "why"),
    [
        (
            lambda plan: set_route(PlanIndex(plan, TODAY), ROUTE, "x", receive_only=True).apply(plan),
            "holds it to listening",
        ),
        (lambda plan: set_guard(True).apply(plan), "guard is on"),
        (lambda plan: set_licence("x", granted=False).apply(plan), "until the licence is granted"),
        (lambda plan: set_licence("x", granted_on="2999-01-01").apply(plan), "counts from 2999-01-01"),
        (lambda plan: set_licence("x", bands=("2 m",)).apply(plan), "the licence allows 2 m"),
        (lambda plan: set_licence("x", max_watts=0.5).apply(plan), "over the licence's 0.5 W"),
        (lambda plan: replace(plan, routes=()), "no longer in the plan"),
        (
            lambda plan: replace(plan, radios=(replace(plan.radios[0], identity="gone"),)),
            "until the licence is granted",
        ),
        (
            lambda plan: replace(plan, access=tuple(replace(item, kind="receive") for item in plan.access)),
            "is only listened to",
        ),
    ],
)
def test_a_memory_of_an_earlier_plan_is_stopped_by_the_plan_as_it_is_now(plan, change, why):
    _index, _radio, profile, memory = fitted(plan)
    now = PlanIndex(change(plan), TODAY)
    found = must_not_send(now, now.radios["tarn"], profile, memory)
    assert found
    assert any(why in reason for _name, reason in found), found
    assert refusal(found).startswith(f"Nothing was written: {found[0][0]}")


def test_an_image_that_would_let_a_held_channel_transmit_is_not_offered(plan, radios, shelf, monkeypatch):

    from umbra_awl.core.transfer import image

    _index, _radio, profile, memory = fitted(plan)
    held = read(radios[0], shelf)
    assert compare(held, memory, profile).memory is memory
    forgetful = lambda held_, made, about: merge(  # noqa: E731
        held_, replace(made, channels=tuple(replace(item, receive_only=False) for item in made.channels)), about
    )
    monkeypatch.setattr(image, "merge", forgetful)
    with pytest.raises(StaleError, match="nothing is offered to be written"):
        compare(held, memory, profile)
