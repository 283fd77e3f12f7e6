"""A line that is typed into the log: which route it means, by site, call sign and destination; what it may prove."""

from typing import NamedTuple

from umbra_awl.core.facts.callsign import call_sign_fault
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.modes import MODE_WORDS
from umbra_awl.core.logbook.model import Grade
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route

_MOST_NAMED = 4


class Meant(NamedTuple):
    """The route that a text means, empty where it means none or several; then why, as a sentence."""

    route: str
    words: str = ""


def named(index: PlanIndex, route: Route) -> str:
    """A route in words that are no other's: with its site where two of one call sign are labelled alike."""
    label = index.labels.of(route)
    alike = sum(index.labels.of(other) == label for other in index.plan.routes)
    return label if alike == 1 else f"{label}, {index.parts(route)[0].site}"


def searched(index: PlanIndex, route: Route) -> str:
    """All that a route may be called by: its name, site, call sign, place, destination, number and mode."""
    access, service, destination = index.parts(route)
    number = str(destination.number) if destination.number is not None else ""
    said = (
        index.labels.of(route), route.name, access.site, access.call, access.place, destination.name, destination.text, number,
        MODE_WORDS[service.mode], service.mode,
    )  # fmt: skip
    return " ".join(filter(None, said)).casefold()


def matching(index: PlanIndex, typed: str) -> list[Route]:
    """The routes that hold every word typed, in plan order; one whose name is exactly that alone. None for nothing typed."""
    wanted = typed.casefold().replace(",", " ").split()
    found = [route for route in index.plan.routes if wanted and _holds(searched(index, route), wanted)]
    exact = [route for route in found if named(index, route).casefold().replace(",", "").split() == wanted]
    return exact or found


def _holds(text: str, wanted: list[str]) -> bool:
    """Whether a text has every word: a number or a single letter as a word of its own, others anywhere."""
    words = text.split()
    return all(word in words if word.isdigit() or len(word) == 1 else word in text for word in wanted)


def meant(index: PlanIndex, typed: str) -> Meant:
    """The route that a text means."""
    found = matching(index, typed)
    if len(found) == 1:
        return Meant(found[0].key)
    if not found:
        return Meant(
            "", f"“{typed.strip()}”: no route of the plan is called so. Type its site, call sign or destination."
        )
    told = "; ".join(named(index, route) for route in found[:_MOST_NAMED]) + ("; …" if len(found) > _MOST_NAMED else "")
    return Meant(
        "", f"“{typed.strip()}”: {counted(len(found), 'route is', 'routes are')} called so: {told}. Type more of one."
    )


def grade_for(index: PlanIndex, route: Route) -> Grade:
    """What a key-up on a route proves as a rule: an echo test its echo, a command that one is heard, talking an answer."""
    access, _service, destination = index.parts(route)
    if route.receive_only or access.kind == "receive":
        return "heard-it"
    if destination.kind == "echo":
        return "echo"
    return "own-key" if destination.kind in {"disconnect", "info", "dial"} else "answered"


def call_refusal(call: str) -> str:
    """Why a text cannot be the other station's call sign, as a sentence; empty for a call sign and for nothing."""
    return f"{call_sign_fault(call)} Write what was heard into the note." if call and call_sign_fault(call) else ""
