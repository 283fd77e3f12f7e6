"""Overs of the simulation as entries: marked as simulated, so that they never count as proof."""

from collections.abc import Iterable, Sequence
from datetime import datetime, timedelta

from umbra_awl.core.logbook.model import Entry, Grade
from umbra_awl.core.logbook.proof import stood_on
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.simulation.keyed import Keyed


def entries_of_play(
    index: PlanIndex, radio: str, keyed: Iterable[Keyed], began: datetime, run: str, taken: Sequence[str] = ()
) -> tuple[Entry, ...]:
    """Entries of the overs that were keyed in a play and have ended. `began` is when the play stands at zero.

    `run` names the play, so that one over gives one entry however often it is logged; `taken` are keys that are there already.
    """
    known = set(taken)
    made = []
    for number, item in enumerate(keyed, 1):
        key = f"simulated-{run}-{number}"
        if item.released and key not in known and item.target.route.key in index.routes:
            made.append(_entry(index, radio, item, key, began + timedelta(seconds=item.talk.starts)))
    return tuple(made)


def _entry(index: PlanIndex, radio: str, item: Keyed, key: str, utc: datetime) -> Entry:
    _access, service, _destination = index.parts(item.target.route)
    reason = item.stopped.reason if item.stopped is not None else ""
    heard = f"heard by {', '.join(item.heard_by)}" if item.heard_by else ""
    return Entry(
        key,
        f"{utc:%Y-%m-%dT%H:%M:%SZ}",
        _grade(item),
        item.target.route.key,
        radio,
        mode=service.mode,
        hz=service.tx_hz,
        rx_hz=service.rx_hz,
        by="simulation",
        note=reason or heard,
        stood=stood_on(index, item.target.route, radio),
    )


def _grade(item: Keyed) -> Grade:
    if item.stopped is not None:
        return "failed"
    if item.target.destination.kind == "echo" and item.reached in {"network", "far"}:
        return "echo"
    return "heard-by" if item.heard_by else "own-key"
