"""Edits of the house style of names, and the operator's own abbreviations as text."""

from collections.abc import Collection
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import NameStyle, Plan, Route, Short
from umbra_awl.core.radio.display import NameRules, fold
from umbra_awl.core.routes.names import name_routes


def set_style(sentence: str, style: NameStyle) -> Edit:
    """Name channels in another style; codes given in the old one are given anew."""

    def apply(plan: Plan) -> Plan:
        radios = tuple(
            replace(radio, codes=()) if radio.codes and radio.style is None else radio for radio in plan.radios
        )
        return replace(plan, names=style, radios=radios)

    return Edit(sentence, apply)


class Preview(NamedTuple):
    """What a style would make of a plan's names: an example, and how many would meet and be told apart."""

    example: str
    met: int


MOST_PREVIEWED = 300


def preview(plan: Plan, style: NameStyle, rules: NameRules, modes: Collection[str]) -> Preview:
    """A style tried on the routes that a radio of these modes carries, the first 300 of them."""
    index = PlanIndex(replace(plan, names=style), NO_DAY)
    routes = _carried(index, modes)
    names = name_routes(index, routes, rules)
    telling = (
        names[route.key].name for route in routes if not route.name and index.services[route.service][1].mode != "fm"
    )
    return Preview(next(telling, ""), sum(named.told_apart for named in names.values()))


def met_by(plan: Plan, route: Route, name: str, rules: NameRules, modes: Collection[str]) -> str:
    """The name in full that a hand-made name would be the same as on a radio's display; empty when it differs from all."""
    index = PlanIndex(plan, NO_DAY)
    others = [item for item in _carried(index, modes) if item.key != route.key]
    cut = fold(name, rules)[: rules.length].strip()
    return {named.name: named.full for named in name_routes(index, others, rules).values()}.get(cut, "")


def _carried(index: PlanIndex, modes: Collection[str]) -> list[Route]:
    able = {key for key, (_access, service) in index.services.items() if service.mode in modes}
    return [route for route in index.plan.routes if route.service in able][:MOST_PREVIEWED]


def shorts_text(style: NameStyle) -> str:
    """The abbreviations as one line: “Velmar=Vm, Torrick=Tk”."""
    return ", ".join(f"{item.word}={item.short}" for item in style.shorts)


def shorts_from(text: str) -> tuple[Short, ...]:
    """The abbreviations in a line. Raises ValueError with a sentence when one is not a pair, or longer than its word."""
    found: dict[str, Short] = {}
    for part in filter(None, map(str.strip, text.split(","))):
        word, sign, short = (piece.strip() for piece in part.partition("="))
        if not (word and sign and short) or " " in word:
            raise ValueError(f"“{part}” is not an abbreviation. Write one word and its short form: Velmar=Vm.")
        if len(short) >= len(word):
            raise ValueError(f"“{short}” is not shorter than “{word}”.")
        found[word.casefold()] = Short(word, short)
    return tuple(found.values())
