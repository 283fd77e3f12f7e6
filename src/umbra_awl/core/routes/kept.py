"""Codes that stay: what a radio's names said when they first left the plan, and better ones that are offered afterwards."""

from collections.abc import Iterable
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.plan.edit.edits import Edit, swap_item
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import GivenCode, OwnedRadio, Plan, Route
from umbra_awl.core.radio.display import NameRules
from umbra_awl.core.routes.names import Kept, Spelling, spell


class Better(NamedTuple):
    """A code that would be chosen otherwise today: of what, as it is and as it would be, and how many names it changes."""

    what: str
    now: str
    then: str
    names: int


def codes_kept(radio: OwnedRadio) -> Kept:
    """The codes that the plan keeps for a radio."""
    return {(item.kind, item.key): item.said for item in radio.codes}


def _spelled(index: PlanIndex, radio: OwnedRadio, routes: Iterable[Route], rules: NameRules, kept: Kept) -> Spelling:
    style = radio.style or index.plan.names
    return spell(index, list(routes), rules, style, kept)


def keep_codes(index: PlanIndex, radio: OwnedRadio, routes: Iterable[Route], rules: NameRules) -> Edit | None:
    """An edit that keeps what the names of these routes say now; None when all of it is kept already."""
    held = codes_kept(radio)
    said = dict(held) | _spelled(index, radio, routes, rules, held).kept()
    if said == dict(held):
        return None
    return _set_codes(radio, f"Keep the names on {radio.name}", said)


def name_anew(radio: OwnedRadio) -> Edit:
    """An edit that lets all codes of a radio be chosen anew."""
    return _set_codes(radio, f"Choose the names on {radio.name} anew", {})


def _set_codes(radio: OwnedRadio, sentence: str, said: dict[tuple[str, str], str]) -> Edit:
    codes = tuple(GivenCode(kind, key, text) for (kind, key), text in said.items())  # type: ignore[arg-type]

    def apply(plan: Plan) -> Plan:
        return replace(plan, radios=swap_item(plan.radios, radio.key, lambda item: replace(item, codes=codes)))

    return Edit(sentence, apply)


def better_codes(index: PlanIndex, radio: OwnedRadio, routes: Iterable[Route], rules: NameRules) -> list[Better]:
    """What the names would say if they were chosen today, where that differs from what is kept."""
    if not radio.codes:
        return []
    routes = list(routes)
    now = _spelled(index, radio, routes, rules, codes_kept(radio))
    then = _spelled(index, radio, routes, rules, {})
    if then.codes.cost >= now.codes.cost:
        return []
    found = []
    for field, one, other in (("site", now.codes.sites, then.codes.sites), ("to", now.codes.tos, then.codes.tos)):
        sayable = now.parts.sites if field == "site" else now.parts.tos
        for key, code in one.items():
            if key in other and other[key].said != code.said:
                names = sum(getattr(saying, field) == key for saying in now.parts.of.values())
                found.append(Better(sayable[key].text, code.said, other[key].said, names))
    return found
