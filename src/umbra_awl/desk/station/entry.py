"""Station in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageEntry, Surroundings


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.station.stage import StationStage

    return StationStage(given.bench, given.theme, lambda site: given.directory().home_at(site))


STATION = StageEntry(
    "station",
    "Station",
    _make,
    ("who", "licence", "bands", "place", "networks", "exposure", "battery"),
    targets={"identity": "who", "step": "who", "licence": "licence", "network": "networks"},
)
