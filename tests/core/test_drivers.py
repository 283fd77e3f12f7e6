"""Drivers of the operator's own: the example holds what is asked, a bad one is named, and nothing of one runs unasked."""

import subprocess
import sys
from contextlib import contextmanager
from datetime import UTC, datetime

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from tests.driver_installed import EXAMPLE, lay_down
from umbra_awl.core.drivers.conformance import conformance, sample_memory
from umbra_awl.core.drivers.protocols import CODECS, HOTSPOTS, READERS, WAYS
from umbra_awl.core.drivers.registry import DRIVERS, ContainedLine, Drivers
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_file import read_profile
from umbra_awl.core.transfer.carry import Follow, compare
from umbra_awl.core.transfer.errors import CancelledError, DriverError, NotProvenError, StaleError
from umbra_awl.core.transfer.protocols import codec_of
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.core.transfer.way import by_cable

NOW = datetime(2026, 11, 24, 15, 30, tzinfo=UTC)


@pytest.fixture
def installed(tmp_path, monkeypatch):
    lay_down(tmp_path, monkeypatch)
    yield DRIVERS
    DRIVERS.switch_on(frozenset())


@pytest.fixture
def fen(installed):
    installed.switch_on(frozenset(item.key for item in installed.installed()))
    return read_profile(EXAMPLE / "fen_driver" / "fen.toml")


@contextmanager
def simulated():
    from fen_driver import line

    with line.simulated() as radio:
        yield radio


def sends(merge):
    """The same merge by somebody who forgot that a channel may only listen."""

    def forgetful(codec, image, memory):
        channels = tuple(replace(item, receive_only=False) for item in memory.channels)
        return merge(codec, image, replace(memory, channels=channels))

    return forgetful


def test_it_is_found_and_not_loaded_until_it_is_switched_on(installed):
    for name in [name for name in sys.modules if name.startswith("fen_driver")]:
        del sys.modules[name]
    found = installed.installed()
    assert {(item.group, item.name, item.package) for item in found} == {
        (CODECS, "fen", "fen-driver"),
        (WAYS, "fen", "fen-driver"),
        (HOTSPOTS, "fen-spot", "fen-driver"),
        (READERS, "fen-list", "fen-driver"),
    }
    assert "fen_driver.memory" not in sys.modules
    with pytest.raises(DriverError, match="not switched on"):
        installed.load(CODECS, "fen")
    assert "fen_driver.memory" not in sys.modules
    with pytest.raises(DriverError, match="not installed here"):
        installed.load(CODECS, "other")


@pytest.mark.parametrize("group", [CODECS, WAYS])
def test_the_example_holds_all_that_is_asked(fen, group):
    results = list(conformance(group, DRIVERS.load(group, "fen")))
    assert len(results) == 5
    assert not [item for item in results if item.fault]


def test_the_checks_run_as_a_command(tmp_path, monkeypatch):
    lay_down(tmp_path, monkeypatch)
    import os

    path = os.pathsep.join([str(tmp_path), str(EXAMPLE), os.environ.get("PYTHONPATH", "")])
    run = [sys.executable, "-m", "umbra_awl.conformance"]
    done = subprocess.run(
        [*run, "fen-driver"], capture_output=True, text=True, env={**os.environ, "PYTHONPATH": path}, check=False
    )
    assert (done.returncode, done.stdout.splitlines()[-1]) == (0, "All of it holds.")
    none = subprocess.run([*run, "nothing"], capture_output=True, text=True, check=False)
    assert none.returncode == 2


def test_a_plan_goes_into_the_radio_and_is_proven_by_the_same_order_of_safety(fen, plan, tmp_path):
    assert not profile_faults(fen)
    radio = OwnedRadio("fen", "Fen 20", "fen20")
    index = PlanIndex(replace(plan, radios=(*plan.radios, radio)), TODAY)
    memory = fit(index, radio, fen).memory
    assert memory.channels
    with simulated() as device:
        way, before = by_cable(device.port, fen, Shelf(tmp_path / "shelf")), bytes(device.image)
        held = way.read(NOW, Follow())
        assert [item.name for item in held.memory.channels] == ["CALLING", "CALLING UP"]
        compared = compare(held, memory, fen)
        written = way.write(held, compared, Follow())
        assert bytes(device.image) == written.image != before
        found = codec_of(fen).decode(written.image)
        assert [(item.name, item.rx_hz, item.receive_only) for item in found.channels] == [
            (item.name, item.rx_hz, item.receive_only) for item in memory.channels
        ]
        assert device.image[:32] == before[:32]
        assert device.image[42:44] == before[42:44], "two bytes inside of a record are the radio's own"
        restored = way.restore(held.backup, NOW, Follow())
        assert restored.image == before


def test_a_cut_leaves_its_mark_and_the_next_reading_says_so(fen, tmp_path):
    with simulated() as device:
        way = by_cable(device.port, fen, Shelf(tmp_path / "shelf"))
        held = way.read(NOW, Follow())
        compared = compare(held, sample_memory(fen), fen)
        told = []
        cut = Follow(lambda phase, _done, _total: told.append(phase), lambda: "write" in told)
        with pytest.raises(CancelledError):
            way.write(held, compared, cut)
        assert way.read(NOW, Follow()).state in {"old", "neither"}
        assert way.restore(held.backup, NOW, Follow()).image == held.image


def test_what_a_driver_raises_names_it_and_what_it_gives_is_looked_at(fen, monkeypatch):
    loaded = DRIVERS.load(CODECS, "fen")

    class Bad:
        def __init__(self, does):
            self.decode = self.merge = does

    def broken(*_given):
        raise KeyError("x" * 900)

    monkeypatch.setattr(loaded, "codec", lambda _profile: Bad(broken), raising=False)
    with pytest.raises(DriverError, match=r"driver “fen” failed: KeyError") as told:
        codec_of(fen).decode(bytes(600))
    assert len(str(told.value)) < 420
    monkeypatch.setattr(loaded, "codec", lambda _profile: Bad(lambda *_given: None), raising=False)
    with pytest.raises(DriverError, match="gave no memory"):
        codec_of(fen).decode(bytes(600))


def test_a_codec_that_would_let_a_held_channel_send_is_offered_nothing(fen, tmp_path, monkeypatch):
    with simulated() as device:
        held = by_cable(device.port, fen, Shelf(tmp_path / "shelf")).read(NOW, Follow())
    kind = type(codec_of(fen).inner)
    monkeypatch.setattr(kind, "merge", sends(kind.merge))
    with pytest.raises(StaleError, match="nothing is offered"):
        compare(held, sample_memory(fen), fen)


def test_conformance_sees_what_is_wrong(fen, monkeypatch):
    driver = DRIVERS.load(CODECS, "fen")
    kind = type(driver.codec(fen))
    plain = kind.merge

    def fails():
        return {item.words for item in conformance(CODECS, driver) if item.fault}

    monkeypatch.setattr(kind, "merge", lambda codec, image, memory: b"\0" + plain(codec, image, memory)[1:-1] + b"\0")
    assert "the radio's own bytes stay" in fails()
    monkeypatch.setattr(kind, "merge", sends(plain))
    assert "a channel that only listens stays so" in fails()
    monkeypatch.setattr(kind, "merge", plain)
    monkeypatch.setattr(kind, "decode", lambda _codec, image: image[9999])
    assert "noise raises ImageError, or is read, and nothing else happens" in fails()


def test_another_version_is_switched_on_anew(installed):
    keys = frozenset(item.key.replace("1.0", "0.9") for item in installed.installed())
    installed.switch_on(keys)
    assert not any(installed.is_on(item) for item in installed.installed())


def test_a_driver_that_does_not_load_is_told(tmp_path, monkeypatch):
    lay_down(tmp_path, monkeypatch)
    drivers = Drivers()
    drivers.switch_on(frozenset(item.key for item in drivers.installed()))
    monkeypatch.setitem(sys.modules, "fen_driver.memory", None)
    with pytest.raises(DriverError, match="driver “fen” failed"):
        drivers.load(CODECS, "fen")


def test_a_radio_that_stores_other_bytes_than_were_sent_is_not_proven_and_keeps_its_mark(fen, tmp_path, monkeypatch):
    with simulated() as device:
        shelf = Shelf(tmp_path / "shelf")
        way = by_cable(device.port, fen, shelf)
        held = way.read(NOW, Follow())
        plain = device._answer

        def careless(words):
            answer = plain(words)
            if words[0] == "WRITE":
                device.image[int(words[1])] ^= 1
            return answer

        monkeypatch.setattr(device, "_answer", careless)
        with pytest.raises(NotProvenError):
            way.write(held, compare(held, sample_memory(fen), fen), Follow())
        assert shelf.unfinished(held.unit) is not None


@pytest.mark.parametrize("given", [None, 10**12, "text", [1, "x"]])
def test_whatever_a_line_answers_it_is_named_and_nothing_else_happens(fen, given):
    class Odd:
        def identify(self):
            return given

        def read_blocks(self, *_given):
            return [given]

        def begin(self):
            sys.exit(3)

    line = ContainedLine("fen", Odd())
    for call in (line.identify, lambda: line.read_blocks([(0, 4)], None), line.begin):
        with pytest.raises(DriverError, match="driver “fen” failed"):
            call()


def test_of_two_of_one_name_the_one_that_is_on_serves_and_never_both(installed):
    (ours,) = [item for item in installed.installed() if item.group == CODECS]
    point = next(iter(installed._points(CODECS)))

    class Other:
        name, dist = "fen", type("Dist", (), {"name": "other-driver", "version": "1.0"})

    drivers = Drivers(lambda group: (Other, point) if group == CODECS else ())
    drivers.switch_on(frozenset({ours.key}))
    assert type(drivers.load(CODECS, "fen")).__name__ == "FenCodecs"
    drivers.switch_on(frozenset(item.key for item in drivers.installed()))
    with pytest.raises(DriverError, match="Two drivers"):
        drivers.load(CODECS, "fen")
