"""Radios in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.radios.stage import RadiosStage

    return RadiosStage(given.bench, given.theme, given.directory)


RADIOS = StageEntry(
    "radios",
    "Radios",
    _make,
    ("memory", "settings", "people", "which", "own"),
    (
        StageCommand("memory", "Show the radio's memory", showing("memory"), "Ctrl+Shift+R"),
        StageCommand("settings", "Settings of the radio: keys, texts, time-out", showing("settings")),
        StageCommand("radio-people", "People list of the radio", showing("people")),
        StageCommand("which-radio", "Which radio carries my plan?", showing("which"), "Ctrl+Shift+W"),
        StageCommand("own-profile", "Describe a radio of my own", showing("own")),
    ),
    {"radio": "memory"},
    traced=frozenset({"memory"}),
    later=(
        "desk.radios.compare_page",
        "desk.radios.people_page",
        "desk.radios.settings_page",
        "desk.radios.profile_page",
    ),
)
