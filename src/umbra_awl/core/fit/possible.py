"""What no radio can hold, whatever its profile: numbers outside what the mode or the air has. Such routes stay out.

Findings explain the same values in the plan; this keeps them from being cut to bits and sent as something else.
"""

from umbra_awl.core.facts.dmr import ALL_CALL
from umbra_awl.core.facts.frequency import HIGHEST_HZ, format_mhz
from umbra_awl.core.fit.report import Line
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.model import Call, Identity, Route, Service


def impossible_service(service: Service) -> str:
    """Why nothing through a service can be a channel of any radio, as a sentence; empty when it can."""
    return "" if 0 < service.tx_hz <= HIGHEST_HZ else f"{format_mhz(service.tx_hz)} MHz is nothing to send on."


def impossible(route: Route, service: Service, call: Call | None) -> str:
    """Why a route through a service cannot be a channel of any radio; empty when it can. `call` is what it calls."""
    if call is not None and impossible_call(call.number):
        return impossible_call(call.number)
    return mode_of(service).impossible(route, service.air)


def impossible_call(number: int) -> str:
    """Why a number cannot be called, as a sentence; empty when it can."""
    return "" if 0 < number <= ALL_CALL else f"{number} cannot be called: 1 to {ALL_CALL} exist."


def fitted_id(identity: Identity | None, lines: list[Line]) -> int:
    """The ID that a radio sends, 0 where there is none; one that no radio holds goes into the lines."""
    number = identity.ids[0].number if identity is not None and identity.ids else 0
    if 0 <= number <= ALL_CALL:
        return number
    lines.append(Line("left out", "", "The DMR ID", "It is no number that a radio holds; correct it at Station."))
    return 0
