"""A way into a radio does the same steps whatever it goes through, and lets go of its line however they end."""

import pytest

from tests.core.test_link import PROFILE, DirectLine, a_change, now, to
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.carry import Follow
from umbra_awl.core.transfer.errors import NoPortError, TransferError, WrongModelError
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.core.transfer.way import Cable, Way, by_cable
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import Faults


class Line(DirectLine):
    """A line that says whether it was let go of."""

    def __init__(self, device):
        super().__init__(device)
        self.closed = False

    def close(self):
        self.closed = True


@pytest.fixture
def memory_file(tmp_path):
    path = tmp_path / "radio.bin"
    path.write_bytes(factory_image(PROFILE))
    return path


@pytest.fixture
def lines():
    return []


@pytest.fixture
def cable(memory_file, tmp_path, lines):
    def open_line(port, baud):
        assert (port, baud) == ("the port", PROFILE.line.baud)
        lines.append(Line(SimulatedRadio(PROFILE, memory_file, Faults())))
        return lines[-1]

    return Cable("the port", PROFILE, Shelf(tmp_path / "shelf"), open_line)


def test_read_write_and_restore_by_cable(cable, memory_file, lines):
    way: Way = cable
    held = way.read(now(), Follow())
    old, target = held.image, a_change(held.image)
    assert way.write(held, to(held, target), Follow()).image == target
    assert memory_file.read_bytes() == target
    way.restore(held.backup, now(), Follow())
    assert memory_file.read_bytes() == old
    assert [line.closed for line in lines] == [True, True, True]


def test_the_line_is_let_go_of_when_a_step_fails(cable, lines, memory_file):
    def open_line(_port, _baud):
        lines.append(Line(SimulatedRadio(PROFILE, memory_file, Faults(wrong_model=True))))
        return lines[-1]

    other = cable._replace(open_line=open_line)
    with pytest.raises(WrongModelError):
        other.read(now(), Follow())
    assert [line.closed for line in lines] == [True]


def test_why_a_cable_cannot_be_used(cable):
    assert cable.why_not() == ""
    assert "choose the port" in cable._replace(port="").why_not()
    card_fed = next(item for item in shipped_profiles().values() if not item.by_cable)
    assert f"{card_fed.name} has no programming cable" in cable._replace(profile=card_fed).why_not()


def test_a_port_that_is_not_there_is_one_of_the_familys_errors(tmp_path):
    way = by_cable(str(tmp_path / "none"), PROFILE, Shelf(tmp_path / "shelf"))
    with pytest.raises(NoPortError, match="does not open"):
        way.read(now(), Follow())
    assert issubclass(NoPortError, TransferError)
