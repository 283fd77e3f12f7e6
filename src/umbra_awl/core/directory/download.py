"""Fetching files from a directory or registry service: progress, resume after a cut, checksum, clear errors.

A service gives `index.json`: a list of files with name, what, size in bytes, sha256, date. A file is fetched into
NAME.part beside its place and takes its name only when size and checksum agree; what a cut left in
NAME.part is continued with an HTTP range.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import hashlib
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple
from urllib.parse import urljoin, urlsplit

import msgspec

from umbra_awl.core.directory.errors import DownloadError, ImportCancelledError
from umbra_awl.core.directory.importing import Cancelled, never
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.limits import SERVICE_LIST_BYTES
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.keep.web import SlowError, WebLimits, WebRequest, answered

_TIMEOUT_S = 8.0
_INDEX_S = 40.0
MOST_BYTES = 200_000_000
MOST_FILES = 500
MOST_REDIRECTS = 3
_PLAIN = {"Accept-Encoding": "identity"}
ByteProgress = Callable[[int, int], None]


class _TooMuchError(Exception):
    """More bytes come than were announced."""


class OfferedFile(NamedTuple):
    """A file that a service offers."""

    name: str
    what: str
    words: str
    size: int
    sha256: str
    date: str


def offered(url: str) -> list[OfferedFile]:
    """What a service offers: a list within limits of size, depth, number and time. Raises DownloadError."""
    base = tidy_url(url)
    return offers_in(_index_of(base), base)


def offers_in(data: bytes, base: str) -> list[OfferedFile]:
    """What a service's answer offers. Raises DownloadError."""
    try:
        files = msgspec.json.decode(data, type=_Index).files
    except (msgspec.DecodeError, UnicodeError, RecursionError):
        raise DownloadError(f"{base} answers, but not with a list of files. Check the address.") from None
    if len(files) > MOST_FILES:
        raise DownloadError(
            f"{base} offers {counted(len(files), 'file')}; more than {MOST_FILES} are no directory. Check the address."
        )
    return [_offer(item) for item in files]


class _File(msgspec.Struct):
    name: str
    what: str
    size: int
    sha256: str
    words: str = ""
    date: str = ""


class _Index(msgspec.Struct):
    files: list[_File]


def _index_of(base: str) -> bytes:
    """The bytes of a service's list. Raises DownloadError."""
    import httpx

    address, gathered = f"{base}/index.json", bytearray()
    limits = WebLimits(_INDEX_S, _INDEX_S, _INDEX_S)
    try:
        for _step in range(MOST_REDIRECTS + 1):
            with answered(WebRequest("GET", address, headers=_PLAIN), limits) as answer:
                if answer.is_redirect:
                    address = _nearby(base, address, answer.headers.get("location", ""))
                    continue
                answer.raise_for_status()
                for chunk in answer.iter_raw():
                    gathered += chunk
                    if len(gathered) > SERVICE_LIST_BYTES:
                        raise DownloadError(f"{base} answers with more than any list of files. Check the address.")
                return bytes(gathered)
    except httpx.HTTPStatusError as error:
        raise DownloadError(
            f"{base} answers {error.response.status_code}, so it offers no directory there. Check the address."
        ) from None
    except SlowError:
        raise DownloadError(f"{base} has not finished its list after {_INDEX_S:.0f} s. Try again later.") from None
    except (httpx.HTTPError, httpx.InvalidURL, UnicodeError) as error:
        raise DownloadError(_down(base, error)) from None
    raise DownloadError(f"{base} sends one from place to place and never to a list. Check the address.")


def _nearby(base: str, address: str, to: str) -> str:
    """Where a service sends one on, if that is still the same host and port. Raises DownloadError."""
    try:
        there, here = urlsplit(urljoin(address, to)), urlsplit(address)
        near = (there.scheme, there.hostname, there.port) == (here.scheme, here.hostname, here.port)
    except ValueError:
        near = False
    if not near:
        raise DownloadError(
            f"{base} sends one on to “{to[:80]}”, which is another place. If that is the service, type that address yourself."
        )
    return urljoin(address, to)


def tidy_url(url: str) -> str:
    """An address with its scheme and without a closing slash. Raises DownloadError for an empty one."""
    plain = url.strip().rstrip("/").removesuffix("/index.json")
    if not plain:
        raise DownloadError("No address is given. Type the address of a directory service.")
    return plain if plain.startswith(("http://", "https://")) else f"http://{plain}"


def _offer(item: _File) -> OfferedFile:
    """An offer whose name is a plain one: what a service calls a file never decides where it goes."""
    name = path_name(item.name.rpartition("/")[2], "file")
    return OfferedFile(name, item.what[:40], item.words[:200], item.size, item.sha256, item.date[:40])


def _down(base: str, error: Exception) -> str:
    why = str(error) or type(error).__name__
    return f"{base} does not answer ({why}). Is the network there? Try again later; nothing was changed."


def fetch(
    url: str,
    file: OfferedFile,
    folder: Path,
    progress: ByteProgress = lambda _a, _b: None,
    cancelled: Cancelled = never,
) -> Path:
    """Fetch a file into a folder; its path. Raises CancelledError and DownloadError; what came is kept and continued."""
    if not 0 < file.size <= MOST_BYTES:
        raise DownloadError(f"“{file.name}” is said to have {file.size:,} bytes; that cannot be right.")
    whole, part = folder / file.name, folder / f"{file.name}.part"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        if part.exists() and part.stat().st_size > file.size:
            part.unlink()
        if not part.exists() or part.stat().st_size < file.size:
            _continue(tidy_url(url), file, part, progress, cancelled)
        _check(file, part)
        part.replace(whole)
    except OSError as error:
        raise DownloadError(
            f"“{file.name}” cannot be kept: {error.strerror or error}. Make room and try again."
        ) from None
    return whole


def _continue(base: str, file: OfferedFile, part: Path, progress: ByteProgress, cancelled: Cancelled) -> None:
    import httpx

    have = part.stat().st_size if part.exists() else 0
    headers = {"Range": f"bytes={have}-", "Accept-Encoding": "identity"} if have else {"Accept-Encoding": "identity"}
    try:
        limits = WebLimits(_TIMEOUT_S, _INDEX_S, None)
        with answered(WebRequest("GET", f"{base}/{file.name}", headers=headers), limits) as answer:
            answer.raise_for_status()
            if answer.status_code != httpx.codes.PARTIAL_CONTENT:
                have = 0
            with part.open("ab" if have else "wb") as out:
                for chunk in answer.iter_raw():
                    have += len(chunk)
                    if have > file.size:
                        raise _TooMuchError
                    out.write(chunk)
                    progress(have, file.size)
                    if cancelled():
                        raise ImportCancelledError(
                            f"Stopped after {have:,} bytes; they are kept, and the next try goes on from there."
                        )
    except _TooMuchError:
        part.unlink(missing_ok=True)
        raise DownloadError(
            f"{base} sends more than the {file.size:,} bytes it announced for “{file.name}”. Nothing was taken."
        ) from None
    except httpx.HTTPStatusError as error:
        raise DownloadError(f"{base} answers {error.response.status_code} for “{file.name}”.") from None
    except (httpx.HTTPError, SlowError) as error:
        kept = part.stat().st_size if part.exists() else 0
        if not kept:
            raise DownloadError(_down(base, error)) from None
        text = f"The line was cut after {kept:,} of {file.size:,} bytes. They are kept; try again to go on from there."
        raise DownloadError(text) from None
    if have < file.size:
        raise DownloadError(
            f"The line was cut after {have:,} of {file.size:,} bytes. They are kept; try again to go on from there."
        )


def _check(file: OfferedFile, part: Path) -> None:
    digest = hashlib.sha256()
    with part.open("rb") as data:
        while chunk := data.read(1 << 20):
            digest.update(chunk)
    if digest.hexdigest() != file.sha256:
        part.unlink()
        raise DownloadError(
            f"“{file.name}” came damaged: its checksum differs from the service's. Nothing was taken; try again."
        )
