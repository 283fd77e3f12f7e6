"""What the find-or-do box offers: every command, and every object of the plan by name."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.model import Target, TargetKind
from umbra_awl.core.modes.table import mode_of
from umbra_awl.core.plan.parts import PARTS, Part
from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.frame.find.finding_words import FinderOffer
from umbra_awl.desk.frame.find.synonyms import SYNONYMS
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.stages import KEYS, STAGE_OF


def offers(bench: Workbench, commands: CommandTable) -> Iterator[FinderOffer]:
    """Commands first, then repairs, then everything in the plan that has a name."""
    for command in commands.offered():
        hint, also = command.keys.replace("+", " ") or command.hint, SYNONYMS.get(command.name, "")
        icon = KEYS.get(command.menu.partition("/")[2], "")
        yield FinderOffer(command.words, hint, partial(commands.run, command.name), also, icon)
    for finding in bench.worked.results.findings:
        if finding.repair is not None:
            yield FinderOffer(
                f"Repair: {finding.repair.label}",
                finding.rule.title,
                partial(bench.repairs.one, finding),
                icon="repair",
            )
    for name, part in PARTS.items():
        yield from _OF_THEIR_OWN[name](bench) if name in _OF_THEIR_OWN else _by_name(bench, part)


def _go(bench: Workbench, kind: TargetKind, words: str, hint: str, key: str) -> FinderOffer:
    return FinderOffer(words, hint, partial(bench.show, Target(kind, key)), icon=STAGE_OF.get(kind, ""))


def _services(bench: Workbench) -> Iterator[FinderOffer]:
    for access, service in bench.index.all_services():
        hint = f"{access.site} {mode_of(service).word()} {format_mhz(service.rx_hz)}"
        yield _go(bench, "service", access.by_call, hint, service.key)


def _destinations(bench: Workbench) -> Iterator[FinderOffer]:
    for item in bench.plan.destinations:
        yield _go(bench, "destination", item.name, str(item.number or item.text or item.kind), item.key)


def _named_routes(bench: Workbench) -> Iterator[FinderOffer]:
    """Routes with a name of their own; the others are found by either of their ends."""
    for route in bench.plan.routes:
        if route.name:
            yield _go(bench, "route", route.name, bench.index.labels.of(route), route.key)


def _hotspots(bench: Workbench) -> Iterator[FinderOffer]:
    for item in bench.plan.hotspots:
        access = bench.index.access.get(item.access)
        where = access.by_site if access is not None else item.key
        yield _go(bench, "hotspot", f"Hotspot {where}", format_mhz(item.transmit_hz), item.key)


def _by_name(bench: Workbench, part: Part[Any]) -> Iterator[FinderOffer]:
    """Offers of a collection whose items have a name."""
    word = part.word.capitalize()
    for item in part.of(bench.plan) if part.target and "name" in part.kind.__struct_fields__ else ():
        yield _go(bench, part.target, f"{word} {item.name}", "", item.key)


_OF_THEIR_OWN: dict[str, Callable[[Workbench], Iterator[FinderOffer]]] = {
    "access": _services,
    "destinations": _destinations,
    "routes": _named_routes,
    "hotspots": _hotspots,
}
"""Parts of a plan that are offered otherwise than by their name."""
