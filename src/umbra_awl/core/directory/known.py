"""What the directory says of a plan's things: the entries its access points were taken from, its networks' lists of numbers."""

from umbra_awl.core.directory.store import Store
from umbra_awl.core.plan.known import Known
from umbra_awl.core.plan.model import AccessPoint, Plan


def known_of(store: Store, plan: Plan) -> Known:
    """What a store says of a plan. Raises StoreFailedError."""
    entries: dict[str, AccessPoint | None] = {}
    for key in {item.entry for item in plan.access if item.entry}:
        entry = store.entry(key)
        if entry is not None:
            entries[key] = None if entry.gone else entry.access
    numbers: dict[str, frozenset[int]] = {}
    for name in {item.name.casefold() for item in plan.networks}:
        rows = store.db.execute("SELECT number FROM target WHERE kind = 'group' AND lower(network) = ?", (name,))
        found = frozenset(row[0] for row in rows if row[0] is not None)
        if found:
            numbers[name] = found
    return Known(entries, numbers)
