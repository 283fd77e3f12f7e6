"""A list line by line, as it is judged before it is taken: one line for each service, with its distance and its doubts.

Which of them are ticked at first is decided here: what lies near, is not held yet, and nothing speaks against.
"""

from collections.abc import Collection, Iterable, Iterator, Mapping
from functools import lru_cache
from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.connection import decoded
from umbra_awl.core.directory.importing import EntryChange, IncomingEntries, known_of
from umbra_awl.core.directory.private import with_edits
from umbra_awl.core.directory.sanity import Doubt, KnownGround, doubts, usual_offsets
from umbra_awl.core.directory.store import Store, StoredEntry
from umbra_awl.core.directory.taking import used_keys
from umbra_awl.core.facts.earth import Position, distance_km
from umbra_awl.core.plan.model import AccessPoint, Plan, Service

NEAR_KM = 40.0
"""What lies within is ticked at first."""
_RANKS = {"changed": 0, "vanished": 1, "added": 2, "same": 3}
_STEP_KM = 2.0
_FOR_USUAL = 400
_KEPT = 4_000

Mends = Mapping[str, Mapping[str, Any]]
"""Repairs that were taken while the list was looked at: key of the entry to path and value."""


class ListLine(NamedTuple):
    """One service of one entry of a list: what would become of the entry, and how far it is in km where that is known."""

    change: EntryChange
    at: int
    km: float | None

    @property
    def mark(self) -> tuple[str, int]:
        """What names the line."""
        return self.change.key, self.at


class JudgedLine(NamedTuple):
    """A line as it would be taken: the access point with this one service, and what speaks against it, the gravest first."""

    access: AccessPoint
    service: Service
    doubts: tuple[Doubt, ...]

    @property
    def untold(self) -> str:
        """What a list leaves open that one may have to know: an FM repeater without a tone is open, or the tone is not told."""
        toneless = self.service.mode == "fm" and not getattr(self.service.air, "tone_tx", "")
        return "no tone told: open?" if toneless and self.access.kind == "repeater" else ""


class Judging(NamedTuple):
    """A list as it is looked at: `bodies` of what comes and of what is gone, `own` the private edits that stay."""

    incoming: IncomingEntries
    lines: tuple[ListLine, ...]
    bodies: dict[str, str]
    own: dict[str, dict[str, Any]]
    ground: KnownGround

    def access(self, key: str, mends: Mends, give_up: Collection[str] = ()) -> AccessPoint:
        """An entry as it would stand: with the operator's own edits unless they are given up, and the repairs that were taken."""
        own = {} if key in give_up else self.own.get(key, {})
        return with_edits(_read(self.bodies[key]), own | dict(mends.get(key, {})))

    def judged(self, line: ListLine, mends: Mends, give_up: Collection[str] = ()) -> JudgedLine:
        """A line, judged as it would stand."""
        whole = self.access(line.change.key, mends, give_up)
        service = whole.services[line.at]
        alone = replace(whole, services=(service,))
        entry = StoredEntry(0, line.change.key, alone, self.incoming.source, "", "", "", edited=False)
        return JudgedLine(alone, service, tuple(doubts(entry, self.ground)))

    def ticked_at_first(self, km: float = NEAR_KM) -> frozenset[tuple[str, int]]:
        """The lines that lie near, are not in the plan, and that nothing graver than a note speaks against."""
        used = self.incoming.used
        near = (
            line
            for line in self.lines
            if line.km is not None and line.km <= km and line.change.kind != "vanished" and line.change.key not in used
        )
        return frozenset(
            line.mark for line in near if all(item.grade == "note" for item in self.judged(line, {}).doubts)
        )


@lru_cache(maxsize=_KEPT)
def _read(body: str) -> AccessPoint:
    return decoded(body)


def judging(store: Store, incoming: IncomingEntries, plan: Plan, ground: KnownGround) -> Judging:
    """Every line of a list: first what the plan holds and would change, then what changes, is gone, is new, is the same.

    Within each, the nearest to the station first. `ground.usual_hz` is taken from the list itself where it is empty.
    """
    bodies = dict(incoming.bodies)
    bodies.update({key: _encoded(store, key) for key, _access in known_of(store, incoming) if key not in bodies})
    same = bodies.keys() - {change.key for change in incoming.changes}
    changes = (*incoming.changes, *(EntryChange("same", key, _label(decoded(bodies[key])), {}) for key in same))
    station = plan.station
    home = Position(station.lat, station.lon) if station.lat is not None and station.lon is not None else None
    usual = ground.usual_hz or usual_offsets(_first(bodies.values()), ground.bands)
    own = {key: edits for key, edits in store.all_edits().items() if key in bodies}
    seen: dict[str, tuple[float | None, int]] = {}

    def told() -> Iterator[tuple[str, AccessPoint]]:
        for change in changes:
            access = with_edits(decoded(bodies[change.key]), own.get(change.key, {}))
            seen[change.key] = _km(home, access), len(access.services)
            yield change.key, access

    incoming = incoming._replace(used=frozenset(used_keys(plan, told())))
    groups: dict[tuple[bool, int, float], list[ListLine]] = {}
    for change in changes:
        km, services = seen[change.key]
        held = change.key in incoming.used and change.kind != "same"
        step = float("inf") if km is None else km // _STEP_KM
        lines = groups.setdefault((not held, _RANKS[change.kind], step), [])
        lines.extend(ListLine(change, at, km) for at in range(services))
    for group in groups.values():  # many small sorts: one great one would keep the window waiting
        group.sort(key=lambda line: (line.km if line.km is not None else 0.0, line.change.label, line.at))
    ordered = tuple(line for place in sorted(groups) for line in groups[place])
    return Judging(incoming, ordered, bodies, own, ground._replace(home=home, usual_hz=usual))


def _first(bodies: Iterable[str]) -> list[StoredEntry]:
    made: list[StoredEntry] = []
    for body in bodies:
        if len(made) == _FOR_USUAL:
            break
        made.append(StoredEntry(0, "", decoded(body), "", "", "", "", edited=False))
    return made


def _encoded(store: Store, key: str) -> str:
    body: str = store.db.execute("SELECT body FROM entry WHERE key = ?", (key,)).fetchone()[0]
    return body


def _label(access: AccessPoint) -> str:
    return f"{access.call} {access.site}".strip()


def _km(home: Position | None, access: AccessPoint) -> float | None:
    if home is None or access.lat is None or access.lon is None:
        return None
    return distance_km(home, Position(access.lat, access.lon))


def chosen_entries(entries: Iterable[StoredEntry], ticked: frozenset[tuple[str, int]]) -> list[StoredEntry]:
    """Entries, as the store holds them after the list was taken, with only the ticked services."""
    made = []
    for entry in entries:
        kept = tuple(item for at, item in enumerate(entry.access.services) if (entry.key, at) in ticked)
        if kept:
            made.append(entry._replace(access=replace(entry.access, services=kept)))
    return made


def without_network(found: Iterable[Service]) -> frozenset[str]:
    """The modes of services that could name a network and do not."""
    return frozenset(item.mode for item in found if getattr(item.air, "network", None) == "")


def on_network(entry: StoredEntry, chosen: Mapping[str, str]) -> StoredEntry:
    """An entry whose services without a network are on the one chosen for their mode; `chosen` is mode to its name."""
    services = tuple(
        replace(item, air=replace(item.air, network=chosen[item.mode]))
        if item.mode in chosen and getattr(item.air, "network", None) == ""
        else item
        for item in entry.access.services
    )
    return entry._replace(access=replace(entry.access, services=services))
