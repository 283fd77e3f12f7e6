"""Routes in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.routes.stage import RoutesStage

    return RoutesStage(given.bench, given.theme, ROUTES.parts)


ROUTES = StageEntry(
    "routes",
    "Routes",
    _make,
    ("sheet", "names", "trace"),
    (
        StageCommand("add-access", "Add an access point", lambda stage: stage.add_access(), "Ctrl+Shift+A"),
        StageCommand("add-destination", "Add a destination", lambda stage: stage.add_destination(), "Ctrl+Shift+D"),
        StageCommand("sheet", "Show the punch sheet", showing("sheet"), "Ctrl+Shift+U"),
        StageCommand("names", "Show the names on every radio", showing("names"), "Ctrl+Shift+N"),
        StageCommand("trace", "Show the trace in full", showing("trace"), "Ctrl+T"),
        StageCommand("silent", "Why do I hear nothing?", lambda stage: stage.why_silent(), "Ctrl+Shift+H"),
        StageCommand("zones", "Show the zones", showing("zones"), "Ctrl+Shift+Y"),
        StageCommand("style", "House style of names", showing("names")),
        StageCommand("fill-row", "Punch the destination through every service", lambda stage: stage.work.fill_row()),
        StageCommand("fill-column", "Punch all that the service reaches", lambda stage: stage.work.fill_column()),
        StageCommand(
            "rows-columns", "Rows and columns: templates, patterns", lambda stage: stage.work.open(), "Ctrl+Shift+M"
        ),
        StageCommand(
            "copy-pattern", "Copy the service's pattern to another", lambda stage: stage.work.ask_copy(), "Ctrl+Shift+C"
        ),
    ),
    targets={
        "route": "sheet",
        "service": "sheet",
        "destination": "sheet",
        "zone": "zones",
        "scan": "scans",
    },
    parts={"zones": "sheet", "scans": "sheet"},
    concerns={"sheet": frozenset({"hotspot"}), "names": frozenset({"route"}), "trace": frozenset({"route", "service"})},
    traced=frozenset({"sheet", "names"}),
)
