"""The people list into a radio: apart from its memory, proven by checksums, going on where it was cut."""

import json
from contextlib import contextmanager
from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.test_link import DirectLine
from tests.days import TODAY
from tests.examples import share
from umbra_awl.core.directory.people_search import Person
from umbra_awl.core.findings.evaluate import Evaluator
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import Known
from umbra_awl.core.plan.model import PeopleChoice
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.carry import Follow
from umbra_awl.core.transfer.errors import CancelledError, NotProvenError, RadioFullError, TransferError, UnpluggedError
from umbra_awl.core.transfer.held import people_known, shelf_of
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.pace import pace
from umbra_awl.core.transfer.people.carry import read_people, write_people
from umbra_awl.core.transfer.people.mark import PeopleMark, keep_people_mark, people_mark, rule_of
from umbra_awl.core.transfer.people.records import people_bytes, people_digest
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.core.transfer.way import Cable
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults

MOOR = shipped_profiles()["moor4k"]
DAY = "2026-11-20"


def crowd(count, shift=0):
    return [
        Person(9_990_000 + at, f"Q{at % 10}A{at:04d}"[:10], f"Name {at + shift}", "Stenby", "Velmar")
        for at in range(count)
    ]


@pytest.fixture
def memory(tmp_path):
    path = tmp_path / "moor.radio"
    path.write_bytes(factory_image(MOOR))
    return path


@contextmanager
def link(memory, **line):
    device = SimulatedRadio(MOOR, memory, Faults())
    try:
        yield Link(DirectLine(device, **line), quiet_s=0.02)
    finally:
        device.close()


def write(memory, body, follow=Follow(), **line):  # noqa: B008
    with link(memory, **line) as made:
        return write_people(made, MOOR, body, DAY, follow)


def held_in(memory):
    with link(memory) as made:
        return read_people(made, MOOR)


def region(memory, length):
    return memory.with_suffix(".people").read_bytes()[:length]


def test_people_are_written_and_the_memory_is_not_touched(memory):
    before, body = memory.read_bytes(), people_bytes(crowd(300), MOOR)
    written = write(memory, body)
    assert (written.sent_blocks, written.blocks) == (19, 19)
    held = held_in(memory)
    assert (held.rows, held.stamp, held.digest) == (300, DAY, people_digest(body))
    assert region(memory, len(body)) == body
    assert memory.read_bytes() == before


def test_only_what_differs_is_sent(memory):
    body = people_bytes(crowd(300), MOOR)
    write(memory, body)
    assert write(memory, body).sent_blocks == 0
    one = bytearray(body)
    one[5_000:5_003] = b"NEW"
    assert write(memory, bytes(one)).sent_blocks == 1


def test_cut_at_200_points_nothing_is_lost_and_it_goes_on_where_it_was(memory):
    """Half a list counts as none; the memory stays; what was sent is not sent again."""
    before = memory.read_bytes()
    old, new = people_bytes(crowd(160), MOOR), people_bytes(crowd(160, 7), MOOR)
    whole = 26_500
    for point in range(0, 200, 200 // share(200)):
        write(memory, old)
        sent = []
        try:
            write(memory, new, cut_after=60 + point * whole // 200)
        except UnpluggedError:
            sent.append(point)
        held = held_in(memory)
        assert (held.rows, held.digest) in {(0, bytes(16)), (160, people_digest(old)), (160, people_digest(new))}
        for body in (old, new):  # what counts as a list is that very list
            assert held.digest != people_digest(body) or region(memory, len(body)) == body
        left = sum(region(memory, len(new))[at : at + 1024] != new[at : at + 1024] for at in range(0, len(new), 1024))
        assert write(memory, new).sent_blocks == left
        assert held_in(memory).digest == people_digest(new)
    assert memory.read_bytes() == before


def test_140_000_people_are_stopped_in_the_middle_and_resumed(memory):
    body = people_bytes(crowd(140_000), MOOR)
    stop = []
    follow = Follow(
        lambda phase, done, _total: stop.append(1) if phase == "write" and done > 6_000_000 else None,
        lambda: bool(stop),
    )
    with pytest.raises(CancelledError):
        write(memory, body, follow)
    assert held_in(memory).rows == 0
    written = write(memory, body)
    assert 0 < written.sent_blocks < written.blocks - 5_000
    assert held_in(memory).rows == 140_000


def test_a_block_that_reads_back_otherwise_is_not_proven_and_counts_as_none(memory):
    body = people_bytes(crowd(160), MOOR)

    def spoil(phase, done, total):
        if phase == "write" and done == total:
            path = memory.with_suffix(".people")
            data = bytearray(path.read_bytes())
            data[3_000] ^= 1
            path.write_bytes(data)

    with pytest.raises(NotProvenError, match="1 of 10 blocks"):
        write(memory, body, Follow(spoil))
    assert held_in(memory).rows == 0
    assert write(memory, body).sent_blocks == 1


def test_the_wrong_firmware_is_told_before_anything_is_written(memory):
    memory.with_suffix(".firmware.json").write_text(json.dumps({"variant": "plain"}))
    body = people_bytes(crowd(12_001), MOOR)
    with pytest.raises(RadioFullError, match=r"\(Plain\) holds 12,000 people, and 12,001.*“Crowd” holds them"):
        write(memory, body)
    assert region(memory, 10) == b""
    assert write(memory, people_bytes(crowd(12_000), MOOR)).blocks == 750


def test_a_radio_that_keeps_no_people_says_so(tmp_path):
    tarn = shipped_profiles()["tarn16"]
    path = tmp_path / "tarn.radio"
    path.write_bytes(factory_image(tarn))
    with pytest.raises(TransferError):
        read_people(Link(DirectLine(SimulatedRadio(tarn, path, Faults())), quiet_s=0.02), tarn)


TEXTS = st.text(max_size=30)


@given(st.lists(st.builds(Person, st.integers(0, 2**40), TEXTS, TEXTS, TEXTS, TEXTS), max_size=5))
def test_anybody_takes_exactly_one_record(people):
    assert len(people_bytes(people, MOOR)) == MOOR.people.record * len(people)


def test_pace_says_nothing_too_early_and_then_what_is_left():
    assert pace(10, 100, 0.1).words() == ""
    assert pace(50_000, 100_000, 1).words() == "50 KB a second, 1 s left"
    assert pace(1_000_000, 31_000_000, 10).words() == "100 KB a second, 5 min left"


def found(plan, people):
    findings = Evaluator(shipped_profiles()).evaluate(PlanIndex(plan, TODAY), Known(people=people))
    return [item.rule.name for item in findings if item.rule.name.startswith("people-")]


def with_people(plan, choice):
    return replace(
        plan, radios=tuple(replace(item, people=choice) if item.key == "moor" else item for item in plan.radios)
    )


def test_chosen_people_that_are_not_in_the_radio_are_a_finding_until_they_are(plan, tmp_path):
    file = tmp_path / "plan.awl.json"
    chosen = with_people(plan, PeopleChoice(countries=("Velmar",)))
    assert people_known(file, plan, DAY) == {}
    assert found(chosen, people_known(file, chosen, DAY)) == ["people-not-written"]
    shelf = shelf_of(file, "moor")
    radio = next(item for item in chosen.radios if item.key == "moor")
    keep_people_mark(shelf, PeopleMark(300, "ab", rule_of(radio), DAY))
    assert people_mark(shelf).rows == 300
    assert found(chosen, people_known(file, chosen, DAY)) == []
    assert found(chosen, people_known(file, chosen, "2026-11-25")) == ["people-old"]
    other = with_people(plan, PeopleChoice(everybody=True))
    assert found(other, people_known(file, other, DAY)) == ["people-not-written"]


def test_reading_a_radio_takes_note_of_the_people_in_it(memory, tmp_path):
    shelf = Shelf(tmp_path / "shelf")
    body = people_bytes(crowd(50), MOOR)
    write(memory, body)
    keep_people_mark(shelf, PeopleMark(50, people_digest(body).hex(), "rule", DAY))
    device = SimulatedRadio(MOOR, memory, Faults())
    way = Cable("port", MOOR, shelf, lambda _port, _baud: DirectLine(device))
    way.read(datetime(2026, 11, 26), Follow())
    assert people_mark(shelf).rule == "rule"
    write(memory, people_bytes(crowd(30, 5), MOOR))
    way.read(datetime(2026, 11, 26, 1), Follow())
    assert (people_mark(shelf).rows, people_mark(shelf).rule) == (30, "")
    device.close()
