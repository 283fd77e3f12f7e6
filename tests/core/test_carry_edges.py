"""The order of safety over a line that is watched byte by byte, and the shelf's own edges."""

from datetime import datetime

import pytest
from msgspec.structs import replace

from tests.core.test_link import to
from umbra_awl.core.radio.memory import Memory
from umbra_awl.core.radio.profile import Bytes
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer import carry
from umbra_awl.core.transfer import shelf as shelf_module
from umbra_awl.core.transfer.carry import compare, read_radio, restore_radio, write_radio
from umbra_awl.core.transfer.errors import ImageError, NotProvenError, OtherUnitError, RadioError, ShelfError
from umbra_awl.core.transfer.protocols import RadioIdentity
from umbra_awl.core.transfer.shelf import Backup, Shelf, Unfinished, digest
from umbra_awl.core.transfer.unit import unit_of
from umbra_awl.standins.radio.device import factory_image

TARN = shipped_profiles()["tarn16"]
NOW = datetime(2026, 11, 24, 3, 0, 0)
OWN_AT, OWN = 0x1F7, 19
"""Bytes that only one radio has, across the border of two blocks."""
SMALL = replace(
    TARN,
    line=replace(TARN.line, block=500),  # its last block is a short one
    image=replace(TARN.image, unit=Bytes(OWN_AT, OWN)),
)


class Watched:
    """A line to a memory that is here: notes what is done in its order, and does one thing wrong where it is told to."""

    def __init__(self, image, *, serial="", stores=lambda data: data, cuts=0, size=None):
        self.memory, self.serial, self._stores, self._cuts = bytearray(image), serial, stores, cuts
        self._size = size if size is not None else len(image)
        self.done = []

    def identify(self):
        return RadioIdentity(SMALL.key, "1.0", self._size, SMALL.line.block, self.serial)

    def read_blocks(self, places, watch):
        for at, length in places:
            assert at % SMALL.line.block == 0
            assert at + length <= len(self.memory), "never beyond the memory"
        self.done.append("read")
        watch.progress(len(places), len(places))
        found = [bytes(self.memory[at : at + length]) for at, length in places]
        return [*found[:-1], found[-1][self._cuts :]] if self._cuts else found

    def begin(self):
        self.done.append("begin")

    def write_blocks(self, blocks, _watch):
        self.done.append("write")
        for at, data in blocks:
            assert at % SMALL.line.block == 0
            self.memory[at : at + len(data)] = self._stores(data)

    def end(self):
        self.done.append("end")


@pytest.fixture
def shelf(tmp_path):
    return Shelf(tmp_path / "shelf")


@pytest.fixture
def image():
    return factory_image(TARN, "0")


def changed(image, *places):
    made = bytearray(image)
    for at in places:
        made[at] ^= 0xFF
    return bytes(made)


def test_the_order_is_kept_and_the_proof_is_told(image, shelf):
    line = Watched(image)
    held = read_radio(line, SMALL, shelf, NOW)
    line.done.clear()
    target = changed(image, 0x1005, len(image) - 1)
    written = write_radio(line, SMALL, shelf, held, to(held, target))
    assert line.done == ["read", "read", "begin", "write", "read", "end"], (
        "who, what stands there, write, read back, end"
    )
    assert written.proven
    assert bytes(line.memory) == target == written.image
    assert written.sent == 500 + len(image) % 500, "only the blocks that differ, the last one as short as it is"
    assert shelf.unfinished() is None


def test_what_the_radio_stored_otherwise_is_counted_and_the_mark_stays(image, shelf):
    line = Watched(image, stores=lambda data: data[:10] + bytes(byte ^ 1 for byte in data[10:13]) + data[13:])
    held = read_radio(line, SMALL, shelf, NOW)
    with pytest.raises(NotProvenError, match="reads back 3 bytes differently"):
        write_radio(line, SMALL, shelf, held, to(held, changed(image, 0x1005)))
    assert line.done[-1] == "end", "the radio is let go even so"
    assert shelf.unfinished().before == digest(image)


def test_the_single_radio_is_known_by_bytes_across_two_blocks(image, shelf):
    held = read_radio(Watched(image), SMALL, shelf, NOW)
    same = Watched(image)
    write_radio(same, SMALL, shelf, held, to(held, changed(image, 0x1005)))
    for at in (OWN_AT, OWN_AT + OWN - 1):
        other = Watched(changed(image, at))
        with pytest.raises(OtherUnitError):
            write_radio(other, SMALL, shelf, held, to(held, changed(image, 0x1005)))
        assert "begin" not in other.done
    beside = Watched(changed(image, OWN_AT - 1, OWN_AT + OWN))
    with pytest.raises(NotProvenError, match="2 bytes"):  # the same radio, and something else changed in it meanwhile
        write_radio(beside, SMALL, shelf, held, to(held, changed(image, 0x1005)))


def test_a_memory_of_another_size_and_blocks_that_were_not_asked_for_are_refused(image, shelf):
    with pytest.raises(RadioError, match=f"has 17 bytes of memory; a Tarn 16 has {len(image)}"):
        read_radio(Watched(image, size=17), SMALL, shelf, NOW)
    with pytest.raises(RadioError, match="other blocks than were asked for"):
        read_radio(Watched(image, cuts=1), SMALL, shelf, NOW)
    assert shelf.backups() == []


def test_a_codec_that_packs_too_little_is_refused(image, shelf, monkeypatch):
    held = read_radio(Watched(image), SMALL, shelf, NOW)

    class Short:
        def merge(self, image, _memory):
            return image[:-1]

        def decode(self, _image):
            return Memory(SMALL.key)

    monkeypatch.setattr(carry, "codec_of", lambda _profile: Short())
    with pytest.raises(ImageError, match=f"packed into {len(image) - 1} bytes, and the radio has {len(image)}"):
        compare(held, Memory(SMALL.key), SMALL)


def test_a_restore_remembers_which_radio_it_was(image, shelf):
    first = read_radio(Watched(image, serial="A"), SMALL, shelf, NOW)
    other = Watched(changed(image, 0x1005), serial="B")
    restore_radio(other, SMALL, shelf, first.backup, NOW, other_unit=True)
    assert shelf.known_unit() == "serial B"


# which radio it is


def test_a_serial_number_comes_before_bytes_and_a_print_has_sixteen_digits(image):
    def read(at, length):
        return image[at : at + length]

    told = RadioIdentity(SMALL.key, "1.0", len(image), 500, "A7")
    assert unit_of(told, SMALL, read) == "serial A7"
    kind, _blank, digits = unit_of(told._replace(serial=""), SMALL, read).partition(" ")
    assert (kind, len(digits)) == ("print", 16)
    assert unit_of(told._replace(serial=""), replace(SMALL, image=replace(SMALL.image, unit=Bytes(0, 0))), read) == ""


# the shelf


def mode(path):
    return path.stat().st_mode & 0o777


def test_backups_are_numbered_from_one_and_only_their_owner_reads_them(shelf, image):
    first = shelf.keep(Memory("x"), image, NOW)
    assert first.path.name == "2026-11-24 03.00.00 no 0001.memory.json"
    assert first.number == 1
    assert mode(shelf.folder) == 0o700
    assert mode(first.path) == 0o600
    shelf.begin(Unfinished(first.path.name, "a", "b"))
    assert mode(shelf.folder / "unfinished.json") == 0o600
    assert Backup(first.path, "x").number == 0


def test_a_name_that_came_there_meanwhile_is_not_written_over(shelf, image, monkeypatch):
    first = shelf.keep(Memory("x"), image, NOW)
    kept = first.path.read_bytes()
    monkeypatch.setattr(Shelf, "backups", lambda _self: [])
    second = shelf.keep(Memory("x"), image[::-1], NOW)
    assert second.path.name.endswith("no 0002.memory.json")
    assert first.path.read_bytes() == kept


def test_a_damaged_backup_is_no_reason_not_to_keep_another(shelf, image):
    first = shelf.keep(Memory("x"), image, NOW)
    first.path.write_bytes(b"{")
    second = shelf.keep(Memory("x"), image, NOW)
    assert second.path != first.path
    assert shelf.load(second).image == image


def test_files_of_other_names_are_no_backups_and_an_old_name_is_the_first(shelf, image):
    made = shelf.keep(Memory("x"), image, NOW)
    data = made.path.read_bytes()
    made.path.unlink()
    (shelf.folder / "notes.memory.json").write_bytes(data)
    (shelf.folder / "2026-11-20 01.02.03.memory.json").write_bytes(data)
    assert [(item.when, item.number) for item in shelf.backups()] == [("2026-11-20 01:02:03", 1)]


def test_a_shelf_that_cannot_be_written_stops_before_the_radio(tmp_path):
    (tmp_path / "shelf").write_text("no folder")
    blocked = Shelf(tmp_path / "shelf")
    with pytest.raises(ShelfError, match="was not begun: its mark cannot be kept"):
        blocked.begin(Unfinished("x", "a", "b"))
    with pytest.raises(ShelfError, match="cannot be written"):
        blocked.keep_beside("radio.json", {})
    blocked.finish()  # nothing is there to take away


def test_a_mark_is_taken_away_durably_and_what_cannot_be_is_told(shelf, image, monkeypatch):
    synced = []
    monkeypatch.setattr(shelf_module, "sync_folder", synced.append)
    shelf.finish()
    assert synced == [], "no folder, nothing to make durable"
    shelf.keep(Memory("x"), image, NOW)
    synced.clear()
    shelf.begin(Unfinished("x", "a", "b"))
    shelf.finish()
    assert synced == [shelf.folder]
    assert shelf.unfinished() is None
    shelf.begin(Unfinished("x", "a", "b"))
    marks = shelf._marks()
    (shelf.folder / "unfinished.json").unlink()
    monkeypatch.setattr(Shelf, "_marks", lambda _self: marks)
    shelf.finish()  # somebody else took it away meanwhile

    def refused(_folder):
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr(shelf_module, "sync_folder", refused)
    with pytest.raises(ShelfError, match="cannot be taken away"):
        shelf.finish()


def test_nothing_is_written_where_nothing_is_new(shelf):
    shelf.remember_unit("")
    assert not shelf.folder.exists()
    shelf.remember_unit("serial A")
    kept = shelf.folder / "radio.json"
    assert mode(kept) == 0o600
    assert mode(shelf.folder) == 0o700
    before = kept.stat().st_ino
    shelf.remember_unit("serial A")
    shelf.remember_unit("")
    assert kept.stat().st_ino == before
    assert shelf.known_unit() == "serial A"
    shelf.remember_held("x")
    shelf.remember_unit("serial A")
    assert shelf.known().holds == "", "what it holds is to be compared anew"
