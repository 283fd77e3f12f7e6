"""Talk groups, reflectors and rooms of the directory, to be taken into the plan as destinations."""

from PyQt6.QtWidgets import QLineEdit, QWidget

from umbra_awl.core.directory.targets import ListedTarget, search_targets
from umbra_awl.core.plan.edit.edits import Edit, add_item, fresh_key, together
from umbra_awl.core.plan.model import Mode, Network
from umbra_awl.core.plan.parts import DESTINATIONS, NETWORKS
from umbra_awl.desk.access.review import ReviewRows, table_of
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.known.directory import Directory
from umbra_awl.desk.parts.when_changed import WhenChanged
from umbra_awl.desk.parts.widgets import button, column, row, words

_KIND_WORDS = {"group": "talk group", "reflector": "reflector", "room": "room"}
_MODE_OF: dict[str, Mode] = {"group": "dmr", "reflector": "dstar", "room": "fusion"}


class TargetsPage(QWidget):
    """A filter over the table; taking adds a network by name where the plan has none."""

    def __init__(self, bench: Workbench, directory: Directory) -> None:
        super().__init__()
        self._bench, self._directory = bench, directory
        outer = column(self, 6)
        head = row(gap=6)
        head.addWidget(words("Destinations of the directory", "title"))
        head.addStretch(1)
        self._take = button("Add the selected to the plan", self.take, "main", "Enter")
        head.addWidget(self._take)
        outer.addLayout(head)
        self.text = QLineEdit()
        self.text.setPlaceholderText("Name, number or network")
        self.text.setAccessibleName("Find talk groups, reflectors and rooms")
        self.text.textChanged.connect(lambda _text: self.reload())
        outer.addWidget(self.text)
        self.rows = ReviewRows(("Network", "Number", "Name", "Kind", "In the plan"), self._texts)
        self.view = table_of(self.rows, (110, 90, 260, 100), "Destinations of the directory")
        outer.addWidget(self.view, 1)
        self._empty = words(
            "None found. Import a file of talk groups, reflectors or rooms under Lists.", "second", wrap=True
        )
        outer.addWidget(self._empty)
        directory.changed.connect(self.reload)
        self._fresh = WhenChanged(self, lambda: (bench.plan.destinations, bench.plan.networks), self.reload)
        bench.plan_changed.connect(self._fresh.check)

    def reload(self) -> None:
        """Show what is found."""
        found = search_targets(self._directory.store, self.text.text())
        self.rows.show_items(list(found))
        self._empty.setVisible(not found)
        self._take.setEnabled(bool(found))

    def _known(self, target: ListedTarget) -> bool:
        networks = {item.key: item.name.casefold() for item in self._bench.plan.networks}
        for item in self._bench.plan.destinations:
            same = item.number == target.number if target.number is not None else item.name == target.name
            if same and networks.get(item.network, "") == target.network.casefold():
                return True
        return False

    def _texts(self, target: ListedTarget) -> tuple[str, str, str, str, str]:
        number = "" if target.number is None else str(target.number)
        return (
            target.network,
            number,
            target.name,
            _KIND_WORDS.get(target.kind, target.kind),
            "yes" if self._known(target) else "",
        )

    def take(self) -> None:
        """Take the selected ones into the plan, as one step."""
        chosen = [self.rows.items[at] for at in sorted({index.row() for index in self.view.selectedIndexes()})]
        fresh = [target for target in chosen if not self._known(target)]
        if not fresh:
            self._bench.say(
                "Select destinations that are not in the plan yet." if not chosen else "They are in the plan already."
            )
            return
        plan = self._bench.plan
        networks = {item.name.casefold(): item.key for item in plan.networks}
        taken = [item.key for item in plan.destinations]
        edits: list[Edit] = []
        for target in fresh:
            name = target.network.casefold()
            if name and name not in networks:
                networks[name] = fresh_key(target.network, networks.values())
                network = Network(networks[name], target.network, _MODE_OF[target.kind])
                edits.append(add_item(NETWORKS, network, f"Add the network {target.network}"))
            key = fresh_key(target.name, taken)
            taken.append(key)
            edits.append(add_item(DESTINATIONS, target.destination(key, networks.get(name, "")), f"Add {target.name}"))
        label = fresh[0].name if len(fresh) == 1 else f"{len(fresh)} destinations"
        if self._bench.do(together(f"Take {label} into the plan", edits)):
            self._bench.say(f"{label} taken into the plan.")
