"""Firmware: the right file only, never without a backup or on a low battery, and whole again after it was interrupted."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.test_link import DirectLine
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.errors import FirmwareError, LoadingError, RadioBatteryError, TransferError, UnpluggedError
from umbra_awl.core.transfer.firmware.form import FirmwareFile, FirmwareHeader, pack, parse
from umbra_awl.core.transfer.firmware.load import load
from umbra_awl.core.transfer.firmware.wanted import load_steps, wanted_variant
from umbra_awl.core.transfer.image import decode
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.people.carry import read_people
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults

MOOR = shipped_profiles()["moor4k"]
FILE = FirmwareFile(FirmwareHeader("moor4k", "plain", "2.00"), bytes(range(256)) * 200)


class Bench:
    def __init__(self, place, battery=100):
        self.memory = place / "moor.radio"
        self.memory.write_bytes(factory_image(MOOR))
        self.shelf = Shelf(place / "shelf")
        self.device = SimulatedRadio(MOOR, self.memory, Faults(battery=battery))

    def keep(self):
        from datetime import datetime

        image = self.memory.read_bytes()
        self.shelf.keep(decode(image, MOOR), image, datetime(2026, 11, 26))
        return self

    def load(self, file=FILE, **line):
        return load(Link(DirectLine(self.device, **line), quiet_s=0.02), MOOR, self.shelf, file)

    def close(self):
        self.device.close()


@pytest.fixture
def bench(tmp_path):
    made = Bench(tmp_path)
    yield made
    made.close()


def test_loaded_by_the_steps_and_the_memory_stays(bench):
    before = bench.keep().memory.read_bytes()
    bench.device.switch(on=True, keys=True)
    assert bench.device.display == "LOADING STATE"
    assert bench.load() == len(FILE.body)
    bench.device.switch(on=True)
    assert (bench.device.loader.version, bench.device.loader.variant.key) == ("2.00", "plain")
    assert bench.memory.read_bytes() == before


def test_never_without_a_backup_and_never_into_a_running_radio(bench):
    bench.device.switch(on=True, keys=True)
    with pytest.raises(FirmwareError, match="no backup"):
        bench.load()
    bench.keep().device.switch(on=True)
    with pytest.raises(FirmwareError, match="hold Heel and the talk key"):
        bench.load()


def made_for(**header):
    return FirmwareFile(FirmwareHeader("moor4k", "plain", "2.00", **header), FILE.body)


def test_a_file_of_another_make_is_refused_and_one_that_nobody_looked_at_too(bench):
    bench.keep().device.switch(on=True, keys=True)
    link = Link(DirectLine(bench.device), quiet_s=0.02)
    with pytest.raises(FirmwareError, match="on the label under the battery"):
        load(link, MOOR, bench.shelf, made_for(hardware="mark I"))
    with pytest.raises(FirmwareError, match="for mark II; yours is mark I"):
        load(link, MOOR, bench.shelf, made_for(hardware="mark II"), hardware="mark I")
    assert not bench.device.loader._kept().get("broken"), "nothing was begun"
    with pytest.raises(TransferError, match="another make"):
        load(link, MOOR, bench.shelf, made_for(hardware="mark II"), hardware="mark II")  # its owner misread the label
    assert load(link, MOOR, bench.shelf, made_for(hardware="mark I"), hardware="mark I")


def test_a_second_file_goes_in_after_the_first_and_spoils_nothing(bench):
    bench.keep().device.switch(on=True, keys=True)
    bench.load()
    assert bench.device.loader.second == ""
    bench.device.switch(on=True, keys=True)
    bench.load(made_for(second=True))
    bench.device.switch(on=True)
    assert (bench.device.loader.version, bench.device.loader.second) == ("2.00", "2.00")
    titles = " ".join(step.title for step in load_steps(MOOR))
    assert titles.index("Load the file") < titles.index("Load the second file, its spoken menus")


def test_a_second_file_is_refused_where_none_belongs_and_before_the_first_is_whole(bench):
    with pytest.raises(FirmwareError, match="none belongs to a Moor 4K"):
        parse(pack(made_for(second=True)), replace(MOOR, loading=replace(MOOR.loading, second="")))
    bench.keep().device.switch(on=True, keys=True)
    with pytest.raises(UnpluggedError):
        bench.load(cut_after=5_000)
    bench.device.switch(on=True, keys=True)
    with pytest.raises(TransferError, match="first file is not whole"):
        bench.load(made_for(second=True))


def test_what_is_looked_at_before_anything_is_loaded():
    told = {step.title: step.sees for step in load_steps(MOOR, MOOR.variant("plain"), "mark II")}
    assert "Keep the file of “Plain” too" in told
    assert "password" in told["Read the small print beside the file"]
    assert "Yours is mark II" in told["Look at its mark, on the label under the battery"]
    assert (
        "mark I or mark II"
        in {step.title: step.sees for step in load_steps(MOOR)}["Look at its mark, on the label under the battery"]
    )


def test_never_on_a_low_battery(tmp_path):
    bench = Bench(tmp_path, battery=10).keep()
    bench.device.switch(on=True, keys=True)
    with pytest.raises(RadioBatteryError, match="Charge it"):
        bench.load()
    bench.device.switch(on=True)
    assert bench.device.loader.version == "1.04"
    bench.close()


@pytest.mark.parametrize("cut", [1_000, 5_000, 30_000, 52_000])
def test_interrupted_it_comes_up_in_loading_state_and_the_same_steps_bring_it_back(bench, cut):
    bench.keep().device.switch(on=True, keys=True)
    with pytest.raises(UnpluggedError):
        bench.load(cut_after=cut)
    bench.device.switch(on=True)
    assert bench.device.loader.loading
    with pytest.raises(LoadingError, match="same"):
        read_people(Link(DirectLine(bench.device), quiet_s=0.02), MOOR)
    bench.device.switch(on=True, keys=True)
    bench.load()
    bench.device.switch(on=True)
    assert bench.device.loader.version == "2.00"


def test_a_radio_of_another_model_on_the_port_is_not_loaded(bench):
    bench.keep()
    other = SimulatedRadio(MOOR, bench.memory, Faults(wrong_model=True))
    other.switch(on=True, keys=True)
    with pytest.raises(FirmwareError, match="is a “fell-d2”"):
        load(Link(DirectLine(other), quiet_s=0.02), MOOR, bench.shelf, FILE)
    other.close()
    bench.device.switch(on=True, keys=True)
    with pytest.raises(FirmwareError):
        bench.load(FirmwareFile(FirmwareHeader("tarn16", "people", "1"), b"x"))


def test_another_models_damaged_or_unknown_file_is_refused():
    other = pack(FirmwareFile(FirmwareHeader("tarn16", "people", "1"), b"x"))
    with pytest.raises(FirmwareError, match="for a “tarn16”"):
        parse(other, MOOR)
    with pytest.raises(FirmwareError, match="no variant"):
        parse(pack(FirmwareFile(FirmwareHeader("moor4k", "best", "1"), b"x")), MOOR)
    whole = pack(FILE)
    assert parse(whole, MOOR)[0] == FILE
    for spoiled in (whole[:-1], whole[:100] + b"x" + whole[101:], b"", b"AWLFIRM1"):
        with pytest.raises(FirmwareError, match="cannot be used"):
            parse(spoiled, MOOR)


@given(st.binary(max_size=200))
def test_noise_is_no_firmware(noise):
    with pytest.raises(TransferError):
        parse(noise, MOOR)


def test_which_variant_the_plan_wants_and_what_it_costs():
    few, many = wanted_variant(MOOR, "Plain", "", 12_000), wanted_variant(MOOR, "Plain", "", 12_001)
    assert (few.change, many.change, many.wanted.key) == (False, True, "crowd")
    assert "costs the spectrum view" in many.text
    assert "Choose fewer" in wanted_variant(MOOR, "", "", 300_000).text
    assert wanted_variant(shipped_profiles()["tarn16"], "", "", 5).change is False
    titles = [step.title for step in load_steps(MOOR)]
    assert titles[0] == "Read it and keep a backup"
    assert any("Heel and the talk key" in title for title in titles)
    assert load_steps(shipped_profiles()["tarn16"]) == ()
