"""Archives: a long list of contents is refused before it is gone through, however its length is told."""

import io
import struct
import time
import zipfile

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from umbra_awl.core.hands.pack import PackError, read_pack
from umbra_awl.core.keep.limits import LimitError
from umbra_awl.core.keep.zips import zip_within
from umbra_awl.core.tables.errors import ReadError
from umbra_awl.core.tables.xlsx import xlsx_table


def folders(count):
    """An archive of nothing but folders, written by hand: the library would take minutes."""
    body, listed = io.BytesIO(), io.BytesIO()
    for number in range(count):
        name = b"%07d/" % number
        listed.write(
            struct.pack("<4s6H3L5H2L", b"PK\x01\x02", 20, 20, 0, 0, 0, 0, 0, 0, 0, len(name), 0, 0, 0, 0, 16, 0)
        )
        listed.write(name)
    size = listed.tell()
    far = struct.pack("<4sQ2H2L4Q", b"PK\x06\x06", 44, 45, 45, 0, 0, count, count, size, 0)
    locator = struct.pack("<4sLQL", b"PK\x06\x07", 0, size, 1)
    end = struct.pack("<4s4H2LH", b"PK\x05\x06", 0, 0, min(count, 0xFFFF), min(count, 0xFFFF), size, 0, 0)
    body.write(listed.getvalue() + (far + locator if count > 0xFFFE else b"") + end)
    return body.getvalue()


def test_the_archive_made_by_hand_is_one():
    with zipfile.ZipFile(io.BytesIO(folders(500))) as opened:
        assert len(opened.infolist()) == 500


@pytest.mark.parametrize("count", [3_000, 250_000])
def test_an_archive_of_folders_is_refused_at_once(tmp_path, count):
    data = folders(count)
    began = time.process_time()
    with pytest.raises(PackError, match="folders"):
        read_pack(data)
    file = tmp_path / "list.xlsx"
    file.write_bytes(data)
    with pytest.raises(ReadError, match="folders"):
        xlsx_table(file)
    assert time.process_time() - began < 0.5 * count / 3_000, "it was gone through"


def test_a_common_archive_is_opened():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr("a.txt", "one")
        made.comment = b"said of it" * 20
    with zip_within(out, 10) as opened:
        assert opened.read("a.txt") == b"one"


@settings(deadline=None)
@given(st.binary(max_size=200), st.integers(0, 120))
def test_whatever_bytes_end_in_an_archive_or_a_refusal(noise, at):
    whole = bytearray(folders(3))
    whole[at : at + len(noise)] = noise
    try:
        with zip_within(io.BytesIO(bytes(whole)), 10) as opened:
            assert len(opened.infolist()) <= 10
    except (zipfile.BadZipFile, LimitError, NotImplementedError, UnicodeDecodeError, OSError, ValueError):
        pass
