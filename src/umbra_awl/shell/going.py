"""The shell verbs of a day on the air: what to pack, where to begin listening, what is in order before a net.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

from collections.abc import Iterable
from pathlib import Path
from typing import Protocol, TypeVar

import click

from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.shell.records import log_of
from umbra_awl.shell.verbs import (
    CLEAN,
    STOPS,
    CannotRunError,
    clock,
    fits_for,
    guarded,
    json_option,
    plan_argument,
    profiles_for,
    tell,
    today,
)


class _Named(Protocol):
    @property
    def key(self) -> str: ...
    @property
    def name(self) -> str: ...


_Thing = TypeVar("_Thing", bound=_Named)


def _chosen(things: Iterable[_Thing], name: str | None, what: str) -> _Thing:
    """The thing of a name or key; the only one where no name is told. Raises CannotRunError."""
    listed = list(things)
    found = [item for item in listed if name is None or name.casefold() in {item.key.casefold(), item.name.casefold()}]
    if len(found) == 1:
        return found[0]
    there = ", ".join(item.name for item in listed) or "none"
    if name is None:
        raise CannotRunError(f"Say which {what}. The plan has: {there}.")
    raise CannotRunError(f"The plan has no {what} “{name}”. It has: {there}.")


@click.command()
@plan_argument
@click.argument("trip", required=False)
@json_option
@guarded
def kit(plan: Path, trip: str | None, as_json: bool) -> int:
    """List what to take along on a trip. Exit code 1: not all of it lies ready."""
    from umbra_awl.core.agenda.kit import kit as kit_of

    opened = read_plan(plan)
    chosen = _chosen(opened.trips, trip, "trip")
    items = kit_of(PlanIndex(opened, today()), profiles_for(opened), chosen)
    rows = [
        {"key": item.key, "take": item.words, "why": item.why, "ready": item.key in chosen.packed} for item in items
    ]
    lines = [f"{'ready' if row['ready'] else '     '}  {row['take']}: {row['why']}" for row in rows]
    tell(as_json, {"trip": chosen.name, "kit": rows}, lines)
    return CLEAN if all(row["ready"] for row in rows) else STOPS


@click.command()
@plan_argument
@click.option("--store", type=click.Path(path_type=Path, exists=True), help="A directory of what is around.")
@json_option
@guarded
def listening(plan: Path, store: Path | None, as_json: bool) -> int:
    """Tell where to begin listening: the band with what is known there, then the groups, quiet and local first."""
    from umbra_awl.core.agenda.listening import group_lines, scan_lines
    from umbra_awl.core.directory.nearest import ANY
    from umbra_awl.core.directory.sanity import KnownGround
    from umbra_awl.core.directory.store import Store
    from umbra_awl.core.estimate.survey import SurveySpot, survey
    from umbra_awl.core.facts.earth import Position

    opened = read_plan(plan)
    index, station = PlanIndex(opened, today()), opened.station
    spots: tuple[SurveySpot, ...] = ()
    if store is not None:
        place = Position(station.lat, station.lon) if station.lat is not None and station.lon is not None else None
        held = Store(store)
        try:
            ground = KnownGround(index.bands, None, today(), {})
            spots = survey(held, opened, place, ANY, ground).spots
        finally:
            held.close()
    band, groups = scan_lines(index, spots), group_lines(index)
    value = {
        "band": [{"hz": item.hz, "what": item.what, "reach": item.reach, "heard": item.heard_words} for item in band],
        "groups": [{"route": item.route, "name": item.label, "kind": item.kind, "why": item.why} for item in groups],
    }
    lines = [
        ", ".join(filter(None, (f"{item.hz / 1e6:.4f}  {item.what}", item.reach, item.heard_words))) for item in band
    ]
    lines += ["", *(f"{item.label}: {item.why}" for item in groups)]
    tell(as_json, value, lines)
    return CLEAN


@click.command()
@plan_argument
@click.argument("net", required=False)
@json_option
@guarded
def ready(plan: Path, net: str | None, as_json: bool) -> int:
    """Tell what is in order ten minutes before a net, and what only you can look at. Exit code 1: something is not."""
    from umbra_awl.core.agenda.ten_minutes import NetKnown, ten_minutes
    from umbra_awl.core.findings.evaluate import findings_of
    from umbra_awl.core.keep.atomic import real_path
    from umbra_awl.core.logbook.proof import proofs
    from umbra_awl.core.transfer.held import proved

    opened = read_plan(plan)
    index, profiles = PlanIndex(opened, today()), profiles_for(opened)
    chosen, fits = _chosen(opened.nets, net, "net"), fits_for(index, profiles)
    holding = proved(real_path(plan), fits)
    found = proofs(index, log_of(plan).read().entries, clock().utc())
    known = NetKnown(fits, profiles, findings_of(index, profiles), found, holding)
    checks = ten_minutes(index, known, chosen, clock().utc())
    rows = [{"what": item.title, "state": item.state, "words": item.words} for item in checks]
    words = {"ok": "in order", "look": "look    ", "ask": "yours   "}
    lines = [f"{words[item.state]}  {item.title}: {item.words}" for item in checks]
    tell(as_json, {"net": chosen.name, "checks": rows}, lines)
    return STOPS if any(item.state == "look" for item in checks) else CLEAN
