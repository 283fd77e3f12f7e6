"""Fetching files from a directory or registry service: progress, resume after a cut, checksum, clear errors.

A service gives `index.json`: a list of files with name, what, size in bytes, sha256, date. A file is fetched into
NAME.part beside its place and takes its name only when size and checksum agree; what a cut left in
NAME.part is continued with an HTTP range.
"""

import hashlib
import json
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.directory.errors import CancelledError, DownloadError
from umbra_awl.core.directory.importing import Cancelled, never

_TIMEOUT_S = 8.0
_INDEX_S = 40.0
MOST_BYTES = 2_000_000_000
ByteProgress = Callable[[int, int], None]


class Offered(NamedTuple):
    """A file that a service offers."""

    name: str
    what: str
    words: str
    size: int
    sha256: str
    date: str


def offered(url: str) -> list[Offered]:
    """What a service offers. Raises DownloadError."""
    import httpx

    base = tidy_url(url)
    try:
        answer = httpx.get(
            f"{base}/index.json", timeout=httpx.Timeout(_TIMEOUT_S, read=_INDEX_S), follow_redirects=True
        )
        answer.raise_for_status()
        return [_offer(item) for item in answer.json()["files"]]
    except httpx.HTTPStatusError as error:
        raise DownloadError(
            f"{base} answers {error.response.status_code}, so it offers no directory there. Check the address."
        ) from None
    except (httpx.HTTPError, httpx.InvalidURL) as error:
        raise DownloadError(_down(base, error)) from None
    except (json.JSONDecodeError, KeyError, TypeError, ValueError):
        raise DownloadError(f"{base} answers, but not with a list of files. Check the address.") from None


def tidy_url(url: str) -> str:
    """An address with its scheme and without a closing slash. Raises DownloadError for an empty one."""
    plain = url.strip().rstrip("/").removesuffix("/index.json")
    if not plain:
        raise DownloadError("No address is given. Type the address of a directory service.")
    return plain if plain.startswith(("http://", "https://")) else f"http://{plain}"


def _offer(item: dict[str, object]) -> Offered:
    name = Path(str(item["name"])).name
    return Offered(
        name,
        str(item["what"]),
        str(item.get("words", "")),
        int(str(item["size"])),
        str(item["sha256"]),
        str(item.get("date", "")),
    )


def _down(base: str, error: Exception) -> str:
    why = str(error) or type(error).__name__
    return f"{base} does not answer ({why}). Is the network there? Try again later; nothing was changed."


def fetch(
    url: str, file: Offered, folder: Path, progress: ByteProgress = lambda _a, _b: None, cancelled: Cancelled = never
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


def _continue(base: str, file: Offered, part: Path, progress: ByteProgress, cancelled: Cancelled) -> None:
    import httpx

    have = part.stat().st_size if part.exists() else 0
    headers = {"Range": f"bytes={have}-", "Accept-Encoding": "identity"} if have else {"Accept-Encoding": "identity"}
    try:
        with httpx.stream("GET", f"{base}/{file.name}", headers=headers, timeout=_TIMEOUT_S) as answer:
            answer.raise_for_status()
            if answer.status_code != httpx.codes.PARTIAL_CONTENT:
                have = 0
            with part.open("ab" if have else "wb") as out:
                for chunk in answer.iter_raw():
                    out.write(chunk)
                    have += len(chunk)
                    progress(have, file.size)
                    if cancelled():
                        raise CancelledError(
                            f"Stopped after {have:,} bytes; they are kept, and the next try goes on from there."
                        )
    except httpx.HTTPStatusError as error:
        raise DownloadError(f"{base} answers {error.response.status_code} for “{file.name}”.") from None
    except httpx.HTTPError as error:
        kept = part.stat().st_size if part.exists() else 0
        if not kept:
            raise DownloadError(_down(base, error)) from None
        text = f"The line was cut after {kept:,} of {file.size:,} bytes. They are kept; try again to go on from there."
        raise DownloadError(text) from None
    if have < file.size:
        raise DownloadError(
            f"The line was cut after {have:,} of {file.size:,} bytes. They are kept; try again to go on from there."
        )


def _check(file: Offered, part: Path) -> None:
    digest = hashlib.sha256()
    with part.open("rb") as data:
        while chunk := data.read(1 << 20):
            digest.update(chunk)
    if digest.hexdigest() != file.sha256:
        part.unlink()
        raise DownloadError(
            f"“{file.name}” came damaged: its checksum differs from the service's. Nothing was taken; try again."
        )
