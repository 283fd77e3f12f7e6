"""The hotspot's page over loopback HTTP: status, settings (INI), log, link, password; and what a radio beside it does."""

import base64
import json
import time
from collections.abc import Callable
from functools import cached_property
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from threading import Lock

from umbra_awl.standins.hotspot.machine import FACTORY, Machine, Refused

USER = "awl"
MOST_BYTES = 200_000


def as_ini(settings: dict[str, str], key: str) -> str:
    """The settings as an INI file; a password that was changed is not told."""
    made: list[str] = ["# settings of the simulated hotspot"]
    section = ""
    for name, value in (settings | {"page.key": key}).items():
        head, _dot, last = name.partition(".")
        if head != section:
            made.append(f"[{head}]")
            section = head
        made.append(f"{last}={value}")
    return "\n".join(made) + "\n"


def from_ini(text: str) -> dict[str, str]:
    """The settings in an INI file, as far as they are known."""
    made: dict[str, str] = {}
    section = ""
    for line in text.splitlines():
        if line.startswith("[") and "]" in line:
            section = line[1 : line.index("]")]
        elif "=" in line and not line.startswith("#"):
            key, _sign, value = line.partition("=")
            made[f"{section}.{key.strip()}"] = value.strip()
    return {key: value for key, value in made.items() if key in FACTORY}


class _Handler(BaseHTTPRequestHandler):
    """Speaks for the hotspot."""

    protocol_version = "HTTP/1.1"

    @cached_property
    def own(self) -> "HotspotServer":
        """The server that it speaks for."""
        server = self.server
        assert isinstance(server, HotspotServer)  # noqa: S101  (its own server)
        return server

    @property
    def machine(self) -> Machine:
        """The hotspot that the page is of."""
        return self.own.machine

    def log_message(self, *_args: object) -> None:
        """Nothing is printed for each request."""

    def _send(self, code: int, body: bytes, kind: str = "application/json") -> None:
        self.send_response(code)
        self.send_header("Content-Type", kind)
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def _json(self, value: object, code: int = 200) -> None:
        self._send(code, json.dumps(value).encode())

    def _body(self) -> bytes:
        return self.rfile.read(min(int(self.headers.get("Content-Length") or 0), MOST_BYTES))

    def _may(self) -> bool:
        """Whether the password that came along is the page's."""
        wanted = base64.b64encode(f"{USER}:{self.machine.key}".encode()).decode()
        if self.headers.get("Authorization", "") == f"Basic {wanted}":
            return True
        self._json({"error": "the password is wrong"}, 401)
        return False

    def do_GET(self) -> None:
        """Status, settings, log, or the page itself."""
        machine = self.machine
        with self.own.lock:
            if self.path == "/":
                name = machine.settings["host.name"]
                self._send(200, f"<title>Simulated hotspot {name}</title>".encode(), "text/html; charset=utf-8")
            elif self.path == "/status":
                self._json(machine.status())
            elif self.path == "/log":
                machine.up  # noqa: B018  (what the start has to tell comes into the log)
                self._send(200, ("\n".join(machine.lines) + "\n").encode(), "text/plain; charset=utf-8")
            elif self.path == "/settings":
                shown = machine.key if machine.status()["default_password"] else "***"
                self._send(200, as_ini(machine.settings, shown).encode(), "text/plain; charset=utf-8")
            else:
                self._json({"error": "no such page"}, 404)

    def do_PUT(self) -> None:
        """Settings in place of the present ones; then it restarts."""
        with self.own.lock:
            body = self._body()
            if self._may():
                self.machine.apply(from_ini(body.decode("utf-8", "replace")))
                self._json(self.machine.status())

    def do_POST(self) -> None:
        """A link, a new password, a restart; an over of the radio beside it, somebody from the network."""
        with self.own.lock:
            try:
                told = json.loads(self._body() or b"{}")
                self._do(self.path, told if isinstance(told, dict) else {})
            except (Refused, ValueError) as error:
                self._json({"error": str(error)}, 409)

    def _do(self, path: str, told: dict[str, str]) -> None:
        machine = self.machine
        if path == "/over":
            self._json(machine.key_up(told))
        elif path == "/network":
            machine.pass_by(told.get("call", ""), told.get("to", ""))
            self._json({})
        elif path not in {"/link", "/password", "/secret", "/restart"}:
            self._json({"error": "no such page"}, 404)
        elif self._may():
            if path == "/link":
                machine.link(told.get("to", ""))
            elif path == "/password":
                machine.set_key(told.get("new", ""))
            elif path == "/secret":
                machine.set_secret(told.get("new", ""))
            else:
                machine.restart()
            self._json(machine.status())


class HotspotServer(ThreadingHTTPServer):
    """The hotspot on loopback."""

    daemon_threads = True

    def __init__(self, machine: Machine, port: int = 0) -> None:
        self.machine = machine
        self.lock = Lock()
        super().__init__(("127.0.0.1", port), _Handler)


def running_clock(pace: float) -> Callable[[], float]:
    """A clock that begins now and runs at a pace of so many times real time, in seconds."""
    begun = time.monotonic()
    return lambda: (time.monotonic() - begun) * pace
