"""A phone with a radio's app, over loopback HTTP: its own list, one yes, a link that sleeps, a mirrored front.

It keeps two lists, as real ones do: its own, and what the radio holds. After a yes both become what was handed over.
"""

import json
from functools import cached_property
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from threading import Lock

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.transfer.app.form import MOST_BYTES, AppList, app_bytes, parse_app
from umbra_awl.core.transfer.errors import AppFormError


class PhoneApp:
    """The app: what it keeps lies in a file. `sleep_after` is after how many requests the phone falls asleep; 0 never."""

    def __init__(self, path: Path, model: str, platform: str, sleep_after: int = 0) -> None:
        self._path, self.model, self.platform = path, model, platform
        self._left = sleep_after
        self.asleep = False
        self.on_radio = self.own = parse_app(path.read_bytes()) if path.exists() else AppList(model)
        self._pending: AppList | None = None
        self.lock = Lock()

    def tire(self) -> None:
        """Count a request; the phone may fall asleep after it."""
        if self._left:
            self._left -= 1
            self.asleep = self.asleep or not self._left

    def front(self) -> dict[str, object]:
        """What the app mirrors of the radio's front."""
        first = next(iter(self.on_radio.access_list), None)
        lines = [first.name, format_mhz(first.rx_hz)] if first is not None else ["NO LIST", ""]
        return {
            "platform": self.platform,
            "model": self.model,
            "link": "asleep" if self.asleep else "connected",
            "lines": [*lines, self.on_radio.settings.call],
        }

    def offer(self, made: AppList) -> None:
        """Take a list that is to replace both, and ask."""
        if made.model != self.model:
            raise AppFormError(f"this app is for a {self.model}")
        self._pending = made

    def answer(self, *, yes: bool) -> None:
        """Say yes or no: after one yes everything is overwritten."""
        if yes and self._pending is not None:
            self.own = self.on_radio = self._pending
            write_over(self._path, app_bytes(self.own))
        self._pending = None


class _Handler(BaseHTTPRequestHandler):
    """Speaks for the app."""

    protocol_version = "HTTP/1.1"

    @cached_property
    def app(self) -> PhoneApp:
        """The app that the server is for."""
        server = self.server
        assert isinstance(server, PhoneServer)  # noqa: S101  (its own server)
        return server.app

    def log_message(self, *_args: object) -> None:
        """Nothing is printed for each request."""

    def _send(self, code: int, body: bytes) -> None:
        self.send_response(code)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def _json(self, value: object, code: int = 200) -> None:
        self._send(code, json.dumps(value).encode())

    def _body(self) -> bytes:
        length = min(int(self.headers.get("Content-Length") or 0), MOST_BYTES + 1)
        return self.rfile.read(length)

    def _awake(self) -> bool:
        self.app.tire()
        if self.app.asleep:
            self._json({"error": "the phone sleeps"}, 503)
        return not self.app.asleep

    def do_GET(self) -> None:
        """The lists and the front."""
        with self.app.lock:
            if self.path == "/front":
                self._json(self.app.front())
            elif self.path in {"/list", "/radio"} and self._awake():
                self._send(200, app_bytes(self.app.own if self.path == "/list" else self.app.on_radio))
            elif self.path not in {"/list", "/radio"}:
                self._json({"error": "no such page"}, 404)

    def do_PUT(self) -> None:
        """A list that is to replace the present one."""
        with self.app.lock:
            body = self._body()
            if not self._awake():
                return
            try:
                self.app.offer(parse_app(body))
            except AppFormError as error:
                self._json({"error": str(error)}, 400)
                return
            self._json({"asks": "Replace the list?"})

    def do_POST(self) -> None:
        """The yes, sleeping and waking."""
        with self.app.lock:
            body = self._body()
            if self.path in {"/sleep", "/wake"}:
                self.app.asleep = self.path == "/sleep"
                self._json(self.app.front())
            elif self._awake():
                self.app.answer(yes=b"true" in body)
                self._json(self.app.front())


class PhoneServer(ThreadingHTTPServer):
    """The phone on loopback."""

    daemon_threads = True

    def __init__(self, app: PhoneApp) -> None:
        self.app = app
        super().__init__(("127.0.0.1", 0), _Handler)
