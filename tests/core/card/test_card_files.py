"""What a card may hold of every kind of damage and malice: a clear fault, soon, and nothing read that is not on the card."""

import os
import tracemalloc

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.card.bench import PROFILES, Bench
from umbra_awl.core.transfer.card.form import MARK, CardFile, CardHeader, pack, parse
from umbra_awl.core.transfer.card.look import Looker, read_file
from umbra_awl.core.transfer.errors import CardFileError

FELL = PROFILES["fell-d2"]
HEADERS = st.builds(
    CardHeader,
    st.text(max_size=20),
    st.sampled_from(["memory", "around"]),
    st.sampled_from(["radio", "computer"]),
    st.integers(0, 10**9),
    st.text(max_size=20),
    st.sampled_from(["everything", "memories", "settings"]),
)


@given(HEADERS, st.binary(max_size=300))
def test_a_file_reads_back_as_it_was_packed(header, body):
    assert parse(pack(CardFile(header, body))) == CardFile(header, body)


@given(HEADERS, st.binary(max_size=300), st.data())
def test_any_change_of_a_file_is_told(header, body, data):
    whole = pack(CardFile(header, body))
    at = data.draw(st.integers(0, len(whole) - 1))
    spoiled = bytearray(whole)
    spoiled[at] ^= data.draw(st.integers(1, 255))
    with pytest.raises(CardFileError):
        parse(bytes(spoiled))
    with pytest.raises(CardFileError):
        parse(whole[:at])


@given(st.binary(max_size=400))
def test_noise_is_no_file(noise):
    for data in (noise, MARK + noise):
        with pytest.raises(CardFileError):
            parse(data)


@pytest.fixture
def card(tmp_path):
    bench = Bench(tmp_path)
    bench.out()
    return bench


def faults(bench):
    view = bench.looker.look(bench.root, bench.profile)
    return {item.name: item.fault for item in view.files if item.fault}


def test_huge_files_pipes_links_and_folders_are_told_and_not_read(card):
    with (card.kept / "HUGE.AWC").open("wb") as file:
        file.truncate(4 * 2**30)
    os.mkfifo(card.kept / "PIPE.AWC")
    (card.kept / "LINK.AWC").symlink_to("/etc/passwd")
    (card.kept / "DIR.AWC").mkdir()
    tracemalloc.start()
    told = faults(card)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    assert peak < 20_000_000
    assert set(told) == {"HUGE.AWC", "PIPE.AWC", "LINK.AWC", "DIR.AWC"}
    assert "4,294,967,296 bytes" in told["HUGE.AWC"]
    assert card.read().image == card.image


@pytest.mark.parametrize(
    "name", ["..AWC", "a\nb.AWC", "﻿\u202e.AWC", "x" * 200 + ".AWC", "<b>.AWC", "save0009.awc", b"\xff\xfe.AWC"]
)
def test_hostile_names_harm_nothing(card, name):
    path = card.kept / os.fsdecode(name)
    path.write_bytes(pack(CardFile(CardHeader("fell-d2", number=9), b"short")))
    assert any("holds 5 bytes" in fault for fault in faults(card).values())
    assert card.read().image == card.image


NAMES = st.text(st.characters(codec="ascii", exclude_characters="/\0"), min_size=1, max_size=12)


@given(st.lists(st.tuples(NAMES, st.binary(max_size=64)), max_size=6))
def test_any_folder_full_of_files_is_looked_at_without_a_fault(tmp_path_factory, files):
    root = tmp_path_factory.mktemp("card")
    kept = root / FELL.card.folder / FELL.card.backup
    kept.mkdir(parents=True)
    for name, data in files:
        if name not in {".", ".."}:
            (kept / (name + ".AWC")).write_bytes(data)
    view = Looker().look(root, FELL)
    assert view.memories("radio") == []


def test_only_what_changed_is_read_again(card):
    looker = Looker()
    first = looker.look(card.root, FELL)
    assert looker.look(card.root, FELL).files[0] is first.files[0]
    path = card.kept / first.files[0].name
    path.write_bytes(path.read_bytes()[:-1] + b"x")
    assert "checksum" in looker.look(card.root, FELL).files[0].fault


def test_a_path_that_leads_out_of_the_card_is_not_followed(card, tmp_path):
    (tmp_path / "secret").mkdir()
    (tmp_path / "secret" / "SAVE0001.AWC").write_bytes((card.kept / "SAVE0001.AWC").read_bytes())
    (card.root / "OUT").symlink_to(tmp_path / "secret")
    with pytest.raises(OSError, match=r"Not a directory|levels of symbolic"):
        read_file(card.root, ("OUT",), "SAVE0001.AWC")


def test_small_letters_are_the_same_folder(card):
    card.kept.rename(card.kept.with_name(card.kept.name.lower()))
    card.kept.parent.rename(card.kept.parent.with_name(card.kept.parent.name.lower()))
    assert card.looker.look(card.root, FELL).memories("radio")
