"""A club pack: a zip that a club hands round, with a manifest and checksums. Looked at whole before any part is taken.

Made from what is here, of the plan only what may be told. Whatever in a pack is not as the manifest says, is too large, is
encrypted, leads out of its folder, or cannot be used, is refused with the reason; the rest can still be taken.
"""

import io
import zipfile
import zlib
from collections.abc import Iterable
from hashlib import sha256
from pathlib import Path
from typing import NamedTuple

import msgspec

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hands.kinds import KINDS, BandPlan, Kind, band_plan_text
from umbra_awl.core.keep.limits import MB, LimitError, read_within, size_words
from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.keep.versions import form_fault
from umbra_awl.core.keep.zips import zip_within
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.sharing import shareable

FORMAT, VERSION = "umbra-awl club pack", 1
MANIFEST = "manifest.json"
PACK_BYTES, UNPACKED_BYTES, MOST_PARTS = 32 * MB, 64 * MB, 300
MOST_ENTRIES = 2 * MOST_PARTS
"""Files and folders; folders are nothing, and yet somebody has to go through them."""
_STAMP = (2026, 1, 1, 0, 0, 0)
"""The same time in every entry: equal contents make equal packs."""


class PackError(ValueError):
    """A file that is no club pack, or one that cannot be looked into; the message says why."""


class PackListing(msgspec.Struct, frozen=True):
    """A part as the manifest lists it."""

    file: str
    kind: str
    sha256: str
    bytes: int


class Manifest(msgspec.Struct, frozen=True):
    """What a pack says of itself."""

    name: str
    made: str
    parts: tuple[PackListing, ...]
    format: str = FORMAT
    version: int = VERSION


class PackPart(NamedTuple):
    """A part that can be taken: its kind, its file in the pack, what is in it by name, and its text."""

    kind: str
    file: str
    title: str
    text: str


class Pack(NamedTuple):
    """A pack that was looked into: its name, the day it was made, what can be taken, and what was refused and why."""

    name: str
    made: str
    parts: tuple[PackPart, ...]
    refused: tuple[str, ...]


def own_parts(plan: Plan, files: Iterable[tuple[str, str, str]]) -> list[tuple[str, str, str]]:
    """Everything that goes into a pack, as kind, name and text: the plan as it may be told, its band plan, and own files."""
    shared = shareable(plan)
    made = [("plan", plan.name, plan_bytes(shared).decode())]
    if shared.station.uses or shared.station.bands:
        bands = BandPlan(f"Bands of {plan.name}", shared.station.uses, shared.station.bands)
        made.append(("band-plan", "band plan", band_plan_text(bands)))
    return [*made, *files]


def make_pack(name: str, made: str, parts: Iterable[tuple[str, str, str]]) -> bytes:
    """A pack of parts (kind, name, text). `made` is the day, as an ISO text. Raises PackError for a part that cannot be used."""
    files: dict[str, tuple[str, bytes]] = {}
    for kind, title, text in parts:
        known = KINDS[kind]
        try:
            known.check(text, f"“{title}”")
        except ValueError as error:
            raise PackError(f"The pack was not made. {error}") from None
        files[_free(known, title, files)] = (kind, text.encode())
    listed = tuple(PackListing(file, kind, sha256(data).hexdigest(), len(data)) for file, (kind, data) in files.items())
    head = msgspec.json.format(msgspec.json.encode(Manifest(name, made, listed)), indent=1)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as zipped:
        for file, data in ((MANIFEST, head), *((file, data) for file, (_kind, data) in files.items())):
            zipped.writestr(zipfile.ZipInfo(file, _STAMP), data, zipfile.ZIP_DEFLATED)
    return out.getvalue()


def _free(kind: Kind, title: str, taken: Iterable[str]) -> str:
    stem, used, number = readable_name(title, "part"), set(taken), 1
    file = f"{kind.folder}/{stem}{kind.ending}"
    while file in used:
        number += 1
        file = f"{kind.folder}/{stem}-{number}{kind.ending}"
    return file


def read_pack_file(path: Path) -> Pack:
    """A pack out of its file, looked into. Raises OSError and PackError."""
    return read_pack(read_within(path, PACK_BYTES))


def read_pack(data: bytes) -> Pack:
    """A pack looked into. Raises PackError where it is none, or where it cannot be trusted as a whole."""
    if len(data) > PACK_BYTES:
        raise PackError(f"It is larger than {size_words(PACK_BYTES)}, and no pack is.")
    try:
        with zip_within(io.BytesIO(data), MOST_ENTRIES) as zipped:
            return _looked_into(zipped)
    except LimitError as error:
        raise PackError(f"It was not unpacked: {error.strerror}.") from None
    except (zipfile.BadZipFile, zipfile.LargeZipFile, NotImplementedError, OSError, EOFError, RuntimeError) as error:
        raise PackError(f"It is no zip file that can be read ({str(error)[:80] or type(error).__name__}).") from None
    except (ValueError, UnicodeError) as error:
        if isinstance(error, PackError):
            raise
        raise PackError(f"It is no zip file that can be read ({str(error)[:80]}).") from None


def _looked_into(zipped: zipfile.ZipFile) -> Pack:
    entries = [item for item in zipped.infolist() if not item.is_dir()]
    if len(entries) > MOST_PARTS:
        raise PackError(f"It holds {counted(len(entries), 'file')}; no pack has more than {MOST_PARTS}.")
    if sum(item.file_size for item in entries) > UNPACKED_BYTES:
        raise PackError(f"Unpacked it would be larger than {size_words(UNPACKED_BYTES)}. It was not unpacked.")
    by_name = {item.filename: item for item in entries}
    if len(by_name) < len(entries):
        raise PackError("It holds two files of one name, so nobody can tell which is meant.")
    manifest = _manifest(zipped, by_name)
    parts, refused = [], [f"“{name[:60]}” is not in the manifest." for name in by_name if name not in _named(manifest)]
    seen: set[str] = set()
    for listed in manifest.parts:
        made = "It is listed twice." if listed.file in seen else _part(zipped, by_name, listed)
        seen.add(listed.file)
        if isinstance(made, PackPart):
            parts.append(made)
        else:
            refused.append(f"“{listed.file[:60]}”: {made}")
    return Pack(manifest.name[:120], manifest.made[:10], tuple(parts), tuple(refused))


def _named(manifest: Manifest) -> set[str]:
    return {MANIFEST, *(item.file for item in manifest.parts)}


def _manifest(zipped: zipfile.ZipFile, entries: dict[str, zipfile.ZipInfo]) -> Manifest:
    if MANIFEST not in entries:
        raise PackError("It is a zip file without a manifest, and so no club pack.")
    try:
        made = msgspec.json.decode(_bytes(zipped, entries[MANIFEST], 256_000), type=Manifest)
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise PackError(f"Its manifest cannot be read ({str(error)[:80]}).") from None
    if fault := form_fault("Its manifest", (made.format, made.version), (FORMAT, VERSION)):
        raise PackError(fault)
    return made


def _bytes(zipped: zipfile.ZipFile, item: zipfile.ZipInfo, most: int) -> bytes:
    """The bytes of an entry, never more than so many however it is packed. Raises PackError."""
    if item.flag_bits & 1:
        raise PackError("it is encrypted")
    if item.compress_type not in {zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED}:
        raise PackError("it is packed in a way that is not taken")
    try:
        with zipped.open(item) as file:
            data = file.read(most + 1)
    except (zlib.error, zipfile.BadZipFile, EOFError, OSError, RuntimeError, NotImplementedError) as error:
        raise PackError(f"it is damaged ({str(error)[:60]})") from None
    if len(data) > most:
        raise PackError(f"it is larger than {size_words(most)}")
    return data


def _part(zipped: zipfile.ZipFile, entries: dict[str, zipfile.ZipInfo], listed: PackListing) -> PackPart | str:
    """A part, checked; why it is refused."""
    kind = KINDS.get(listed.kind)
    if kind is None:
        return f"the kind “{listed.kind[:40]}” is not known here."
    folder, _, name = listed.file.partition("/")
    if folder != kind.folder or not name.endswith(kind.ending) or not _plain(name):
        return f"a {kind.words} lies in “{kind.folder}” under a plain name."
    if listed.file not in entries:
        return "it is listed and not there."
    try:
        data = _bytes(zipped, entries[listed.file], kind.most)
        if sha256(data).hexdigest() != listed.sha256 or len(data) != listed.bytes:
            return "it is not what the manifest says: its checksum is another one."
        text = data.decode("utf-8")
        return PackPart(listed.kind, listed.file, kind.check(text, "it")[:120], text)
    except (ValueError, zipfile.BadZipFile, OSError, EOFError, RuntimeError) as error:
        return f"{str(error)[:160]}"


def _plain(name: str) -> bool:
    """Whether a file's name is letters, digits, hyphens, blanks and points, not hidden, and leads nowhere."""
    return len(name) <= 120 and not name.startswith(".") and all(char.isalnum() or char in "-_ ." for char in name)
