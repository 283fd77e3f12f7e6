"""The demo's hotspots as they stand on the bench: set as the plan says, but for what only their sheet and their logs tell."""

from collections.abc import Mapping
from pathlib import Path

from umbra_awl.core.hotspot.match.layout import shipped_layouts, write_settings
from umbra_awl.core.hotspot.match.says import plan_says
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.standins.launch import HotspotProcess

PACE = 8.0
"""A minute of theirs is some seconds."""
_ERRORS_HZ = {"home": -180.0, "travel": 410.0}
_FAULTS: Mapping[str, tuple[str, ...]] = {"home": ("login-password",), "travel": ("login-twice",)}
_OTHERWISE: Mapping[str, Mapping[str, str]] = {
    "home": {"color_code": "1", "slot": "2"},
    "travel": {"id": "999421701"},
}
"""The home hotspot serves one slot where the plan has two; the travel one logs in with the other's ID."""


def settings_text(plan: Plan, key: str, otherwise: Mapping[str, str] | None = None) -> str:
    """The settings file of one hotspot of a plan, as the plan says but for some fields."""
    index = PlanIndex(plan, NO_DAY)
    hotspot = next(item for item in plan.hotspots if item.key == key)
    values = plan_says(index, index.access[hotspot.access], hotspot)
    return write_settings("", shipped_layouts()[0], {**values, **(otherwise or {})})


def start_hotspots(plan: Plan, folder: Path, pace: float = PACE) -> dict[str, HotspotProcess]:
    """Start the demo's simulated hotspots, by their keys. Raises StandInError, OSError."""
    made: dict[str, HotspotProcess] = {}
    for hotspot in plan.hotspots:
        path = folder / f"{hotspot.key}.hotspot.ini"
        write_over(path, settings_text(plan, hotspot.key, _OTHERWISE.get(hotspot.key)).encode())
        made[hotspot.key] = HotspotProcess(
            path,
            board=hotspot.modem or "simplex-70",
            error_hz=_ERRORS_HZ.get(hotspot.key, 0.0),
            pace=pace,
            faults=_FAULTS.get(hotspot.key, ()),
        )
    return made
