"""When a radio counts as proven: only while it was found to hold the very memory that is fitted now."""

from datetime import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.test_link import DirectLine
from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.punch import set_route
from umbra_awl.core.transfer.carry import compare, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.errors import UnpluggedError
from umbra_awl.core.transfer.held import proved, shelf_of
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.sense import emptied, senseless
from umbra_awl.core.transfer.shelf import print_of
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults

TARN = shipped_profiles()["tarn16"]
ROUTE = "blackfell-dmr>isles-wide@2"
NOW = datetime(2026, 11, 24, 3, 0, 0)


class Bench:
    """A radio that was read, compared, written and found equal, as the window does it."""

    def __init__(self, folder, index):
        self.file = folder / "p.awl.json"
        self.index = index
        self.fit = fit(index, index.radios["tarn"], TARN)
        self.shelf = shelf_of(self.file, "tarn")
        self.radio = folder / "tarn.radio"
        self.radio.write_bytes(factory_image(TARN, "one"))

    def link(self, path=None, **line):
        return Link(DirectLine(SimulatedRadio(TARN, path or self.radio, Faults()), **line), quiet_s=0.02)

    def read(self, path=None):
        return read_radio(self.link(path), TARN, self.shelf, NOW)

    def compare(self, held):
        made = compare(held, self.fit.memory, TARN)
        self.shelf.remember_held("" if made.sheet.changes else print_of(made.memory))
        return made

    def write(self, **line):
        held = self.read()
        write_radio(self.link(**line), TARN, self.shelf, held, compare(held, self.fit.memory, TARN))
        self.compare(self.read())

    def proved(self):
        return proved(self.file, {"tarn": self.fit})


@pytest.fixture
def bench(tmp_path, index):
    return Bench(tmp_path, index)


def test_a_radio_is_proven_by_what_it_was_found_to_hold(bench):
    assert not bench.proved()
    assert bench.compare(bench.read()).sheet.changes
    assert not bench.proved()
    bench.write()
    assert bench.proved() == {"tarn"}


def test_an_edit_that_reaches_the_radio_takes_its_proof_and_another_does_not(bench):
    bench.write()
    index = PlanIndex(rename_plan("Another name").apply(bench.index.plan), TODAY)
    bench.fit = fit(index, index.radios["tarn"], TARN)
    assert bench.proved() == {"tarn"}
    index = PlanIndex(set_route(index, ROUTE, "Rename", name="OTHER").apply(index.plan), TODAY)
    bench.fit = fit(index, index.radios["tarn"], TARN)
    assert not bench.proved()


def test_a_restored_backup_is_no_proof(bench):
    first = bench.read().backup
    bench.write()
    restore_radio(bench.link(), TARN, bench.shelf, first, NOW)
    assert not bench.proved()


def test_a_write_that_was_cut_is_no_proof(bench):
    bench.write()
    held = bench.read()
    image = bytearray(merge(held.image, bench.fit.memory, TARN))
    image[-1] ^= 0xFF
    made = compare(held, bench.fit.memory, TARN)._replace(target=bytes(image))
    bench.compare(held)
    assert bench.proved() == {"tarn"}
    with pytest.raises(UnpluggedError):
        write_radio(bench.link(cut_after=5_200), TARN, bench.shelf, held, made)
    assert not bench.proved()
    bench.shelf.remember_held(print_of(bench.fit.memory))
    assert not bench.proved(), "the mark of the write stands"


def test_a_write_takes_the_proof_until_what_was_read_back_is_compared(bench):
    bench.write()
    held = bench.read()
    made = bench.compare(held)
    assert bench.proved() == {"tarn"}
    write_radio(bench.link(), TARN, bench.shelf, held, made)
    assert bench.shelf.unfinished() is None
    assert not bench.proved(), "written whole, and not compared yet"


def test_another_radio_of_the_kind_has_no_proof_of_the_first(bench, tmp_path):
    bench.write()
    other = tmp_path / "other.radio"
    other.write_bytes(factory_image(TARN, "two"))
    bench.read(other)
    assert not bench.proved()


def test_what_was_changed_by_keys_since_is_found_at_the_next_reading(bench):
    bench.write()
    image = merge(bench.radio.read_bytes(), emptied(decode(bench.radio.read_bytes(), TARN)), TARN)
    bench.radio.write_bytes(image)
    bench.read()
    assert not bench.proved(), "read, and not compared yet"


@pytest.mark.parametrize("filled", [b"\xff", b"\x55\xaa", b"another maker's words, over and over. "])
def test_what_nobody_programmed_makes_no_sense(filled):
    image = (filled * TARN.image.size)[: TARN.image.size]
    held = decode(image, TARN)
    assert "nothing readable" in senseless(held)


def test_what_was_programmed_makes_sense(bench):
    assert not senseless(bench.fit.memory)
    assert not senseless(decode(merge(factory_image(TARN, "x"), bench.fit.memory, TARN), TARN))
    assert "nothing readable" in senseless(Memory("tarn16", call="\x00\x01"))
    begun = emptied(bench.fit.memory)
    assert (begun.radio, begun.channels) == (bench.fit.memory.radio, ())


@given(seed=st.integers(0, 2**32))
def test_noise_is_never_taken_for_a_memory(seed):
    import random

    noise = random.Random(seed).randbytes(TARN.image.size)
    assert "nothing readable" in senseless(decode(noise, TARN))


def test_one_slip_does_not_make_a_memory_senseless(bench):
    channels = bench.fit.memory.channels
    odd = replace(bench.fit.memory, channels=(replace(channels[0], name="\x07"), *channels[1:]))
    assert not senseless(odd)
