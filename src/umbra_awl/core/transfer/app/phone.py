"""Speaking with a phone's app over the line it offers: HTTP, a list as JSON, one yes before it overwrites.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

import time
from typing import TYPE_CHECKING, Any, NamedTuple

import msgspec

from umbra_awl.core.keep.web import SlowError, WebLimits, WebRequest, answered
from umbra_awl.core.transfer.app.form import MOST_BYTES, AppList, app_bytes, parse_app
from umbra_awl.core.transfer.errors import AppAsleepError, AppFormError, NoPhoneError, WrongModelError

if TYPE_CHECKING:
    import httpx

_TIMEOUT_S = 4.0
_LONGEST_S = 15.0
_SLOW = "The app answers too slowly to be of use. Wake the phone, and look whether the link is up."
"""However slowly an answer drips, it is waited for no longer."""


class MirroredFront(msgspec.Struct, frozen=True):
    """What an app says: its platform, the radio it is beside, the link, the lines of the radio's front that it mirrors."""

    platform: str = ""
    model: str = ""
    link: str = ""
    lines: tuple[str, ...] = ()


class SimulatedPhone(NamedTuple):
    """A phone by its address; `transport` is for tests."""

    address: str
    transport: "httpx.BaseTransport | None" = None

    def front(self) -> MirroredFront:
        """What the app mirrors. Raises TransferError."""
        try:
            return msgspec.json.decode(self._ask("GET", "/front"), type=MirroredFront)
        except msgspec.DecodeError:
            raise AppFormError(f"{self.address} answers, but is no app of a radio.") from None

    def present(self, model: str) -> AppList:
        """The list in the app. Raises TransferError."""
        return self._of(model, parse_app(self._ask("GET", "/list")))

    def on_radio(self, model: str) -> AppList:
        """What the radio itself holds, as the app mirrors it: the read-back. Raises TransferError."""
        return self._of(model, parse_app(self._ask("GET", "/radio")))

    @staticmethod
    def _of(model: str, found: AppList) -> AppList:
        if found.model != model:
            raise WrongModelError(
                f"The app is beside a “{found.model[:40]}”. Choose the radio in the app, or the other radio here. "
                "Nothing was sent."
            )
        return found

    def replace(self, made: AppList) -> None:
        """Hand a list over and give the yes that the app asks for. Raises TransferError."""
        try:
            asked = msgspec.json.decode(self._ask("PUT", "/list", app_bytes(made)), type=dict[str, Any])
        except msgspec.DecodeError:
            raise AppFormError(
                "The app answered something that is no answer. Look at the phone before you go on."
            ) from None
        if asked.get("asks"):
            self._ask("POST", "/answer", b'{"yes": true}')

    def _ask(self, method: str, path: str, body: bytes = b"") -> bytes:
        import httpx

        try:
            asked = WebRequest(method, f"{self.address.rstrip('/')}{path}", body)
            with answered(asked, WebLimits(_TIMEOUT_S, _LONGEST_S, _LONGEST_S + _TIMEOUT_S), self.transport) as answer:
                data = _within(answer)
        except SlowError:
            raise NoPhoneError(_SLOW) from None
        except (httpx.HTTPError, httpx.InvalidURL, ValueError) as error:
            raise NoPhoneError(
                f"No app answers at {self.address} ({type(error).__name__}). Is the phone awake, the app open, and the link up?"
            ) from None
        if answer.status_code == 503:
            raise AppAsleepError(
                "The phone sleeps and its app lost the radio. Wake it, keep its screen on, wait until the app says connected."
            )
        if answer.status_code >= 400:
            raise AppFormError(f"The app refused ({answer.status_code}): {data[:120].decode('utf-8', 'replace')}")
        return data


def _within(answer: "httpx.Response") -> bytes:
    """The bytes of an answer, no more than a list has. Raises AppFormError."""
    found, until = bytearray(), time.monotonic() + _LONGEST_S
    for part in answer.iter_bytes():
        found += part
        if len(found) > MOST_BYTES:
            raise AppFormError("The app sends more than any list has.")
        if time.monotonic() > until:
            raise NoPhoneError(_SLOW)
    return bytes(found)
