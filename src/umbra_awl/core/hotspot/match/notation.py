"""How a settings file writes its values: leading zeros, signs, decimals, brackets of lists stay when one changes."""

import re

from umbra_awl.core.hotspot.match.fields import MatchField

_ITEM = re.compile(r"[A-Za-z_-]*\d+|[A-Za-z][\w-]*")
_MOST_DECIMALS = 6


def as_written(field: MatchField, told: str, before: str | None) -> str:
    """A value of a field in the notation of the one that stood there before; as it is where nothing can be told from that."""
    if not before or not told:
        return told
    if field.kind == "list":
        return _list_like(told, before)
    if field.kind in {"offset", "number", "hz"}:
        return _number_like(told, before.strip())
    return told


def _number_like(told: str, before: str) -> str:
    """“7” as “07” beside “06”, “60” as “+60” beside “+75”, “434.625” as “434.62500” beside “434.61250”."""
    shape = re.fullmatch(r"([+-]?)(\d+)(?:\.(\d*))?", before)
    mine = re.fullmatch(r"(-?)(\d+)(?:\.(\d+))?", told)
    if shape is None or mine is None:
        return told
    sign = mine[1] or ("+" if shape[1] == "+" and int(mine[2]) else "")
    whole = mine[2].zfill(len(shape[2])) if shape[2].startswith("0") and shape[2] != "0" else mine[2]
    places = max(len(mine[3] or ""), min(len(shape[3] or ""), _MOST_DECIMALS))
    same_places = shape[3] and shape[3].endswith("0")
    decimals = (mine[3] or "").ljust(places if same_places else 0, "0")
    return f"{sign}{whole}" + (f".{decimals}" if decimals else "")


def _list_like(told: str, before: str) -> str:
    """“2” as “[2]” beside “[1, 2]”, as “TS2” beside “TS1+TS2”, “1 2” as “1,2” beside “2,1”."""
    items = list(_ITEM.finditer(before))
    if not items:
        return told
    head, tail = before[: items[0].start()], before[items[-1].end() :]
    between = before[items[0].end() : items[1].start()] if len(items) > 1 else ", " if head.strip() else " "
    lead = re.match(r"[A-Za-z_-]+(?=\d)", items[0][0])
    prefix = lead[0] if lead is not None else ""
    made = between.join(part if part.startswith(prefix) else prefix + part for part in told.split())
    return f"{head}{made}{tail}"
