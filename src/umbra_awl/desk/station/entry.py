"""Station in the table of stages."""

from umbra_awl.desk.stage import StageEntry, Surroundings


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.station.stage import StationStage

    return StationStage(given.bench, given.theme, lambda site: given.directory().home_at(site))


STATION = StageEntry(
    "station",
    "Station",
    _make,
    ("who", "licence", "bands", "place", "networks", "exposure", "battery"),
    targets=frozenset({"identity", "licence"}),
)
