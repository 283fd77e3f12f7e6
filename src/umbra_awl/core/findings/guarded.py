"""A check that fails fails alone: what the others find stands, and a finding says what could not be looked at."""

from collections.abc import Callable, Iterable, Iterator
from typing import TypeVarTuple

from umbra_awl.core.findings.model import Finding, Rule, Target
from umbra_awl.core.keep.notes import DiaryNotes
from umbra_awl.core.plan.model import OwnedRadio

_log = DiaryNotes(__name__)
_Args = TypeVarTuple("_Args")
CHECK_FAILED = Rule(
    "check-failed",
    "stop",
    "Could not be checked",
    "One of the checks broke off, so what it looks for may be there and not be told. The others went on. It is a fault of this "
    "program and not of the plan; “Copy what happened” puts what is needed to mend it on the clipboard.",
    safety=True,
)
FIT_FAILED = Rule(
    "fit-failed",
    "stop",
    "Could not be fitted",
    "Working out what goes into the radio broke off. Nothing is offered to be written, printed or saved for it. It is a fault "
    "of this program and not of the plan; “Copy what happened” puts what is needed to mend it on the clipboard.",
    safety=True,
)


def each_guarded(
    checks: Iterable[Callable[[*_Args], Iterable[Finding]]], target: Target, *about: *_Args
) -> Iterator[Finding]:
    """What a row of checks finds about something; one that raises becomes a finding on the target."""
    for check in checks:
        try:
            yield from tuple(check(*about))
        except Exception as error:  # noqa: BLE001  (whatever it is, the other checks go on)
            name = getattr(check, "__name__", "check").strip("_")
            _log.warning("the check %s failed", name, exc_info=True)
            yield Finding(CHECK_FAILED, target, f"The check “{name}” broke off: {_reason(error)}.", None, name)


def not_fitted(radio: OwnedRadio, error: Exception) -> Finding:
    """The finding on a radio whose fit broke off."""
    return Finding(FIT_FAILED, Target("radio", radio.key), f"{radio.name} could not be fitted: {_reason(error)}.")


def _reason(error: Exception) -> str:
    """The kind of an error and where it was raised; never its words, which may hold an ID or a password."""
    place = error.__traceback__
    while place is not None and place.tb_next is not None:
        place = place.tb_next
    return type(error).__name__ + (f" in {place.tb_frame.f_code.co_name.strip('_')}" if place is not None else "")
