"""The shell verbs that look ahead: what to do next, which nets meet, a place for a hotspot, an evening in figures.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

from pathlib import Path

import click

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Hotspot
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
    radio_of,
    tell,
    today,
)

_MOST_EVENINGS = 5_000


@click.command("next")
@plan_argument
@json_option
@guarded
def next_step(plan: Path, as_json: bool) -> int:
    """Tell what to do next, from an empty plan to a proven radio. Exit code 1: something is left."""
    from umbra_awl.core.agenda.next_steps import WaysIn, next_steps
    from umbra_awl.core.findings.evaluate import findings_of
    from umbra_awl.core.keep.atomic import real_path
    from umbra_awl.core.transfer.held import proved

    opened = read_plan(plan)
    index, profiles = PlanIndex(opened, today()), profiles_for(opened)
    stops = [item for item in findings_of(index, profiles) if item.severity == "stop"]
    loads = frozenset(item.key for item in opened.radios if item.profile in profiles and profiles[item.profile].loading)
    ways = WaysIn({}, proved(real_path(plan), fits_for(index, profiles)), loads)
    left = [step for step in next_steps(index, today(), stops, ways) if not step.done]
    rows = [{"step": step.words, "why": step.why, "stage": step.where.stage, "page": step.where.page} for step in left]
    tell(as_json, {"left": rows}, [f"{step.words}. {step.why}" for step in left] or ["Nothing is left to do."])
    return STOPS if left else CLEAN


@click.command()
@plan_argument
@click.option("--days", type=click.IntRange(1, 366), default=7, show_default=True, help="How far to look ahead.")
@json_option
@guarded
def nets(plan: Path, days: int, as_json: bool) -> int:
    """List the nets that meet in the coming days, with the way there and what clashes."""
    from datetime import timedelta

    from umbra_awl.core.agenda.recurrence import clashes, in_order, until_words
    from umbra_awl.core.agenda.way_there import way_there

    opened, now = read_plan(plan), clock().utc()
    index = PlanIndex(opened, today())
    fits, by_key = fits_for(index, profiles_for(opened)), {item.key: item for item in opened.nets}
    ways = {key: way_there(index, fits, net) for key, net in by_key.items()}
    found = in_order(opened.nets, now, now + timedelta(days=days))
    rows = [
        {
            "net": by_key[item.net].name,
            "begins": item.start.isoformat(timespec="minutes"),
            "ends": item.end.isoformat(timespec="minutes"),
            "way": ways[item.net].words,
            "missing": ways[item.net].missing,
        }
        for item in found
    ]
    lines = [
        f"{item.start:%a %d %b %H:%M} UTC, {until_words(item.start, now)}: {by_key[item.net].name}"
        f" – {ways[item.net].words or ways[item.net].missing}"
        for item in found
    ]
    both = {(item.one.net, item.other.net) for item in clashes(opened.nets, now, days)}
    alike = sorted((by_key[one].name, by_key[other].name) for one, other in both)
    lines += [f"At one time: {one} and {other}." for one, other in alike]
    tell(as_json, {"nets": rows, "clashes": alike}, lines or ["No net meets in that time."])
    return CLEAN


@click.command()
@plan_argument
@click.argument("hotspot", required=False)
@click.option("--store", type=click.Path(path_type=Path, exists=True), help="A directory of what is around.")
@click.option("--trip", default="", help="Where it stands: on this trip of the plan.")
@json_option
@guarded
def frequency(plan: Path, hotspot: str | None, store: Path | None, trip: str, as_json: bool) -> int:
    """Judge where a hotspot stands, and tell the best places. Exit code 1: it must move."""
    from contextlib import ExitStack

    from umbra_awl.core.directory.store import Store
    from umbra_awl.core.hotspot.place.after import asked_for, place_of
    from umbra_awl.core.hotspot.place.seek import STATE_WORDS, pair_words, seek_places, verdict

    opened = read_plan(plan)
    index = PlanIndex(opened, today())
    found = hotspot_of(index, hotspot)
    access = index.access[found.access]
    where = next((item.key for item in opened.trips if trip.casefold() in {item.key, item.name.casefold()}), "")
    if trip and not where:
        raise CannotRunError(f"The plan has no trip “{trip}”.")
    asked = asked_for(index, access, found)
    if asked is None:
        raise CannotRunError(f"{access.by_site} has no service in any band yet.")
    with ExitStack() as stack:
        opened_store = Store(store) if store is not None else None
        if opened_store is not None:
            stack.callback(opened_store.close)
        places = seek_places(opened, access, asked, opened_store, place_of(opened, access, where))
    at = places.ruler.at(found.transmit_hz)
    here = places.ruler.place(at)
    said = verdict(places, at, found.transmit_hz)
    best = [{"hz": item.hz, "hears_hz": item.tx_hz, "score": item.score, "state": item.state} for item in places.best]
    reasons = [
        {"question": item.name, "costs": item.points, "stops": item.stop, "answer": item.words}
        for item in places.ruler.reasons(at)
    ]
    lines = [f"{access.by_site}, {pair_words(here)} MHz. {said}."]
    lines += [f"{item['question']}: {item['answer']}" for item in reasons if item["costs"] or item["stops"]]
    lines += [f"{pair_words(item)}  {item.score} {STATE_WORDS[item.state]}" for item in places.best]
    tell(as_json, {"hotspot": found.key, "verdict": said, "reasons": reasons, "best": best}, lines)
    return STOPS if here.state in {"occupied", "forbidden"} else CLEAN


def hotspot_of(index: PlanIndex, name: str | None) -> Hotspot:
    """The hotspot of a plan by its key or its site; the only one where no name is told. Raises CannotRunError."""
    hotspots = index.plan.hotspots
    sites = {item.key: index.access[item.access].by_site for item in hotspots if item.access in index.access}
    there = ", ".join(sites.values()) or "none"
    if name is None and len(hotspots) == 1:
        return hotspots[0]
    if name is None:
        raise CannotRunError(f"Say which hotspot. The plan has: {there}.")
    found = [item for item in hotspots if name.casefold() in {item.key.casefold(), sites.get(item.key, "").casefold()}]
    if not found:
        raise CannotRunError(f"The plan has no hotspot “{name}”. It has: {there}.")
    return found[0]


@click.command()
@plan_argument
@click.argument("radio")
@click.option(
    "--evenings", type=click.IntRange(1, _MOST_EVENINGS), default=200, show_default=True, help="How many are played."
)
@click.option("--seed", type=int, default=1, show_default=True, help="Another one gives other evenings.")
@json_option
@guarded
def evening(plan: Path, radio: str, evenings: int, seed: int, as_json: bool) -> int:
    """Play evenings with a radio on its first channel: what share of calls it misses, and why."""
    from umbra_awl.core.simulation.evenings import many_evenings
    from umbra_awl.core.simulation.setting import ListeningChoice, NoSetting, make_setting

    opened = read_plan(plan)
    index = PlanIndex(opened, today())
    owned, fits = radio_of(index, radio), fits_for(index, profiles_for(opened))
    routes = tuple(item.route for item in fits[owned.key].memory.channels if item.route in index.routes)
    if not routes:
        raise CannotRunError(f"{owned.name} has no channel yet: punch a route and put it in a zone.")
    try:
        setting = make_setting(index, fits, ListeningChoice(owned.key, routes))
    except NoSetting as error:
        raise CannotRunError(str(error)) from None
    found = many_evenings(setting, routes[:1], evenings, seed)
    value = {
        "evenings": found.number,
        "missed": found.missed.value,
        "reasons": {name: item.value for name, item in found.reasons},
    }
    label = index.labels.of(index.routes[routes[0]])
    lines = [f"{counted(found.number, 'evening')} on {label}: {100 * found.missed.value:.1f} % of calls missed."]
    lines += [f"{name}: {100 * item.value:.1f} %" for name, item in found.reasons]
    tell(as_json, value, lines)
    return CLEAN


@click.command()
@plan_argument
@click.option("--most", type=click.IntRange(1, 1_000), default=40, show_default=True, help="How many changes.")
@json_option
@guarded
def changed(plan: Path, most: int, as_json: bool) -> int:
    """List what was changed last of plan, radios and hotspots, and what failed since: the latest first."""
    from umbra_awl.core.hands.changed_last import changed_last
    from umbra_awl.core.keep.atomic import real_path
    from umbra_awl.shell.records import log_of

    found = changed_last(read_plan(plan), real_path(plan), log_of(plan).read().entries, most=most)
    rows = [item._asdict() for item in found]
    tell(as_json, {"changes": rows}, [f"{item.when}  {item.what}: {item.words}" for item in found] or ["Nothing yet."])
    return CLEAN
