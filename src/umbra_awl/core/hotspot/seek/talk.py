"""Asking a hotspot over its page: status, settings, log; settings to it, a restart, a link. Bounded in time and size.

Only the address that was asked for is spoken to: a page that sends one elsewhere is not followed.
What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import socket
import time
from ipaddress import ip_address
from typing import TYPE_CHECKING, NamedTuple, Protocol, TypeVar
from urllib.parse import urlsplit

import msgspec

from umbra_awl.core.hotspot.seek.errors import (
    HotspotError,
    NoHotspotError,
    NotNowError,
    StrangeAnswerError,
    WrongKeyError,
)
from umbra_awl.core.keep.limits import MB
from umbra_awl.core.keep.web import SlowError, WebLimits, WebRequest, answered

if TYPE_CHECKING:
    import httpx

MOST_BYTES, MOST_LOG = 1 * MB, 16 * MB
_TIMEOUT_S, _LONGEST_S = 4.0, 12.0
USER = "awl"
_PLAIN = {"accept-encoding": "identity"}
"""What is packed is not unpacked: a few bytes could become any number."""
_SLOW = "It answers too slowly to be of use. Wait until it has started, then look again."
_Told = TypeVar("_Told", bound=msgspec.Struct)


class Status(msgspec.Struct, frozen=True):
    """What a hotspot says of itself; `left_s` are seconds until it is up."""

    name: str = ""
    state: str = ""
    left_s: float = 0
    modem: str = ""
    wifi: str = ""
    logged_in: bool = False
    linked: str = ""
    default_password: bool = False
    display: tuple[str, ...] = ()
    calls: tuple[str, ...] = ()

    @property
    def up(self) -> bool:
        """Whether it has started."""
        return self.state == "up"


class Over(msgspec.Struct, frozen=True):
    """What came of a radio's over: whether anything reached it, heard, a beep, the echo, errors and bits."""

    reached: bool = False
    heard: bool = False
    beep: bool = False
    echo: bool = False
    errors: int = 0
    bits: int = 0


def checked_address(text: str) -> str:
    """An address as it is spoken to: “name.local”, “192.0.2.4:8080” or a whole one. Raises HotspotError."""
    plain = text.strip().rstrip("/")
    whole = plain if "://" in plain else f"http://{plain}"
    refusal = f"“{text.strip()[:60]}” is no address. Type one like bench-spot.local or 127.0.0.1:8080."
    try:
        parts = urlsplit(whole)
        port = parts.port
    except ValueError:
        raise HotspotError(refusal) from None
    more = (parts.username, parts.path.strip("/"), parts.query, parts.fragment, whole.endswith(":"))
    odd = any(char.isspace() or not char.isprintable() for char in whole)
    if parts.scheme not in {"http", "https"} or not parts.hostname or any(more) or odd:
        raise HotspotError(refusal)
    host = f"[{parts.hostname}]" if ":" in (parts.hostname or "") else parts.hostname
    return f"{parts.scheme}://{host}{f':{port}' if port else ''}"


def is_loopback(address: str) -> bool:
    """Whether an address is this computer's own, where simulated hotspots are."""
    try:
        return urlsplit(checked_address(address)).hostname in {"127.0.0.1", "::1", "localhost"}
    except HotspotError:
        return False


def stays_near(address: str) -> bool:
    """Whether what is sent to an address is encrypted, or stays on this computer or in a private network, by all its numbers."""
    parts = urlsplit(checked_address(address))
    if parts.scheme == "https":
        return True
    try:
        found = socket.getaddrinfo(parts.hostname, parts.port or 80, type=socket.SOCK_STREAM)
        numbers = {ip_address(str(row[4][0]).partition("%")[0]) for row in found}
    except (OSError, ValueError, UnicodeError):
        return False
    return bool(numbers) and all(item.is_loopback or item.is_private or item.is_link_local for item in numbers)


class AnswerWords(Protocol):
    """The words in which a page answers, where they are not our own."""

    def path(self, what: str) -> str:
        """Where “status”, “settings” or “log” is asked."""

    def status(self, answer: bytes) -> Status:
        """What it says of itself. Raises StrangeAnswerError."""

    def settings(self, answer: bytes) -> str:
        """Its settings in our own form."""

    def written(self, answer: bytes, settings: str) -> bytes:
        """What is handed over for settings in our own form."""

    def log(self, answer: bytes) -> bytes:
        """Its log as UTF-8."""


class Talk(NamedTuple):
    """A hotspot by its address; `key` is its page's password, held only as long as it is needed.

    `patience_s` is how many seconds it is waited for a sign of life; `transport` is for tests; `words` are those of its page
    where they are not our own.
    """

    address: str
    key: str = ""
    transport: "httpx.BaseTransport | None" = None
    patience_s: float = _TIMEOUT_S
    words: AnswerWords | None = None

    def __repr__(self) -> str:
        """Without the password."""
        return f"Talk({self.address!r})"

    def status(self) -> Status:
        """What it says of itself; no password goes along. Raises HotspotError."""
        if self.words is not None:
            return self.words.status(self._ask("GET", self.words.path("status"), secret=False))
        return self._decoded(self._ask("GET", "/status", secret=False), Status)

    def proven(self, name: str) -> "Talk":
        """The same, once the device there has called itself by a name that is expected. Raises HotspotError."""
        found = self.status()
        if found.name != name:
            raise StrangeAnswerError(
                f"Another device answers at {self.address}: “{found.name[:40]}”, not “{name[:40]}”. Nothing secret was sent. "
                "Ask it anew."
            )
        return self

    def settings(self) -> str:
        """Its settings file. Raises HotspotError."""
        if self.words is not None:
            return self.words.settings(self._ask("GET", self.words.path("settings")))
        return self._ask("GET", "/settings").decode("utf-8", "replace")

    def log(self) -> bytes:
        """Its log. Raises HotspotError."""
        if self.words is not None:
            return self.words.log(self._ask("GET", self.words.path("log"), most=MOST_LOG))
        return self._ask("GET", "/log", most=MOST_LOG)

    def apply(self, settings: str) -> Status:
        """Hand over settings; it restarts then. Raises HotspotError."""
        if self.words is not None:
            path = self.words.path("settings")
            self._ask("PUT", path, self.words.written(self._ask("GET", path), settings))
            return self.status()
        return self._decoded(self._ask("PUT", "/settings", settings.encode()), Status)

    def link(self, target: str) -> Status:
        """Have it link to something; only once it is up. Raises HotspotError."""
        self._own_words("link it")
        return self._decoded(self._ask("POST", "/link", msgspec.json.encode({"to": target})), Status)

    def set_key(self, new: str) -> Status:
        """Give its page another password. Raises HotspotError."""
        self._own_words("change its password")
        self._carries_secrets()
        return self._decoded(self._ask("POST", "/password", msgspec.json.encode({"new": new})), Status)

    def set_secret(self, new: str) -> Status:
        """Give it the password for its master; it restarts then. Raises HotspotError."""
        self._own_words("give it a password")
        self._carries_secrets()
        return self._decoded(self._ask("POST", "/secret", msgspec.json.encode({"new": new})), Status)

    def over(self, told: dict[str, str]) -> Over:
        """Key the simulated radio beside a simulated hotspot. Raises HotspotError."""
        self._own_words("key it")
        return self._decoded(self._ask("POST", "/over", msgspec.json.encode(told)), Over)

    def _own_words(self, what: str) -> None:
        """Raise HotspotError where its page does not answer in our own words."""
        if self.words is not None:
            raise NotNowError(f"The driver for this hotspot cannot {what}. Do it on its own page, {self.address}.")

    def _decoded(self, data: bytes, kind: type[_Told]) -> _Told:
        try:
            return msgspec.json.decode(data, type=kind, strict=False)
        except (ValueError, RecursionError):
            raise StrangeAnswerError(
                f"{self.address} answers, but not as a hotspot does. Is it another device?"
            ) from None

    def _carries_secrets(self) -> None:
        """Raise HotspotError where a password would go in the open beyond one's own network."""
        if not stays_near(self.address):
            raise HotspotError(
                f"{self.address} is beyond your own network, and its page is not encrypted: a password is not sent there. "
                "Use an address that begins with https, or that of your own network."
            )

    def _ask(self, method: str, path: str, body: bytes = b"", most: int = MOST_BYTES, *, secret: bool = True) -> bytes:
        import httpx

        address = checked_address(self.address)
        if self.key and secret:
            self._carries_secrets()
        key = (USER, self.key) if self.key and secret else None
        asked = WebRequest(method, f"{address}{path}", body, _PLAIN, key)
        try:
            with answered(
                asked, WebLimits(self.patience_s, _LONGEST_S, _LONGEST_S + self.patience_s), self.transport
            ) as answer:
                data = _within(answer, most)
        except SlowError:
            raise StrangeAnswerError(_SLOW) from None
        except (httpx.HTTPError, httpx.InvalidURL, ValueError, UnicodeError) as error:
            raise NoHotspotError(
                f"Nothing answers at {address} ({type(error).__name__}). Has it started, and is this computer in the same Wi-Fi?"
            ) from None
        self._refused(answer.status_code, data)
        return data

    def _refused(self, code: int, data: bytes) -> None:
        told = "".join(char if char.isprintable() else " " for char in data[:160].decode("utf-8", "replace"))
        if 300 <= code < 400:
            raise StrangeAnswerError(
                f"{self.address} sends one elsewhere. That is how a login page of a hotel's Wi-Fi looks."
            )
        if code == 401:
            raise WrongKeyError("The page's password is not that one. Type the one you gave it.")
        if code == 409:
            raise NotNowError(f"The hotspot refuses just now: {told}")
        if code >= 400:
            raise StrangeAnswerError(f"{self.address} has no such page ({code}). Is it a hotspot?")


def _within(answer: "httpx.Response", most: int) -> bytes:
    """The bytes of an answer, within limits of size and time. Raises StrangeAnswerError."""
    if answer.headers.get("content-encoding", "identity") != "identity":
        raise StrangeAnswerError("It answers with something packed that nobody asked for. Nothing of it was taken.")
    found, until = bytearray(), time.monotonic() + _LONGEST_S
    for part in answer.iter_bytes():
        found += part
        if len(found) > most:
            raise StrangeAnswerError("It sends more than any hotspot has to say. Nothing of it was taken.")
        if time.monotonic() > until:
            raise StrangeAnswerError(_SLOW)
    return bytes(found)
