"""Log in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.log.stage import LogStage

    return LogStage(given.bench, given.theme, given.book(), given.directory)


LOG = StageEntry(
    "log",
    "Log",
    _make,
    ("proof", "entries", "nets", "drills"),
    (
        StageCommand("log-proof", "What is proven: the proof map", showing("proof"), "Ctrl+Shift+X"),
        StageCommand("log-entries", "Entries of the log, ADIF in and out", showing("entries")),
        StageCommand("log-next", "Prove next: the key-ups that prove most", lambda stage: stage.save_next()),
        StageCommand(
            "log-sheet", "Proof sheet as PDF: what is proven, route by route", lambda stage: stage.save_sheet()
        ),
        StageCommand("log-import", "Import a log, ADIF or CSV", lambda stage: stage.ask_import()),
        StageCommand(
            "log-wrong", "A listing is wrong: correct it, and a file to send", lambda stage: stage.say_wrong()
        ),
        StageCommand("log-nets", "Nets: the week ahead, and who is awake", showing("nets"), "Ctrl+Shift+J"),
        StageCommand("log-net-add", "Add a net", lambda stage: stage.add_net()),
        StageCommand("log-net-import", "Import nets from iCalendar", lambda stage: stage.import_nets()),
        StageCommand(
            "drill-fault", "Find the fault: a drill on a copy", lambda stage: stage.practise("fault"), "Ctrl+Shift+G"
        ),
        StageCommand("drill-keys", "Practise on a radio's keypad", lambda stage: stage.practise("keys")),
        StageCommand("drill-questions", "Practise fields and figures", lambda stage: stage.practise("questions")),
    ),
    targets={"net": "nets"},
    later=(
        "desk.log.proof_page",
        "desk.log.entries_page",
        "desk.log.nets_page",
        "desk.log.drills_page",
        "core.paper.proof_sheet",
    ),
)
