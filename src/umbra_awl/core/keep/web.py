"""Asking something over HTTP: the one way, with a limit of time for the whole of it, head included, and no redirection followed.

A timeout of a client counts from one byte to the next; whoever sends a byte a second would hold it for ever. What comes from the
environment (proxies, passwords of a file) is not looked at. The library is imported where it is first used.
"""

import threading
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from typing import TYPE_CHECKING, NamedTuple

if TYPE_CHECKING:
    import httpx


class SlowError(Exception):
    """The whole of an answer did not come in time."""


class WebLimits(NamedTuple):
    """Seconds: for a sign of life, for the head of the answer, and for all of it (None: its body may take as long as it does)."""

    patience_s: float = 8.0
    head_s: float = 20.0
    whole_s: float | None = 40.0


USUAL = WebLimits()
"""What is waited where nothing else is said."""


class WebRequest(NamedTuple):
    """What is asked: method, address, body, headers, and user and password where there are some."""

    method: str
    url: str
    body: bytes = b""
    headers: Mapping[str, str] = {}
    key: tuple[str, str] | None = None


@contextmanager
def answered(
    asked: WebRequest, limits: WebLimits = USUAL, transport: "httpx.BaseTransport | None" = None
) -> "Iterator[httpx.Response]":
    """The answer, its body not read yet. Raises httpx.HTTPError, httpx.InvalidURL, SlowError.

    `transport` is for tests.
    """
    import httpx

    auth = httpx.BasicAuth(*asked.key) if asked.key is not None else None
    late = threading.Event()
    client = httpx.Client(
        timeout=limits.patience_s, transport=transport, trust_env=False, auth=auth, follow_redirects=False
    )

    def stop() -> None:
        late.set()
        client.close()

    timers = [threading.Timer(limits.head_s, stop)]
    if limits.whole_s is not None:
        timers.append(threading.Timer(limits.whole_s, stop))
    for timer in timers:
        timer.daemon = True
        timer.start()
    try:
        with client, client.stream(asked.method, asked.url, content=asked.body, headers=dict(asked.headers)) as answer:
            timers[0].cancel()
            yield answer
    except (httpx.HTTPError, OSError, RuntimeError) as error:
        if late.is_set():
            raise SlowError(f"{asked.url} answers too slowly to be of use") from error
        raise
    finally:
        for timer in timers:
            timer.cancel()
