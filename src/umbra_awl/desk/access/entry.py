"""Access in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.access.stage import AccessStage

    return AccessStage(given.bench, given.theme, given.directory(), given.book)


ACCESS = StageEntry(
    "access",
    "Access",
    _make,
    ("around", "trips", "imports", "people", "destinations"),
    (
        StageCommand("import", "Import a directory", lambda stage: stage.acts.import_file(), "Ctrl+Shift+I"),
        StageCommand("survey", "Show what is on the air around you", showing("around")),
        StageCommand("here", "Where I am now, by a positioning receiver", lambda stage: stage.acts.ask_here()),
        StageCommand("listening", "Where to begin listening", lambda stage: stage.acts.ask_listening()),
        StageCommand("people", "Find people", showing("people"), "Ctrl+Shift+P"),
        StageCommand("trips", "Show the trips", showing("trips"), "Ctrl+Shift+T"),
    ),
    targets={"trip": "trips"},
    concerns={"around": frozenset({"service", "hotspot"}), "trips": frozenset({"trip"})},
)
