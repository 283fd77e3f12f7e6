"""Drivers for hotspots and for files: what they answer is looked at, nothing of one runs unasked, bad ones are told by name."""

import subprocess
import sys
from types import SimpleNamespace

import httpx
import pytest

from tests.driver_installed import lay_down
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.drivers import reading
from umbra_awl.core.drivers.conformance import conformance
from umbra_awl.core.drivers.protocols import HOTSPOTS, READERS, TableForm
from umbra_awl.core.drivers.reading import driven_log, driven_table, kinds_with, looked_at
from umbra_awl.core.drivers.registry import DRIVERS
from umbra_awl.core.drivers.spots import DrivenAnswers, answering
from umbra_awl.core.hotspot.match.layout import read_settings, shipped_layouts, write_settings
from umbra_awl.core.hotspot.seek.errors import NotNowError, StrangeAnswerError
from umbra_awl.core.hotspot.seek.talk import Talk
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.transfer.errors import DriverError


@pytest.fixture
def installed(tmp_path, monkeypatch):
    lay_down(tmp_path, monkeypatch)
    yield DRIVERS
    DRIVERS.switch_on(frozenset())


@pytest.fixture
def on(installed):
    installed.switch_on(frozenset(item.key for item in installed.installed()))
    return installed


@pytest.mark.parametrize(("group", "name"), [(HOTSPOTS, "fen-spot"), (READERS, "fen-list")])
def test_the_example_holds_what_is_asked_of_its_kind(on, group, name):
    found = list(conformance(group, on.load(group, name)))
    assert len(found) >= 3
    assert [item for item in found if item.fault] == []


# files


def example_list(tmp_path):
    from fen_driver.lists import FenLists

    path = tmp_path / "club.FenList"
    path.write_bytes(FenLists().example())
    return path


def test_a_list_of_its_own_form_is_read_once_its_driver_is_on_and_not_before(installed, tmp_path):
    path = example_list(tmp_path)
    assert driven_table(path) is None
    installed.switch_on(frozenset(item.key for item in installed.installed()))
    table = driven_table(path)
    assert [row.cells[0] for row in table.rows()] == ["Q0BLK", "Q0MRK"]
    columns = guess(table).columns
    assert (columns["rx"], columns["tx"], columns["color_code"]) == ("Output MHz", "Input MHz", "Color code")
    assert kinds_with("CSV (*.csv)") == "CSV (*.csv);;Read by a driver (*.fenlist)"
    with pytest.raises(ReadError, match="is a list"):
        driven_log(path)
    assert driven_table(tmp_path / "other.csv") is None


def test_a_file_that_a_driver_cannot_read_is_told_by_name(on, tmp_path):
    path = tmp_path / "bad.fenlist"
    path.write_text("something else")
    with pytest.raises(ReadError, match=r"bad.fenlist.*fen-list.*does not begin as a Fen list does"):
        driven_table(path)
    with pytest.raises(ReadError, match="cannot be read"):
        driven_table(tmp_path / "missing.fenlist")


def test_a_reader_that_never_ends_is_ended(on, tmp_path, monkeypatch):
    import fen_driver

    folder = tmp_path / "slow"
    folder.mkdir()
    slow = (
        "import time\nclass FenLists:\n    endings = ('.fenlist',)\n    def read(self, data):\n        time.sleep(60)\n"
    )
    (folder / "slow_lists.py").write_text(slow)
    path = example_list(tmp_path)
    monkeypatch.setattr(sys, "path", [str(folder), *sys.path])
    info = next(tmp_path.glob("fen_driver-*.dist-info")) / "entry_points.txt"
    info.write_text(info.read_text().replace("fen_driver.lists:FenLists", "slow_lists:FenLists"))
    monkeypatch.setattr(reading, "apart", apart_soon)
    DRIVERS.switch_on(frozenset())
    DRIVERS.switch_on(frozenset(item.key for item in DRIVERS.installed()))
    with pytest.raises(ReadError, match=r"fen-list.*within 3 seconds"):
        driven_table(path)
    assert fen_driver


def apart_soon(*given):
    from umbra_awl.core.keep.apart import Bounds, apart

    return apart(*given, bounds=Bounds(3.0, 1_000))


@pytest.mark.parametrize("bad", [7, None, ("a",), ((), ()), [("a",), (("1",),)]])
def test_what_is_neither_a_list_nor_text_is_not_believed(bad):
    with pytest.raises((TypeError, ValueError)):
        looked_at(bad)
    assert looked_at((["A"], [[1]])) == TableForm(("A",), (("1",),))


# hotspots


class Page:
    """A Fen Spot's page that keeps what is handed over."""

    def __init__(self):
        from fen_driver.spot import FenSpot

        self.answers = dict(FenSpot().example())
        self.asked = []

    def __call__(self, request):
        at = {"/state": "status", "/setup": "settings", "/journal": "log"}.get(request.url.path)
        self.asked.append((request.method, request.url.path))
        if at is None:
            return httpx.Response(200, content=b"<html>Fen Spot</html>")
        if request.method == "PUT":
            self.answers[at] = request.content
        return httpx.Response(200, content=self.answers[at])

    @property
    def talk(self):
        return Talk("127.0.0.1:9", transport=httpx.MockTransport(self))


def test_a_hotspot_of_its_own_words_is_asked_set_and_read_back(on):
    page = Page()
    spoken = answering(page.talk)
    assert (spoken.status().name, spoken.status().up, spoken.status().modem) == ("fen-spot", True, "fen-hat")
    layout = shipped_layouts()[0]
    held = read_settings(spoken.settings(), layout)
    assert (held["tx_hz"], held["duplex"], held["color_code"], held["call"]) == ("434612500", "no", "1", "Q4WRN")
    wanted = write_settings(spoken.settings(), layout, {"tx_hz": "434625000", "rx_hz": "433025000", "duplex": "yes"})
    assert spoken.apply(wanted).up
    assert page.answers["settings"].decode().splitlines()[2:4] == ["sends: 434625", "hears: 433025"]
    assert "lamp: blue" in page.answers["settings"].decode()
    assert b"Q4WRN to 99900" in spoken.log()
    with pytest.raises(NotNowError, match="on its own page"):
        spoken.link("VLR001 A")


def test_without_its_driver_it_is_another_device(installed):
    page = Page()
    assert answering(page.talk).words is None
    with pytest.raises(StrangeAnswerError, match="not as a hotspot does"):
        page.talk.status()


def test_a_page_that_no_driver_knows_is_told_as_before(on):
    strange = Talk("127.0.0.1:9", transport=httpx.MockTransport(lambda _request: httpx.Response(200, content=b"?")))
    with pytest.raises(StrangeAnswerError, match="not as a hotspot does"):
        answering(strange)


def words(**more):
    from fen_driver.spot import FenSpot

    spot = FenSpot()
    usual = {name: getattr(spot, name) for name in ("paths", "status", "values", "written", "log")}
    return DrivenAnswers("bad", SimpleNamespace(**(usual | more))), spot.example()


@pytest.mark.parametrize(
    "path", ["", "setup", "//elsewhere.test/x", "/a b", "/ä", "/" + "a" * 300, "http://elsewhere.test/"]
)
def test_a_driver_asks_only_at_paths_of_the_address_that_was_given(on, path):
    answers, _example = words(paths={"settings": path})
    with pytest.raises(DriverError, match="no path for the settings"):
        answers.path("settings")


def test_what_a_driver_would_lose_or_spoil_is_never_handed_over(on):
    forgetful, example = words(written=lambda answer, _values: answer)
    settings = forgetful.settings(example["settings"])
    other = write_settings(settings, shipped_layouts()[0], {"color_code": "9"})
    with pytest.raises(DriverError, match="would lose Color code"):
        forgetful.written(example["settings"], other)
    unheld, _example = words(
        values=lambda _answer: {"call": "Q4WRN"}, written=lambda answer, values: answer + repr(values).encode()
    )
    assert unheld.written(b"", other) == b"{}", "a field that it has not is not handed over"
    strange, _example = words(written=lambda *_given: 7)
    with pytest.raises(DriverError, match="gave no bytes"):
        strange.written(example["settings"], other)
    broken, _example = words(status=lambda _answer: 1 / 0, values=lambda _answer: sys.exit(3))
    with pytest.raises(DriverError, match=r"bad.*ZeroDivisionError"):
        broken.status(b"")
    with pytest.raises(DriverError, match=r"bad.*SystemExit"):
        broken.settings(b"")


def test_a_password_goes_through_no_driver(on):
    telling, example = words(values=lambda _answer: {"password": "set", "call": "Q4WRN", "nonsense": "1"})
    assert read_settings(telling.settings(example["settings"]), shipped_layouts()[0]) == {"call": "Q4WRN"}


def test_the_authors_command_tries_all_four_kinds(on, tmp_path):
    import os

    command = [sys.executable, "-m", "umbra_awl.conformance", "fen-driver"]
    done = subprocess.run(
        command, capture_output=True, text=True, timeout=120, check=False,
        env={**os.environ, "PYTHONPATH": os.pathsep.join(sys.path)},
    )  # fmt: skip
    assert done.returncode == 0, done.stdout + done.stderr
    assert done.stdout.count("from fen-driver") == 4
