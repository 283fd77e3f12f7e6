"""Station in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.station.stage import StationStage

    return StationStage(
        given.bench, given.theme, lambda site: given.directory().home_at(site), given.go, given.titles, STATION.parts
    )


STATION = StageEntry(
    "station",
    "Station",
    _make,
    ("next", "me", "networks", "power"),
    (
        StageCommand("next-steps", "What to do next, all of it", showing("next")),
        StageCommand("when", "When can I be on the air?", showing("when")),
        StageCommand("who", "Call signs, IDs and names", showing("who")),
        StageCommand("licence", "Licence and receive-only guard", showing("licence")),
        StageCommand("bands", "Bands and their edges", showing("bands")),
        StageCommand("place", "Where you are, and who may know it", showing("place")),
        StageCommand("habits", "Where people disagree: what you keep to", showing("habits")),
        StageCommand("networks", "Networks and their numbers", showing("networks")),
        StageCommand("exposure", "RF exposure: how far to keep away", showing("exposure")),
        StageCommand("battery", "Hours on the battery", showing("battery")),
    ),
    parts={
        "when": "next",
        "who": "me",
        "licence": "me",
        "bands": "me",
        "habits": "me",
        "place": "me",
        "exposure": "power",
        "battery": "power",
    },
    targets={"identity": "who", "step": "when", "licence": "licence", "network": "networks"},
)
