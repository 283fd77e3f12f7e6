"""Names that become paths, cells that could run, and how much is read."""

import os

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.keep.cells import guarded, unguarded
from umbra_awl.core.keep.limits import LimitError, open_regular, read_within
from umbra_awl.core.keep.naming import LONGEST, free_path, path_name, readable_name


@given(st.text())
def test_a_name_is_one_plain_part_of_a_path(text):
    made = path_name(text)
    assert "/" not in made
    assert made not in {"", ".", ".."}
    assert not made.startswith(".")
    assert "\0" not in made
    assert len(made) <= LONGEST
    assert path_name(made) == made


@given(st.text(), st.text())
def test_two_names_never_share_a_path(one, other):
    assert (path_name(one) == path_name(other)) is (one == other) or path_name(one) == other or path_name(other) == one


@pytest.mark.parametrize("key", ["tarn", "moor-2", "Fell D2", "a.b_c"])
def test_plain_keys_stay_as_they_are(key):
    assert path_name(key) == key


@pytest.mark.parametrize("key", ["../../x", "/etc/passwd", "a/b", ".hidden", "a\nb", "x" * 300, "\ud800", "", "Ä"])
def test_keys_that_would_lead_elsewhere_do_not(key, tmp_path):
    (tmp_path / path_name(key)).write_text("x")
    assert len(list(tmp_path.iterdir())) == 1


@pytest.mark.parametrize(("name", "made"), [("Club list", "club-list"), ("  ", "layout"), ("Ä/../b", "ä----b")])
def test_readable_names(name, made):
    assert readable_name(name, "layout") == made


def test_a_free_path_counts_on(tmp_path):
    for wanted in ("a.x", "a 2.x", "a 3.x"):
        made = free_path(tmp_path, "a", ".x")
        assert made.name == wanted
        made.touch()


@given(st.text())
def test_a_cell_comes_back_as_it_was(text):
    assert unguarded(guarded(text)) == text
    assert not guarded(text).startswith(("=", "@", "\t", "\r"))


@pytest.mark.parametrize("text", ["=1+1", "+cmd|' /C calc'!A0", "-2+3", "@SUM(A1)", "\t=1", "-7.6 MHz =x"])
def test_what_a_spreadsheet_would_run_is_written_as_text(text):
    assert guarded(text) == f"'{text}"


@pytest.mark.parametrize("text", ["-7.6", "+", "-", "+600", "-0,6", "Home", "", "'quoted'", "−7.6"])
def test_numbers_signs_and_plain_text_are_left_alone(text):
    assert guarded(text) == text


def test_pipes_devices_and_folders_are_refused_at_once(tmp_path):
    pipe = tmp_path / "pipe"
    os.mkfifo(pipe)
    for path in (pipe, os.devnull, "/dev/zero"):
        with pytest.raises(LimitError, match="no file"):
            open_regular(type(tmp_path)(path))
    with pytest.raises(IsADirectoryError):
        open_regular(tmp_path)


def test_only_so_much_is_read(tmp_path):
    path = tmp_path / "a"
    path.write_bytes(b"x" * 2_000)
    assert len(read_within(path, 2_000)) == 2_000
    with pytest.raises(LimitError, match="larger than 2 KB"):
        read_within(path, 1_999)
