"""The service: `index.json` and its files over HTTP with ranges, on loopback only; faults on request.

What only the running process needs is imported where it is used.
"""

import hashlib
import json
import re
from collections.abc import Callable
from functools import cached_property
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.standins.registry.world import (
    ACCESS_HEADERS,
    PEOPLE_HEADERS,
    TARGETS,
    access_rows,
    as_csv,
    people_rows,
)

_CHUNK = 32_768


class ServiceSizes(NamedTuple):
    """How much is generated."""

    access: int = 60_000
    people: int = 250_000


class ServiceFaults:
    """What goes wrong: `cut` breaks the first transfer after so many bytes, `damaged` spoils a byte, `down` answers 503."""

    def __init__(self, texts: tuple[str, ...] = ()) -> None:
        """Read the faults' words. Raises ValueError for one that is none."""
        self.cut_at = 0
        for text in texts:
            name, _at, number = text.partition("@")
            if name not in {"cut", "damaged", "down", "slow"} or (name == "cut") != number.isdecimal():
                raise ValueError(f"“{text}” is not a fault. There are: cut@N, damaged, down, slow.")
            self.cut_at = int(number) if name == "cut" else self.cut_at
        self.damaged = "damaged" in texts
        self.down = "down" in texts
        self.slow = "slow" in texts

    def take_cut(self) -> int:
        """The place to cut at; only the first transfer is cut."""
        at, self.cut_at = self.cut_at, 0
        return at


class ServiceShelf:
    """The files, generated when first asked for."""

    def __init__(self, sizes: ServiceSizes) -> None:
        self._sizes = sizes

    @cached_property
    def files(self) -> dict[str, tuple[str, str, bytes]]:
        """Name to what, words and bytes."""
        sizes = self._sizes
        return {
            "access-points.csv": (
                "access",
                f"{counted(sizes.access, 'access point')} of the world, some of them wrong",
                as_csv(ACCESS_HEADERS, access_rows(sizes.access)),
            ),
            "people.csv": (
                "people",
                f"{counted(sizes.people, 'person', 'people')} by DMR ID",
                as_csv(PEOPLE_HEADERS, people_rows(sizes.people)),
            ),
            "destinations.csv": ("destinations", "Talk groups, reflectors and rooms", TARGETS.encode()),
        }

    @cached_property
    def index(self) -> bytes:
        """The list of files."""
        files = [
            {
                "name": name,
                "what": what,
                "words": words,
                "size": len(data),
                "sha256": hashlib.sha256(data).hexdigest(),
                "date": "2026-11-20",
            }
            for name, (what, words, data) in self.files.items()
        ]
        return json.dumps({"files": files}, indent=1).encode()


def make_server(port: int, sizes: ServiceSizes, faults: ServiceFaults) -> ThreadingHTTPServer:
    """A server on loopback (port 0 takes a free one)."""
    shelf = ServiceShelf(sizes)

    class Handler(BaseHTTPRequestHandler):
        protocol_version = "HTTP/1.1"

        def do_GET(self) -> None:
            answer(self, shelf, faults)

        def log_message(self, format: str, *args: object) -> None:  # noqa: A002  (the base class names it so)
            """Say nothing."""

    server = ThreadingHTTPServer(("127.0.0.1", port), Handler)
    server.daemon_threads = True
    return server


def answer(handler: BaseHTTPRequestHandler, shelf: ServiceShelf, faults: ServiceFaults) -> None:
    """Answer one request."""
    name = handler.path.lstrip("/")
    if faults.down:
        _send(handler, 503, b"", "text/plain")
    elif name == "index.json":
        _send(handler, 200, shelf.index, "application/json")
    elif name in shelf.files:
        _send_file(handler, shelf.files[name][2], faults)
    else:
        _send(handler, 404, b"", "text/plain")


def _send(handler: BaseHTTPRequestHandler, status: int, data: bytes, kind: str) -> None:
    handler.send_response(status)
    handler.send_header("Content-Type", kind)
    handler.send_header("Content-Length", str(len(data)))
    handler.end_headers()
    handler.wfile.write(data)


def _send_file(handler: BaseHTTPRequestHandler, data: bytes, faults: ServiceFaults) -> None:
    asked = re.fullmatch(r"bytes=(\d+)-", handler.headers.get("Range", ""))
    start = min(int(asked[1]), len(data)) if asked else 0
    handler.send_response(206 if asked else 200)
    handler.send_header("Content-Type", "text/csv")
    handler.send_header("Content-Length", str(len(data) - start))
    if asked:
        handler.send_header("Content-Range", f"bytes {start}-{len(data) - 1}/{len(data)}")
    handler.end_headers()
    if faults.damaged:
        data = data[:-2] + b"?" + data[-1:]
    _write(handler, data, start, faults.take_cut(), pause=_pause(faults))


def _pause(faults: ServiceFaults) -> Callable[[], None]:
    if not faults.slow:
        return lambda: None
    import time

    return lambda: time.sleep(0.03)


def _write(handler: BaseHTTPRequestHandler, data: bytes, start: int, cut_at: int, pause: Callable[[], None]) -> None:
    end = cut_at if start < cut_at < len(data) else len(data)
    try:
        for low in range(start, end, _CHUNK):
            handler.wfile.write(data[low : min(low + _CHUNK, end)])
            pause()
    except (BrokenPipeError, ConnectionResetError):
        return
    if end < len(data):
        handler.close_connection = True
