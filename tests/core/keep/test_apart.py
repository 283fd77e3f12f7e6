"""A process of its own for what others made: bounded in time and memory, and nothing but our own values comes back."""

import io
import os
import pickle
import sys
import time
from pathlib import Path

import pytest

from umbra_awl.core.keep.apart import ApartError, Bounds, _Reader, apart
from umbra_awl.core.keep.limits import LimitError, read_within
from umbra_awl.core.plan.disk.store import StoreError, read_plan, write_plan
from umbra_awl.core.plan.model import Plan


def sleeps(seconds):
    time.sleep(seconds)


def counts_for_ever():
    while True:
        pass


def takes(megabytes):
    return len(bytearray(megabytes * 1_000_000))


def ends():
    os._exit(3)


def prints():
    sys.stdout.write("not an answer")
    os.write(1, b"nor this")
    return 7


def strange():
    class Mine:
        pass

    return Mine


def a_library_s():
    import fractions

    return fractions.Fraction(1, 2)


def test_a_result_comes_back_as_it_was_made(tmp_path):
    file = tmp_path / "some.bin"
    file.write_bytes(b"abc")
    assert apart(read_within, file, 100) == b"abc"
    assert apart(prints) == 7


def test_what_does_not_end_is_stopped():
    began = time.monotonic()
    with pytest.raises(ApartError, match="1 seconds"):
        apart(sleeps, 60, bounds=Bounds(1.0))
    with pytest.raises(ApartError, match="1 seconds"):
        apart(counts_for_ever, bounds=Bounds(1.0))
    assert time.monotonic() - began < 20


def test_what_takes_too_much_memory_is_stopped():
    assert apart(takes, 50, bounds=Bounds(30, 200)) == 50_000_000
    with pytest.raises(ApartError, match="more than 200 MB"):
        apart(takes, 400, bounds=Bounds(30, 200))


def test_a_reader_that_ends_is_told():
    with pytest.raises(ApartError, match="ended"):
        apart(ends)


def test_our_own_errors_stay_what_they_are(tmp_path):
    file = tmp_path / "some.bin"
    file.write_bytes(b"abcdef")
    with pytest.raises(LimitError, match="larger than"):
        apart(read_within, file, 3)
    with pytest.raises(FileNotFoundError):
        apart(read_within, tmp_path / "none", 3)
    with pytest.raises(StoreError):
        apart(read_plan, tmp_path / "none.awl")


@pytest.mark.parametrize("work", [strange, a_library_s])
def test_only_plain_values_and_our_own_come_back(work):
    with pytest.raises((ApartError, pickle.UnpicklingError)):
        apart(work)


def test_nothing_can_be_called_by_what_comes_back():
    class Evil:
        def __reduce__(self):
            return os.system, ("true",)

    with pytest.raises(pickle.UnpicklingError, match="system"):
        _Reader(io.BytesIO(pickle.dumps((True, Evil())))).load()


@pytest.mark.parametrize(
    ("module", "name"),
    [
        ("umbra_awl.core.keep.apart", "os.system"),
        ("umbra_awl.core.keep.apart", "subprocess.run"),
        ("umbra_awl.core.keep.apart", "subprocess"),
        ("umbra_awl.core.keep.atomic", "write_over"),
        ("umbra_awl.standins.launch", "StandInProcess"),
        ("umbra_awl.core.logbook.log_file", "LogFile"),
    ],
)
def test_neither_what_our_modules_import_nor_what_does_something_comes_back(module, name):
    with pytest.raises((pickle.UnpicklingError, AttributeError)):
        _Reader(io.BytesIO()).find_class(module, name)


def test_a_plan_comes_over_whole(tmp_path, plan):
    place = tmp_path / "a.awl"
    write_plan(place, plan)
    found = apart(read_plan, Path(place))
    assert isinstance(found, Plan)
    assert found == read_plan(place)
