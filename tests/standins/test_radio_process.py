from datetime import datetime

import pytest

from tests.days import TODAY
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.carry import Compared, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.difference import ChangeSheet
from umbra_awl.core.transfer.errors import NoPortError, UnpluggedError
from umbra_awl.core.transfer.link import Link
from umbra_awl.core.transfer.serial_line import SerialLine
from umbra_awl.core.transfer.shelf import Shelf, digest
from umbra_awl.core.transfer.unit import with_own_unit
from umbra_awl.demo.fresh import demo_plan, lay_out
from umbra_awl.standins.launch import RadioProcess, StandInError
from umbra_awl.standins.radio.device import factory_image

PROFILES = shipped_profiles()
NOW = datetime(2026, 11, 24, 3, 0, 0)


@pytest.fixture
def place(tmp_path):
    return tmp_path / "radio.bin", tmp_path / "radio.port", Shelf(tmp_path / "shelf")


def carry(port, profile, work):
    line = SerialLine(str(port), profile.line.baud)
    try:
        return work(Link(line))
    finally:
        line.close()


@pytest.mark.parametrize("key", ["tarn16", "moor4k"])
def test_a_radio_made_new_is_read_whole(place, key):
    memory, port, shelf = place
    profile = PROFILES[key]
    with RadioProcess(key, memory, port, speed=60) as radio:
        held = carry(port, profile, lambda link: read_radio(link, profile, shelf, NOW))
        assert radio.wait_for("display")["text"] == "READY"
        assert radio.wait_for("display")["text"].startswith("READING")
    assert held.image == memory.read_bytes() == factory_image(profile)
    assert not port.exists()


def to(held, target):
    return Compared(target, ChangeSheet((), {}), held.memory, digest(held.image))


def test_writing_changes_the_file_and_nothing_else(place):
    memory, port, shelf = place
    profile = PROFILES["tarn16"]
    with RadioProcess("tarn16", memory, port, speed=60):
        held = carry(port, profile, lambda link: read_radio(link, profile, shelf, NOW))
        target = held.image[:5000] + b"new" + held.image[5003:]
        carry(port, profile, lambda link: write_radio(link, profile, shelf, held, to(held, target)))
    assert memory.read_bytes() == target


def test_a_pulled_cable_comes_back_and_the_backup_restores(place):
    memory, port, shelf = place
    profile = PROFILES["tarn16"]
    with RadioProcess("tarn16", memory, port, speed=60):
        held = carry(port, profile, lambda link: read_radio(link, profile, shelf, NOW))
    target = with_own_unit(bytes(byte ^ 1 for byte in held.image), held.image, profile)
    with RadioProcess("tarn16", memory, port, faults=["unplug@110000"], speed=60) as radio:
        with pytest.raises(UnpluggedError):
            carry(port, profile, lambda link: write_radio(link, profile, shelf, held, to(held, target)))
        assert memory.read_bytes() not in {held.image, target}
        assert shelf.unfinished() is not None
        radio.wait_for("unplugged")
        radio.wait_for("ready")
        again = carry(port, profile, lambda link: read_radio(link, profile, shelf, NOW))
        assert again.state == "neither"
        assert again.backup == held.backup
        carry(port, profile, lambda link: restore_radio(link, profile, shelf, again.backup, NOW))
    assert memory.read_bytes() == held.image


def test_spoiled_frames_are_repeated(place):
    memory, port, shelf = place
    profile = PROFILES["tarn16"]
    with RadioProcess("tarn16", memory, port, faults=["corrupt@9"], speed=60):
        held = carry(port, profile, lambda link: read_radio(link, profile, shelf, NOW))
    assert held.image == memory.read_bytes()


def test_a_port_that_is_not_there(tmp_path):
    with pytest.raises(NoPortError, match="does not open"):
        SerialLine(str(tmp_path / "none"), 9600)


def test_a_stand_in_that_cannot_start_says_why(place):
    memory, port, _shelf = place
    with pytest.raises(StandInError, match="cannot be read"):
        RadioProcess("no-such-profile", memory, port)
    with pytest.raises(StandInError, match="is not a fault"):
        RadioProcess("tarn16", memory, port, faults=["fire"])


def test_the_demo_lies_in_its_folder_with_the_radios_that_can_be_simulated(tmp_path):
    demo = lay_out(tmp_path / "demo", TODAY)
    assert sorted(item.name for item in (tmp_path / "demo").iterdir()) == [
        "crag.radio",
        "directory",
        "fell.radio",
        "ferry-to-nessa.gpx",
        "moor.radio",
        "tarn.radio",
        "velmar-directory-newer.csv",
        "velmar-directory.csv",
        "velmar.awl.json",
    ]
    assert set(demo.radios) == {"tarn", "moor"} < {radio.key for radio in demo_plan(TODAY).radios}
    again = lay_out(tmp_path / "demo", TODAY)
    assert again == demo
