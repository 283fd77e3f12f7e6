"""The table of stages, in working order. A new stage is a package with its entry, and a line here."""

from collections.abc import Mapping
from types import MappingProxyType

from umbra_awl.core.findings.model import TargetKind
from umbra_awl.desk.access.entry import ACCESS
from umbra_awl.desk.hotspots.entry import HOTSPOTS
from umbra_awl.desk.log.entry import LOG
from umbra_awl.desk.onair.entry import ONAIR
from umbra_awl.desk.radios.entry import RADIOS
from umbra_awl.desk.routes.entry import ROUTES
from umbra_awl.desk.stage import StageEntry
from umbra_awl.desk.station.entry import STATION
from umbra_awl.desk.transfer.entry import TRANSFER

STAGES: dict[str, StageEntry] = {
    entry.key: entry for entry in (STATION, ACCESS, ROUTES, RADIOS, TRANSFER, HOTSPOTS, ONAIR, LOG)
}
STAGE_OF: dict[TargetKind, str] = {kind: entry.key for entry in STAGES.values() for kind in entry.targets}
"""Target kind to the stage where such a thing is worked on."""
PAGE_OF: dict[TargetKind, str] = {kind: page for entry in STAGES.values() for kind, page in entry.targets.items()}
"""Target kind to the page of that stage."""
REACHING_OUT = frozenset({"transfer"})
"""Stages that are all about radios, and have no use in a practice copy."""
TITLES: Mapping[str, str] = MappingProxyType({key: entry.title for key, entry in STAGES.items()})
"""What the stages are called, by their keys."""
KEYS: Mapping[str, str] = MappingProxyType({title: key for key, title in TITLES.items()})
"""The keys of the stages, by what they are called."""
