"""Transfer in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing, with_radio


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.transfer.stage import TransferStage

    return TransferStage(given.bench, given.theme, given.runner(), given.directory)


TRANSFER = StageEntry(
    "transfer",
    "Transfer",
    _make,
    ("cable", "slot", "app", "keys", "lists", "ports", "card", "files", "table", "bring"),
    (
        StageCommand("changes", "Read, compare, write by cable", showing("cable")),
        StageCommand("slot", "There and back by memory card", showing("slot")),
        StageCommand("app", "There and back by phone app", showing("app")),
        StageCommand("lists", "People and lists into the radio", showing("lists")),
        StageCommand("keys", "Key sheet: enter memories by hand", showing("keys"), "Ctrl+Shift+K"),
        StageCommand("card", "Paper: field cards, key sheets, labels", showing("card"), "Ctrl+P"),
        StageCommand("files", "Files for another program", showing("files"), "Ctrl+Shift+F"),
        StageCommand("ports", "Ports and firmware: why does it not answer?", showing("ports")),
        StageCommand("table", "Table day: many radios in a row", showing("table")),
        StageCommand("bring", "Bring a radio in", showing("bring"), "Ctrl+Shift+B"),
        StageCommand("read", "Read the radio", lambda stage: stage.read(), "F5", when=with_radio),
    ),
    later=(
        "desk.transfer.card.card_page",
        "core.transfer.card.way",
        "desk.transfer.lists.list_page",
        "desk.transfer.app.app_page",
        "desk.transfer.ports.port_page",
        "desk.transfer.table.table_page",
        "desk.transfer.paper.keys_page",
        "desk.transfer.paper.paper_page",
        "desk.transfer.files.files_page",
        "desk.transfer.files.bring_page",
        "core.paper.bundle",
        "core.paper.pages",
    ),
)  # fmt: skip
