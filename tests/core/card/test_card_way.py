"""There and back over a memory card; every slip on the way is told apart by what is found."""

import os
from pathlib import Path

import pytest
from hypothesis import given

from tests.core.card.bench import CARD_FED, NOW, PROFILES, Bench
from tests.core.test_image import _writable
from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.radio.memory import without_routes
from umbra_awl.core.transfer.card.form import CardFile, CardHeader
from umbra_awl.core.transfer.card.mark import CardMark
from umbra_awl.core.transfer.card.send import _prove, put_file
from umbra_awl.core.transfer.card.steps import Past, found_out, steps_of
from umbra_awl.core.transfer.carry import Follow, compare
from umbra_awl.core.transfer.errors import (
    CardFileError,
    CardLockedError,
    ChangedRadioError,
    NoCardError,
    NotProvenError,
    OlderError,
    OtherUnitError,
    PartOnlyError,
    StaleError,
    WrongModelError,
)
from umbra_awl.core.transfer.image import decode, merge, owned_spans
from umbra_awl.core.transfer.shelf import Unfinished
from umbra_awl.standins.radio.device import factory_image


@pytest.fixture(params=CARD_FED)
def bench(request, tmp_path):
    return Bench(tmp_path, request.param)


def there(bench):
    """Out of the radio, read, compared, sent."""
    bench.out()
    bench.read()
    return bench.send()


def test_there_and_back_with_every_step_told_by_what_is_found(bench):
    before = bench.image
    assert bench.found().stage == "away"
    bench.out()
    assert (bench.found().stage, bench.found().done) == ("ready", 2)
    bench.read()
    assert (bench.found().stage, bench.found().done) == ("taken", 4)
    written = bench.send()
    assert not written.proven
    assert (bench.found().stage, bench.found().done) == ("sent", 5)
    bench.back()
    assert (bench.found().stage, bench.found().done) == ("in radio", 6)
    assert bench.image == before
    bench.load(written.name)
    assert bench.radio.lines[0] == bench.profile.card.done.upper()
    bench.out()
    assert bench.found().stage == "new"
    held = bench.read()
    assert held.state == "new"
    assert held.image == bench.image == written.image
    assert bench.shelf.unfinished() is None
    assert decode(held.image, bench.profile).channels == without_routes(bench.memory_of()).channels


def test_every_foreign_byte_of_the_radio_stays(bench):
    before = bytearray(bench.image)
    name = there(bench).name
    bench.back()
    bench.load(name)
    after = bytearray(bench.image)
    for start, end in owned_spans(bench.profile):
        before[start:end] = after[start:end] = bytes(end - start)
    assert before == after


@examples(30)
@given(plans())
def test_what_any_plan_puts_into_a_card_fed_radio_reads_back_the_same(plan):
    for key in CARD_FED:
        profile = PROFILES[key]
        memory = _writable(Bench.memory_of(_Profiled(profile), plan))
        image = merge(factory_image(profile), memory, profile)
        back = decode(image, profile)
        assert merge(image, memory, profile) == image
        for field in ("channels", "zones", "scans", "access_list", "call_signs", "rooms", "note", "halves"):
            assert getattr(back, field) == getattr(without_routes(memory), field), field


class _Profiled:
    def __init__(self, profile):
        self.profile = profile


def test_what_was_read_before_is_said_to_be(bench):
    bench.out()
    bench.read()
    bench.held = None
    assert (bench.found().stage, "read before" in bench.found().text) == ("ready", True)
    bench.back()
    bench.radio.memory.write_bytes(bench.image[:-1] + bytes([bench.image[-1] ^ 1]))
    bench.out()
    assert "read before" not in bench.found().text


def test_sent_but_not_taken_by_the_radio(bench):
    there(bench)
    bench.back()
    bench.out()
    found = bench.found()
    assert found.stage == "unread"
    assert found.amiss
    assert "has not taken" in found.text
    assert bench.read().state == "old"


def test_only_a_part_was_read_in(bench):
    bench.radio.memory.write_bytes(merge(bench.image, bench.memory_of(), bench.profile))
    bench.out()
    held = bench.read()
    memory = held.memory
    bench.held = held._replace(memory=memory)
    from msgspec.structs import replace

    wanted = replace(bench.memory_of(), call="Q9NEW", channels=bench.memory_of().channels[:-1])
    name = bench.send(wanted).name
    bench.back()
    bench.load(name, "memories")
    bench.out()
    assert bench.found().stage == "half"
    assert bench.read().state == "neither"


def test_only_a_part_was_written_out(bench):
    bench.out("memories")
    found = bench.found()
    assert found.stage == "part"
    assert bench.profile.card.write_out[-1] in found.todo
    with pytest.raises(PartOnlyError, match="only the radio's memories"):
        bench.read()
    assert bench.shelf.backups() == []


def test_only_a_copy_saved_and_nothing_sent(bench):
    bench.out()
    bench.read()
    bench.back()
    assert bench.found().stage == "unsent"
    assert "nothing was sent" in bench.found().text


def test_the_yes_that_must_be_given_each_time(bench):
    name = there(bench).name
    bench.back()
    before = bench.image
    bench.load(name, yes=bench.profile.card.yes - 1)
    assert bench.image == before
    assert bench.radio.state()["asks"]
    bench.radio.answer(yes=True)
    assert bench.image != before


def test_older_than_what_was_read_last(bench):
    bench.out()
    old = [(path.name, path.read_bytes()) for path in bench.kept.iterdir()]
    bench.read()
    bench.back()
    bench.radio.memory.write_bytes(bench.image[:-1] + bytes([bench.image[-1] ^ 1]))
    bench.out()
    bench.read()
    bench.held = None
    for path in bench.kept.iterdir():
        path.unlink()
    for name, data in old:
        (bench.kept / name).write_bytes(data)
    assert bench.found().stage == "older"
    with pytest.raises(OlderError, match="save 2 was read here already"):
        bench.read()
    assert bench.way._replace(older_ok=True).read(NOW, Follow()).image


def test_a_card_of_another_radio_and_a_file_of_another_model(bench, tmp_path):
    other_key = next(key for key in CARD_FED if key != bench.profile.key)
    other = Bench(tmp_path / "other", other_key)
    other.out()
    bench.radio.power()
    bench.radio.push_out()
    (other.root / other.profile.card.folder).rename(bench.root / other.profile.card.folder)
    assert f"a folder of a {other.profile.name}" in bench.found().text
    with pytest.raises(WrongModelError, match="none of"):
        bench.read()
    (bench.root / other.profile.card.folder).rename(bench.root / bench.profile.card.folder)
    kept = bench.root / bench.profile.card.folder / other.profile.card.backup
    if kept != bench.kept:
        kept.rename(bench.kept)
    with pytest.raises(WrongModelError, match=f"inside it is of a “{other_key}”"):
        bench.read()
    bench.back()
    bench.load("SAVE0001.AWC")
    assert bench.radio.lines[0] == "WRONG FILE"


def test_two_radios_of_a_kind_on_one_card_are_told_apart(bench, tmp_path):
    other = Bench(tmp_path / "second", bench.profile.key, unit="2")
    bench.out()
    own = bench.read()
    other.radio.write_out()
    other.radio.write_out()
    other.radio.power()
    other.radio.push_out()
    (other.kept / "SAVE0002.AWC").rename(bench.kept / "SAVE0002.AWC")
    assert bench.read().unit == own.unit
    (bench.kept / "SAVE0001.AWC").unlink()
    held = bench.read()
    assert (held.unit != own.unit, held.before) == (True, own.unit)
    bench.held = own
    with pytest.raises(OtherUnitError):
        bench.send()


def test_what_else_lies_on_a_card_is_said(bench, tmp_path):
    bench.out()
    other_key = next(key for key in CARD_FED if key != bench.profile.key)
    (bench.root / PROFILES[other_key].card.folder).mkdir()
    assert f"A folder of a {PROFILES[other_key].name} lies beside it" in bench.found().text
    second = Bench(tmp_path / "second", bench.profile.key, unit="2")
    second.out()
    (second.kept / "SAVE0001.AWC").rename(bench.kept / "SAVE0009.AWC")
    assert "2 radios of this kind" in bench.found().text


def test_a_card_written_anew_since_it_was_read_is_not_sent_to(bench):
    bench.out()
    bench.read()
    bench.back()
    bench.radio.memory.write_bytes(bench.image[:-1] + bytes([bench.image[-1] ^ 1]))
    bench.out()
    with pytest.raises(ChangedRadioError, match="written the card anew"):
        bench.send()


def test_no_card_no_folder_and_a_pulled_one(bench):
    with pytest.raises(NoCardError, match="No card is at"):
        bench.read()
    bench.radio.power()
    bench.radio.push_out()
    assert bench.found().stage == "empty"
    with pytest.raises(NoCardError, match="nothing onto this card yet"):
        bench.read()
    bench.back()
    bench.out()
    bench.read()
    bench.back()
    with pytest.raises(NoCardError):
        bench.send()
    assert bench.shelf.unfinished() is None


def test_foreign_files_stay_as_they_are(bench):
    bench.out()
    (bench.root / "HOLIDAY.JPG").write_bytes(b"picture")
    (bench.kept / "notes.txt").write_text("mine")
    bench.read()
    bench.send()
    assert (bench.root / "HOLIDAY.JPG").read_bytes() == b"picture"
    assert (bench.kept / "notes.txt").read_text() == "mine"
    assert sorted(path.name for path in bench.kept.iterdir()) == ["PLAN0001.AWC", "SAVE0001.AWC", "notes.txt"]


def test_a_link_instead_of_the_sent_file_leads_nowhere(bench, tmp_path):
    bench.out()
    bench.read()
    victim = tmp_path / "victim"
    victim.write_text("mine")
    (bench.kept / "PLAN0001.AWC").symlink_to(victim)
    bench.send()
    assert victim.read_text() == "mine"
    assert not (bench.kept / "PLAN0001.AWC").is_symlink()


def test_a_folder_that_is_a_link_is_not_followed(bench, tmp_path):
    bench.out()
    away = tmp_path / "away"
    bench.kept.parent.rename(away)
    bench.kept.parent.symlink_to(away)
    with pytest.raises(CardFileError, match="link that leads elsewhere"):
        bench.read()
    assert bench.found().stage == "wrong"


def test_a_card_pulled_while_the_radio_writes_leaves_a_file_that_is_refused(bench, tmp_path):
    pulled = Bench(tmp_path / "pulled", bench.profile.key, pull_at=8_192)
    pulled.radio.write_out()
    assert pulled.radio.lines == ["CARD PULLED", "FILE NOT WHOLE"]
    with pytest.raises(CardFileError, match=r"damaged|breaks off"):
        pulled.read()


@pytest.mark.skipif(os.geteuid() == 0, reason="whoever may do everything is kept out of no folder")
def test_a_write_protected_card(bench):
    bench.out()
    bench.read()
    bench.kept.chmod(0o555)
    try:
        with pytest.raises(CardLockedError):
            bench.send()
    finally:
        bench.kept.chmod(0o755)
    assert bench.shelf.unfinished() is None


def test_restoring_a_backup_over_the_card(bench):
    old = bench.image
    written = there(bench)
    bench.back()
    bench.load(written.name)
    bench.out()
    bench.read()
    assert bench.image != old
    sent = bench.way.restore(bench.shelf.backups()[-1], NOW, Follow())
    bench.back()
    bench.load(sent.name)
    assert bench.image == old


def test_the_proof_is_said_beforehand_and_the_radio_shows_it(bench):
    written = there(bench)
    bench.back()
    bench.load(written.name)
    channel = next(item for item in bench.memory_of().channels if not item.receive_only)
    bench.radio.knob.turn_to(channel.name)
    bench.radio.knob.key()
    assert bench.radio.lines == [channel.name, f"TX {channel.tx_hz / 1e6:.4f}"]


def test_every_step_says_whose_hands_do_it():
    for key in CARD_FED:
        steps = steps_of(PROFILES[key], "PLAN0001.AWC")
        assert [step.word for step in steps] == sorted(
            (step.word for step in steps), key=["read", "compare", "write", "prove"].index
        )
        assert {step.hands for step in steps} == {"radio", "you", "here"}
        assert any("PLAN0001.AWC" in step.how for step in steps)


def test_what_was_sent_and_is_gone_from_the_card_is_told(bench):
    name = there(bench).name
    (bench.kept / name).unlink()
    found = bench.found()
    assert (found.stage, found.done, found.amiss) == ("lost", 4, True)
    (bench.kept / name).write_bytes(b"other")
    assert bench.found().stage == "lost"


def test_a_part_written_out_after_sending_proves_nothing(bench):
    name = there(bench).name
    bench.back()
    bench.load(name)
    bench.out("memories")
    found = bench.found()
    assert (found.stage, found.done) == ("part", 5)
    assert bench.shelf.unfinished() is not None


def test_a_card_that_cannot_take_anything_is_told_before_it_is_sent_to(bench):
    bench.out()
    view = bench.looker.look(bench.root, bench.profile)
    assert "all of it" in found_out(view, bench.profile, Past()).text
    assert "small lock" in found_out(view._replace(locked=True), bench.profile, Past()).text
    assert "nearly full, 3 KB" in found_out(view._replace(free=3_000), bench.profile, Past()).text
    plain = found_out(view._replace(free=10**9), bench.profile, Past()).text
    assert "full" not in plain
    assert "lock" not in plain
    sent = Past(mark=CardMark(1, "x", "PLAN0001.AWC"), unfinished=Unfinished())
    assert "lock" not in found_out(view._replace(locked=True), bench.profile, sent).text


def test_only_what_was_compared_with_this_reading_is_sent(bench):
    bench.out()
    held = bench.read()
    compared = compare(held, bench.memory_of(), bench.profile)
    with pytest.raises(StaleError, match="earlier reading"):
        bench.way.write(held, compared._replace(of_image="other"), Follow())
    assert bench.shelf.unfinished() is None
    assert len(list(bench.kept.iterdir())) == 1


def test_a_backup_of_another_radio_is_only_laid_on_when_it_is_meant(bench, tmp_path):
    bench.out()
    bench.read()
    other = Bench(tmp_path / "second", bench.profile.key, unit="2")
    other.shelf = bench.shelf
    other.out()
    backup = bench.shelf.backups()[0]
    with pytest.raises(OtherUnitError, match="of another"):
        other.way.restore(backup, NOW, Follow())
    assert [path.name for path in other.kept.iterdir()] == ["SAVE0001.AWC"]
    sent = other.way.restore(backup, NOW, Follow(), other_unit=True)
    own = bench.profile.image.unit
    assert sent.image[own.at : own.at + own.length] == other.image[own.at : own.at + own.length]


def test_no_folder_that_is_a_link_is_written_into(bench, tmp_path):
    bench.out()
    away = tmp_path / "away"
    away.mkdir()
    (bench.root / "OTHER").symlink_to(away)
    with pytest.raises(CardFileError, match="link that leads elsewhere"):
        put_file(bench.root, ("OTHER",), "X.AWC", CardFile(CardHeader("x"), b""))
    assert list(away.iterdir()) == []


def test_what_reads_back_otherwise_is_not_proven(bench):
    bench.out()
    place = bench.kept / "X.AWC"
    place.write_bytes(b"other bytes")
    where = (bench.kept.parent.name, bench.kept.name)
    with pytest.raises(NotProvenError, match="holds something else"):
        _prove(bench.root, where, "X.AWC", b"what was sent")
    place.unlink()
    os.mkfifo(place)
    with pytest.raises(NotProvenError, match="no file"):
        _prove(bench.root, where, "X.AWC", b"what was sent")


def test_why_a_card_cannot_be_used(bench):
    assert bench.way.why_not() == ""
    assert "No card is chosen" in bench.way._replace(root=Path()).why_not()
    assert "Nothing is known" in bench.way._replace(profile=PROFILES["tarn16"]).why_not()
    with pytest.raises(NoCardError, match="Nothing is known"):
        _ = bench.way._replace(profile=PROFILES["gill-p"])._card
