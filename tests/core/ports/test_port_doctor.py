"""Every usual trouble of a port is recognised from a recorded computer, and told with the line to type."""

import pytest
from msgspec.structs import replace

from tests.core.test_link import DirectLine
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.errors import NoPortError, UnpluggedError
from umbra_awl.core.transfer.frames import RadioIdentity
from umbra_awl.core.transfer.ports.checks import PLACES, first_trouble, seen_of, words_of_way
from umbra_awl.core.transfer.ports.described import Described, Port, Usb
from umbra_awl.core.transfer.ports.gather import Root, describe
from umbra_awl.core.transfer.ports.knock import Answer, knock
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults

TARN = shipped_profiles()["tarn16"]
CHIP = Usb("1-2", "1a86", "7523", "USB Serial", "ch341")
PORT = Port("/dev/ttyUSB0", "1-2", "ch341", "dialout", readable=True)
EMPTY = Described(user="wren", groups=("wren", "dialout"))
WELL = replace(EMPTY, usb=(CHIP,), ports=(PORT,))
WHO = RadioIdentity("tarn16", "1.04", 65_536, 512)


def told(now, answer=None, before=EMPTY, device=""):
    found = first_trouble(seen_of(before, now, TARN, device, answer))
    return (PLACES[found.place], found.name, found.line) if found is not None else None


RECORDED = [
    (EMPTY, None, ("Plugged in", "cable without data lines", "")),
    (replace(EMPTY, usb=(replace(CHIP, driver=""),)), None, ("Driver", "no driver", "sudo modprobe ch341")),
    (replace(EMPTY, usb=(Usb("1-3", "dead", "beef", "Camera"),)), None, ("Driver", "no driver known", "lsusb")),
    (
        replace(EMPTY, usb=(replace(CHIP, driver=""),), running=("brltty",)),
        None,
        ("Port", "braille driver took it", "sudo systemctl mask --now brltty-udev.service brltty.path"),
    ),
    (
        replace(WELL, ports=(replace(PORT, readable=False),), groups=("wren",)),
        None,
        ("Right to open", "no right to open", "sudo usermod -aG dialout wren"),
    ),
    (
        replace(WELL, ports=(replace(PORT, readable=False),)),
        None,
        ("Right to open", "no right to open", "ls -l /dev/ttyUSB0"),
    ),
    (
        replace(WELL, ports=(replace(PORT, held_by="screen (process 77)"),)),
        None,
        ("Free", "another program holds it", "fuser -v /dev/ttyUSB0"),
    ),
    (
        replace(WELL, ports=(replace(PORT, held_by="ModemManager (process 5)"),), running=("ModemManager",)),
        None,
        ("Free", "modem manager took it", "sudo systemctl stop ModemManager"),
    ),
    (
        replace(WELL, running=("ModemManager",)),
        Answer("noise", noise=9),
        ("Free", "modem manager took it", "sudo systemctl stop ModemManager"),
    ),
    (WELL, Answer("no port", said="The port does not open."), ("Port", "port does not open", "ls -l /dev/ttyUSB0")),
    (WELL, Answer("silent"), ("Answers", "nobody answers", "")),
    (WELL, Answer("noise", noise=40), ("Answers", "wrong speed or a bad plug", "")),
    (WELL, Answer("other model", WHO._replace(model="moor4k")), ("Answers", "another model", "")),
    (WELL, Answer("loading", WHO), ("Answers", "loading state", "")),
    (WELL, Answer("locked", WHO), ("Answers", "write-locked", "")),
    (WELL, Answer("gone", said="The radio went away."), ("Answers", "went away", "")),
    (WELL, Answer("radio", WHO), None),
    (WELL, None, None),
]  # fmt: skip


@pytest.mark.parametrize(("now", "answer", "wanted"), RECORDED)
def test_each_trouble_is_recognised_and_told_with_its_line(now, answer, wanted):
    assert told(now, answer) == wanted


def test_a_cable_that_was_there_before_is_not_the_one_that_came():
    other = Usb("1-9", "10c4", "ea60", "", "cp210x")
    before = replace(EMPTY, usb=(other,), ports=(Port("/dev/ttyUSB7", "1-9"),))
    now = replace(before, usb=(other, CHIP), ports=(*before.ports, PORT))
    seen = seen_of(before, now, TARN)
    assert (seen.usb, seen.port) == (CHIP, PORT)
    assert told(before, before=before) == ("Plugged in", "cable without data lines", "")


def test_the_way_says_what_was_found_at_each_place():
    words = words_of_way(seen_of(EMPTY, WELL, TARN, answer=Answer("radio", WHO)))
    assert words == (
        "USB Serial (1a86:7523)",
        "ch341",
        "/dev/ttyUSB0",
        "dialout",
        "nobody else",
        "tarn16, firmware 1.04",
    )


@pytest.fixture
def radio(tmp_path):
    path = tmp_path / "tarn.radio"
    path.write_bytes(factory_image(TARN))
    made = []

    def line(faults=Faults(), **more):  # noqa: B008
        device = SimulatedRadio(TARN, path, faults)
        made.append(device)
        return device, lambda: DirectLine(device, **more)

    yield line
    for device in made:
        device.close()


def test_knocking_tells_every_kind_of_answer(radio):
    assert knock(radio()[1], TARN) == Answer("radio", WHO)
    assert knock(radio(Faults(wrong_model=True))[1], TARN).kind == "other model"
    assert knock(radio(Faults(locked=True))[1], TARN).kind == "locked"
    assert knock(radio(Faults(silent=True))[1], TARN).kind == "silent"
    assert knock(radio(cut_after=5)[1], TARN).kind == "gone"
    device, line = radio()
    device.switch(on=True, keys=True)
    assert knock(line, TARN).kind == "loading"
    device.switch(on=False)
    assert knock(line, TARN).kind == "silent"


class Noise:
    def write(self, data):
        pass

    def read(self, timeout_s):
        return b"\x00\xff"

    def close(self):
        pass


def test_noise_and_ports_that_do_not_open_are_told_apart(radio):
    assert knock(Noise, TARN).kind == "noise"

    def refuses():
        raise NoPortError("The port does not open.")

    assert knock(refuses, TARN) == Answer("no port", said="The port does not open.")

    class Gone(Noise):
        def write(self, data):
            raise UnpluggedError("gone")

    assert knock(Gone, TARN).kind == "gone"


def write(path, text):
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(text)


def test_a_computer_is_described_from_its_own_files(tmp_path):
    usb = tmp_path / "sys/devices/pci/usb1/1-2"
    for name, text in (("idVendor", "1a86\n"), ("idProduct", "7523\n"), ("product", "USB Serial\n")):
        write(usb / name, text)
    driver = tmp_path / "sys/bus/usb/drivers/ch341"
    driver.mkdir(parents=True)
    (usb / "1-2:1.0").mkdir()
    (usb / "1-2:1.0/driver").symlink_to(driver)
    (usb / "1-2:1.0/ttyUSB0").mkdir()
    (usb / "1-2:1.0/ttyUSB0/driver").symlink_to(driver)
    (tmp_path / "sys/bus/usb/devices").mkdir(parents=True)
    (tmp_path / "sys/bus/usb/devices/1-2").symlink_to(usb)
    (tmp_path / "sys/class/tty/ttyUSB0").mkdir(parents=True)
    (tmp_path / "sys/class/tty/ttyUSB0/device").symlink_to(usb / "1-2:1.0/ttyUSB0")
    (tmp_path / "sys/class/tty/tty1").mkdir()
    write(tmp_path / "dev/ttyUSB0", "")
    write(tmp_path / "proc/4242/comm", "screen\n")
    (tmp_path / "proc/4242/fd").mkdir()
    (tmp_path / "proc/4242/fd/3").symlink_to(tmp_path / "dev/ttyUSB0")
    write(tmp_path / "proc/5/comm", "brltty\n")
    write(tmp_path / "proc/modules", "ch341 16384 1 - Live\nusbserial 1 2\n")
    found = describe(Root(tmp_path))
    assert found.usb == (Usb("1-2", "1a86", "7523", "USB Serial", "ch341"),)
    (port,) = found.ports
    assert (port.usb, port.driver, port.held_by) == ("1-2", "ch341", "screen (process 4242)")
    assert found.running == ("brltty",)
    assert found.drivers == ("ch341", "usbserial")
    assert told(found)[1] == "another program holds it"


def test_a_computer_without_such_files_is_described_as_empty(tmp_path):
    found = describe(Root(tmp_path))
    assert (found.usb, found.ports) == ((), ())
    assert describe().user
