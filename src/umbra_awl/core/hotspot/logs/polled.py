"""Logs that are asked for again and again: a page that answers records, and a topic of an MQTT broker."""

import queue
import time
from collections.abc import Callable
from typing import TYPE_CHECKING, Any
from urllib.parse import urlsplit

from umbra_awl.core.hotspot.logs.reading import LOG_MOST_BYTES
from umbra_awl.core.hotspot.logs.records import Record, guess_fields, line_of, records_in
from umbra_awl.core.keep.limits import MB
from umbra_awl.core.keep.web import SlowError, WebLimits, WebRequest, answered

if TYPE_CHECKING:
    import httpx

EVERY_S = 5.0
_LIMITS = WebLimits(4.0, 6.0, 10.0)
_MOST_ANSWER, _MOST_AT_ONCE = 2 * MB, 10_000
_KEEP_ALIVE_S, MQTT_PORT = 30, 1883
WHOLE_TOPIC = "#"


class RecordLog:
    """What records come to, as the lines of a log; `data` is the latest of it."""

    def __init__(self) -> None:
        self.data = b""

    def add(self, records: list[Record]) -> bool:
        """Take records in, oldest first; whether any came."""
        fields = guess_fields(records)
        lines = "".join(f"{line_of(record, fields)}\n" for record in records)
        self.data = (self.data + lines.encode("utf-8", "replace"))[-LOG_MOST_BYTES:]
        return bool(records)


class PolledLog(RecordLog):
    """A page that answers JSON, asked every few seconds; records that were there before are not taken twice."""

    def __init__(self, address: str, transport: "httpx.BaseTransport | None" = None) -> None:
        """Raises OSError for an address that is none."""
        super().__init__()
        self._address = record_address(address)
        self._transport = transport
        self._due = 0.0
        self._seen: dict[str, None] = {}

    def more(self) -> bool:
        """Ask again where it is time; whether anything came. Raises OSError with a sentence."""
        now = time.monotonic()
        if now < self._due:
            return False
        self._due = now + EVERY_S
        fresh = [item for item in records_in(self._asked()) if repr(item) not in self._seen]
        self._seen |= dict.fromkeys(map(repr, fresh))
        for old in list(self._seen)[:-_MOST_AT_ONCE]:
            del self._seen[old]
        return self.add(fresh)

    def _asked(self) -> bytes:
        import httpx

        try:
            with answered(WebRequest("GET", self._address), _LIMITS, self._transport) as answer:
                if answer.status_code != httpx.codes.OK:
                    raise OSError(f"{self._address} answers {answer.status_code}. Is that the page with the records?")
                found = bytearray()
                for part in answer.iter_bytes():
                    found += part
                    if len(found) > _MOST_ANSWER:
                        raise OSError(
                            f"{self._address} answers more than {_MOST_ANSWER // MB} MB; ask for fewer records."
                        )
                return bytes(found)
        except (httpx.HTTPError, httpx.InvalidURL, SlowError) as error:
            raise OSError(f"{self._address} does not answer: {error}") from error

    def close(self) -> None:
        """Nothing is held open."""


def record_address(text: str) -> str:
    """An address of a page, with its path; no password in it. Raises OSError with a sentence."""
    plain = text.strip()
    whole = plain if "://" in plain else f"http://{plain}"
    try:
        parts = urlsplit(whole)
        _ = parts.port
    except ValueError:
        parts = urlsplit("")
    if parts.scheme not in {"http", "https"} or not parts.hostname or any(char.isspace() for char in whole):
        raise OSError(f"“{plain[:60]}” is no address of a page. Type one such as bench-spot.local/calls.json.")
    if parts.username or parts.password:
        raise OSError("A password does not go into an address: it would be kept and shown. Ask a page that needs none.")
    return whole


class BrokerLog(RecordLog):
    """A topic of an MQTT broker: each message is a record, or a line."""

    def __init__(self, place: str, make: Callable[[], Any] | None = None) -> None:
        """`place` is “host/topic” or “host:port/topic”. Raises OSError with a sentence; `make` is for tests."""
        super().__init__()
        host, port, topic = broker_place(place)
        self._came: queue.SimpleQueue[bytes] = queue.SimpleQueue()
        self._fault = ""
        self._client = (make or _client)()
        self._client.on_connect = lambda client, *_more: client.subscribe(topic)
        self._client.on_message = lambda _client, _data, message: self._came.put(bytes(message.payload))
        self._client.on_disconnect = lambda *_more: setattr(self, "_fault", f"The broker at {host} has gone away.")
        try:
            self._client.connect(host, port, _KEEP_ALIVE_S)
        except (OSError, ValueError) as error:
            raise OSError(f"No broker answers at {host}:{port}: {error}. Is its address right?") from error
        self._client.loop_start()

    def more(self) -> bool:
        """Take what came; whether anything did. Raises OSError where the broker has gone."""
        records: list[Record] = []
        while not self._came.empty() and len(records) < _MOST_AT_ONCE:
            payload = self._came.get_nowait()
            records += records_in(payload) or [{"text": payload.decode("utf-8", "replace")}]
        if not records and self._fault:
            raise OSError(self._fault)
        return self.add(records)

    def close(self) -> None:
        """Leave the broker."""
        self._client.on_disconnect = None
        self._client.disconnect()
        self._client.loop_stop()


def _client() -> Any:
    from paho.mqtt.client import Client
    from paho.mqtt.enums import CallbackAPIVersion

    made = Client(CallbackAPIVersion.VERSION2)
    made.connect_timeout = _LIMITS.patience_s
    return made


def broker_place(text: str) -> tuple[str, int, str]:
    """Host, port and topic of “host:port/topic”; without a topic all of it. Raises OSError with a sentence."""
    plain = text.strip().removeprefix("mqtt://")
    where, _slash, topic = plain.partition("/")
    host, _colon, port = where.partition(":")
    if not host or any(char.isspace() for char in where) or "@" in where or (port and not port.isdecimal()):
        raise OSError(f"“{text.strip()[:60]}” is no broker with a topic. Type one such as 192.0.2.7/spot/calls.")
    return host, int(port or MQTT_PORT), topic or WHOLE_TOPIC
