"""What can be found wrong with a listing on the air, and what each means for the plan and for the directory's entry."""

from typing import Any, NamedTuple

from umbra_awl.core.directory.openers import OPENERS
from umbra_awl.core.directory.store import Store, StoredEntry
from umbra_awl.core.facts.frequency import format_mhz, format_offset, parse_hz, parse_offset_hz
from umbra_awl.core.facts.tones import parse_tone
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.edit.edit_access import set_air, set_service, swap_offset
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.model import AccessPoint, Service


class ListingChange(NamedTuple):
    """What follows: the edit of the plan (None: the plan is right already), the directory's field with its value, and a note.

    The field is named by its path from the directory's own service, as private edits are; empty where nothing is edited there.
    """

    edit: Edit | None
    field: str = ""
    value: Any = None
    note: str = ""


class Wrong(NamedTuple):
    """A way a listing is wrong: its name, its words, and whether a value is typed for it."""

    name: str
    words: str
    hint: str = ""


SIGN, GONE, OTHER = "sign", "gone", "other"


def ways_wrong(service: Service) -> list[Wrong]:
    """The ways in which a service's listing can be wrong."""
    mode = mode_of(service)
    found = []
    if service.tx_hz != service.rx_hz:
        offset = format_offset(2 * service.rx_hz - service.tx_hz - service.rx_hz)
        found.append(Wrong(SIGN, f"The offset has the other sign: {offset} MHz"))
    found.append(Wrong("opens", f"The {mode.opened_by} is another", mode.opener(service.air) or "none"))
    if service.mode == "fm":
        found.append(Wrong("back", "The tone sent back is another", "none, or 77.0"))
    return [
        *found,
        Wrong("output", "It is heard on another frequency", format_mhz(service.rx_hz)),
        Wrong("input", "It listens on another frequency, or offset", format_offset(service.tx_hz - service.rx_hz)),
        Wrong(GONE, "It is gone: not heard, on several days"),
        Wrong(OTHER, "Something else", "what you found"),
    ]


def change_for(
    access: AccessPoint, service: Service, listed_key: str, wrong: str, typed: str, today: str
) -> ListingChange:
    """What follows from a finding; `listed_key` is the service's key in the directory's entry. Raises ValueError for typing."""
    text = typed.strip()
    sentence = f"{access.by_site} found different on the air"
    if wrong == SIGN:
        return ListingChange(swap_offset(access, service), f"{listed_key}/tx_hz", 2 * service.rx_hz - service.tx_hz)
    if wrong == GONE:
        return ListingChange(None, note=f"Not heard any more, found on {today}." + (f" {text}" if text else ""))
    if wrong == OTHER:
        if not text:
            raise ValueError("Say what you found.")
        return ListingChange(None, note=f"{text} (found on {today})")
    if wrong in {"output", "input"}:
        hz = _frequency(service, wrong, text)
        field = "rx_hz" if wrong == "output" else "tx_hz"
        return ListingChange(set_service(service.key, sentence, **{field: hz}), f"{listed_key}/{field}", hz)
    field, read = ("tone_rx", parse_tone) if wrong == "back" else OPENERS[service.mode]
    value = read("" if text == "none" else text)
    return ListingChange(set_air(service.key, sentence, **{field: value}), f"{listed_key}/air/{field}", value)


def _frequency(service: Service, wrong: str, text: str) -> int:
    signed = text[:1] in {"+", "-", "−"}
    if wrong == "input" and signed:
        return service.rx_hz + parse_offset_hz(text)
    return parse_hz(text)


def listing_of(store: Store, access: AccessPoint, service: Service) -> StoredEntry | None:
    """The directory's entry of an access point: the one it was taken from, else the one of its call sign that has such a service.

    None where it is in no directory. Raises StoreFailedError.
    """
    found = [item for item in store.of_call(access.call, access.entry) if not item.gone]
    own = [item for item in found if item.key == access.entry]
    alike = [item for item in found if listed_service(item.access, service)]
    return next(iter((*own, *alike)), None)


def listed_service(listed: AccessPoint | None, service: Service) -> str:
    """The key of the same service in a directory's entry: of its mode and nearest in frequency; empty where it has none."""
    same = [item for item in listed.services if item.mode == service.mode] if listed is not None else []
    return min(same, key=lambda item: abs(item.rx_hz - service.rx_hz)).key if same else ""
