import random
from collections import deque
from contextlib import suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer import frames
from umbra_awl.core.transfer.carry import Compared, Follow, WrittenMemory, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.difference import ChangeSheet
from umbra_awl.core.transfer.errors import (
    CancelledError,
    RadioError,
    RadioFullError,
    ShelfError,
    SilentError,
    TransferError,
    UnpluggedError,
    WriteLockedError,
    WrongModelError,
)
from umbra_awl.core.transfer.frames import Decoder, Frame, FrameKind, encode, unpack_identity
from umbra_awl.core.transfer.link import Link, Request
from umbra_awl.core.transfer.protocols import Watch
from umbra_awl.core.transfer.shelf import Shelf, digest
from umbra_awl.standins.radio.device import SimulatedRadio, factory_image
from umbra_awl.standins.radio.faults import FaultError, Faults, parse_fault

PROFILE = shipped_profiles()["tarn16"]
FRAMES = st.builds(Frame, st.integers(0, 255), st.integers(0, 255), st.binary(max_size=80))


@given(st.lists(FRAMES, max_size=8), st.data())
def test_frames_survive_being_cut_anywhere(sent, data):
    stream = b"".join(map(encode, sent))
    decoder, got, at = Decoder(), [], 0
    while at < len(stream):
        step = data.draw(st.integers(1, 40))
        got += decoder.feed(stream[at : at + step])
        at += step
    assert got == sent


@given(st.lists(FRAMES, min_size=3, max_size=6), st.data())
def test_a_spoiled_frame_costs_only_itself_and_what_it_may_swallow(sent, data):
    """After a turned bit later frames come through once the damaged length has been passed over."""
    stream = bytearray(encode(sent[0]))
    stream[data.draw(st.integers(0, len(stream) - 1))] ^= 1 << data.draw(st.integers(0, 7))
    rest = b"".join(map(encode, sent[1:]))
    decoder = Decoder()
    got = decoder.feed(bytes(stream) + rest + bytes(frames.MOST_PAYLOAD + 16))
    assert got[-len(sent) + 1 :] == sent[1:]


@given(st.binary(max_size=600))
def test_noise_is_no_frame_and_no_fault(noise):
    Decoder().feed(noise)
    with suppress(ValueError):
        unpack_identity(noise)


class DirectLine:
    """A transport that hands bytes to a device at once, with losses, turned bits, and a cut on request."""

    def __init__(self, device, *, cut_after=None, spoil=0.0, seed=1):
        self._device = device
        self._decoder = Decoder()
        self._out = deque()
        self._left = cut_after
        self._spoil = spoil
        self._chance = random.Random(seed)
        self.carried = 0

    def _pass(self, data):
        if self._chance.random() < self._spoil and data:
            spoiled = bytearray(data)
            spoiled[self._chance.randrange(len(spoiled))] ^= 0x40
            data = bytes(spoiled)
        if self._left is not None:
            data = data[: self._left]
            self._left -= len(data)
        self.carried += len(data)
        return data

    def write(self, data):
        if self._left == 0:
            raise UnpluggedError("cut")
        for frame in self._decoder.feed(self._pass(data)):
            answer = self._device.answer(frame)
            if answer is not None:
                self._out.append(self._pass(encode(answer)))

    def read(self, _timeout_s):
        if self._out:
            return self._out.popleft()
        if self._left == 0:
            raise UnpluggedError("cut")
        return b""

    def close(self):
        pass


@pytest.fixture
def memory_file(tmp_path):
    path = tmp_path / "radio.bin"
    path.write_bytes(factory_image(PROFILE))
    return path


@pytest.fixture
def shelf(tmp_path):
    return Shelf(tmp_path / "shelf")


def link_to(memory_file, faults=Faults(), **line):  # noqa: B008  (a frozen value)
    return Link(DirectLine(SimulatedRadio(PROFILE, memory_file, faults), **line), quiet_s=0.02)


def a_change(image):
    """A target that differs in a few blocks far apart."""
    changed = bytearray(image)
    for at in (0x1005, 0x1400, 0x5000, 0xA900, 0xBC01):
        changed[at] ^= 0xFF
    return bytes(changed)


def now():
    from datetime import datetime

    return datetime(2026, 11, 24, 3, 0, 0)


def to(held, target):
    """A comparison that leads to an image."""
    return Compared(target, ChangeSheet((), {}), held.memory, digest(held.image))


def test_read_write_and_prove(memory_file, shelf):
    link = link_to(memory_file)
    held = read_radio(link, PROFILE, shelf, now())
    target = a_change(held.image)
    written = write_radio(link, PROFILE, shelf, held, to(held, target))
    assert written == WrittenMemory(5 * 512, target)
    assert memory_file.read_bytes() == target
    assert shelf.unfinished() is None
    assert shelf.load(held.backup).image == held.image


@pytest.mark.parametrize("seed", range(4))
def test_a_noisy_line_is_slow_and_right(memory_file, shelf, seed):
    link = link_to(memory_file, spoil=0.02, seed=seed)
    held = read_radio(link, PROFILE, shelf, now())
    assert held.image == memory_file.read_bytes()
    assert link.repeats > 0
    write_radio(link, PROFILE, shelf, held, to(held, a_change(held.image)))
    assert memory_file.read_bytes() == a_change(held.image)


@pytest.mark.parametrize("share", [at / 200 for at in range(0, 200, 200 // examples.share(200))])
def test_a_cut_anywhere_leaves_a_known_state_and_one_way_back(memory_file, shelf, share):
    held = read_radio(link_to(memory_file), PROFILE, shelf, now())
    old, target = held.image, a_change(held.image)
    whole = 76_000
    with suppress(UnpluggedError):
        write_radio(link_to(memory_file, cut_after=1 + int(share * whole)), PROFILE, shelf, held, to(held, target))
    begun = shelf.unfinished() is not None
    actual = memory_file.read_bytes()
    assert begun or actual in {old, target}
    again = read_radio(link_to(memory_file), PROFILE, shelf, now())
    expected = "known" if not begun else "old" if actual == old else "new" if actual == target else "neither"
    assert again.state == expected
    restore_radio(link_to(memory_file), PROFILE, shelf, again.backup if expected == "neither" else held.backup, now())
    assert memory_file.read_bytes() == old
    assert shelf.unfinished() is None


def test_a_restore_that_is_cut_can_be_restored_again(memory_file, shelf):
    held = read_radio(link_to(memory_file), PROFILE, shelf, now())
    target = a_change(held.image)
    with pytest.raises(UnpluggedError):
        write_radio(link_to(memory_file, cut_after=1700), PROFILE, shelf, held, to(held, target))
    with pytest.raises(UnpluggedError):
        restore_radio(link_to(memory_file, cut_after=70_500), PROFILE, shelf, held.backup, now())
    restore_radio(link_to(memory_file), PROFILE, shelf, held.backup, now())
    assert memory_file.read_bytes() == held.image


@pytest.mark.parametrize(
    ("faults", "error", "words"),
    [
        (Faults(wrong_model=True), WrongModelError, "Choose the other radio"),
        (Faults(silent=True), SilentError, "switched on"),
    ],
)
def test_a_radio_that_cannot_be_read(memory_file, shelf, faults, error, words):
    with pytest.raises(error, match=words):
        read_radio(link_to(memory_file, faults), PROFILE, shelf, now())
    assert shelf.backups() == []


@pytest.mark.parametrize(
    ("faults", "error"), [(Faults(locked=True), WriteLockedError), (Faults(full=True), RadioFullError)]
)
def test_a_radio_that_cannot_be_written(memory_file, shelf, faults, error):
    held = read_radio(link_to(memory_file), PROFILE, shelf, now())
    with pytest.raises(error):
        write_radio(link_to(memory_file, faults), PROFILE, shelf, held, to(held, a_change(held.image)))
    restore_radio(link_to(memory_file), PROFILE, shelf, held.backup, now())
    assert memory_file.read_bytes() == held.image


def test_stopping_while_writing_is_known_and_restored(memory_file, shelf):
    held = read_radio(link_to(memory_file), PROFILE, shelf, now())
    steps = Follow(cancelled=lambda: memory_file.read_bytes() != held.image)
    with pytest.raises(CancelledError):
        write_radio(link_to(memory_file), PROFILE, shelf, held, to(held, a_change(held.image)), steps)
    assert shelf.unfinished() is not None
    restore_radio(link_to(memory_file), PROFILE, shelf, held.backup, now())
    assert memory_file.read_bytes() == held.image


def test_without_a_backup_nothing_is_written(memory_file, tmp_path):
    blocked = tmp_path / "shelf"
    blocked.write_text("a file where the folder should be")
    with pytest.raises(ShelfError, match="Nothing was written"):
        read_radio(link_to(memory_file), PROFILE, Shelf(blocked), now())


def test_equal_backups_are_kept_once_and_a_damaged_one_is_told(memory_file, shelf):
    first = read_radio(link_to(memory_file), PROFILE, shelf, now()).backup
    assert read_radio(link_to(memory_file), PROFILE, shelf, now()).backup == first
    first.path.write_bytes(first.path.read_bytes()[:-40])
    with pytest.raises(ShelfError, match="cannot be used"):
        shelf.load(first)


def test_progress_is_told_for_each_block(memory_file, shelf):
    told = []
    read_radio(link_to(memory_file), PROFILE, shelf, now(), Follow(progress=lambda *step: told.append(step)))
    assert told[-1] == ("read", 65_536, 65_536)
    assert [done for _phase, done, _total in told] == list(range(512, 65_537, 512))


def test_writing_outside_the_programming_state_is_refused(memory_file):
    with pytest.raises(RadioError, match="not in programming state"):
        link_to(memory_file).exchange([Request(FrameKind.WRITE, frames.block_payload(0, b"x"))])
    with pytest.raises(RadioError, match="no such address"):
        link_to(memory_file).exchange([Request(FrameKind.READ, frames.read_payload(65_500, 512))])


@given(st.integers(0, 255), st.binary(max_size=40))
def test_any_frame_gets_an_answer(kind, payload):
    import tempfile
    from pathlib import Path

    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "radio.bin"
        path.write_bytes(bytes(PROFILE.image.size))
        device = SimulatedRadio(PROFILE, path, Faults())
        assert device.answer(Frame(kind, 7, payload)).sequence == 7
        device.close()


def test_cancelling_before_the_first_answer(memory_file):
    with pytest.raises(CancelledError):
        link_to(memory_file).exchange([Request(FrameKind.IDENTIFY)], Watch(cancelled=lambda: True))


def test_every_transfer_error_is_of_one_family():
    for kind in (CancelledError, RadioFullError, ShelfError, SilentError, UnpluggedError, WrongModelError):
        assert issubclass(kind, TransferError)


def test_faults_are_parsed_or_listed():
    assert parse_fault(Faults(), "unplug@20000").unplug_at == 20_000
    assert parse_fault(Faults(), "locked").locked
    for text in ("unplug", "corrupt@x", "locked@3", "fire"):
        with pytest.raises(FaultError, match="There are: unplug@N"):
            parse_fault(Faults(), text)
