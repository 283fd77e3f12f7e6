"""Files that are dropped on the window go where they belong, by their ending; what belongs nowhere is said."""

import sys
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any, NamedTuple, Protocol

from umbra_awl.core.plan.disk.saves import SUFFIX
from umbra_awl.desk.frame.open_stages import OpenStages
from umbra_awl.desk.held.workbench import Workbench


class _Frame(Protocol):
    """What is asked of the window."""

    bench: Workbench
    stages: OpenStages


class _Way(NamedTuple):
    """Endings, the stage and page that take such files, and how they are given there."""

    endings: tuple[str, ...]
    stage: str
    page: str
    give: Callable[[Any, Path], object]


WAYS: Sequence[_Way] = (
    _Way((".csv", ".xlsx", ".geojson", ".txt"), "access", "imports", lambda stage, path: stage.imports.open(path)),
    _Way((".gpx",), "access", "around", lambda stage, path: stage.acts.play(path)),
    _Way((".ics",), "log", "nets", lambda stage, path: stage.nets.files.bring_in(path)),
    _Way((".adi", ".adif"), "log", "entries", lambda stage, path: stage.entries.files.bring_in(path)),
    _Way((".ini", ".conf", ".cfg", ".env"), "hotspots", "match", lambda stage, path: stage.match.file.open_file(path)),
    _Way((".log",), "hotspots", "find", lambda stage, path: stage.seek.sources.open_log(path)),
    _Way(
        (".jpg", ".jpeg", ".png", ".webp", ".gif", ".bmp"),
        "onair",
        "messages",
        lambda stage, path: stage.open_picture(path),
    ),
    _Way((".toml",), "radios", "own", lambda stage, path: stage.profile.files.bring_in(path)),
)


def _by_drivers() -> tuple[_Way, ...]:
    """The way of files that a driver of the operator's own reads; none where none is in force."""
    registry = sys.modules.get("umbra_awl.core.drivers.registry")
    if registry is None or not registry.DRIVERS.keys:
        return ()
    from umbra_awl.core.drivers.reading import all_endings

    endings = all_endings()
    return (_Way(endings, "access", "imports", lambda stage, path: stage.imports.open(path)),) if endings else ()


def drop(frame: _Frame, path: Path, open_plan: Callable[[Path], object], open_pack: Callable[[Path], object]) -> None:
    """Take one file."""
    name = path.name.lower()
    if name.endswith(SUFFIX):
        open_plan(path)
        return
    if name.endswith(".zip"):
        open_pack(path)
        return
    way = next((item for item in (*WAYS, *_by_drivers()) if name.endswith(item.endings)), None)
    if way is None:
        frame.bench.say(
            f"“{path.name}” belongs nowhere here by its ending. Choose the page first, and open it there.", "stop"
        )
        return
    frame.stages.open(way.stage, way.page)
    if way.stage not in frame.stages:
        return
    stage = frame.stages[way.stage]
    if stage.pages.is_blank:
        frame.bench.say(
            f"“{path.name}” is not read yet, for its page has nothing to go with. Begin there, then drop it again.",
            "stop",
        )
        return
    way.give(stage, path)
