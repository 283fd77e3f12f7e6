"""Which network something new is on: one of the plan's, one that is made on the spot, or none that is known."""

from collections.abc import Collection, Sequence

from umbra_awl.core.plan.edit.edit_station import add_network
from umbra_awl.core.plan.edit.edits import Edit, fresh_key, together
from umbra_awl.core.plan.model import Mode, Network
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.form_sheet import FormSheet

NEW = "*"
"""No key of a network: a new one is to be made."""
_NAME_IT = "Name the network; the repeater's page tells it. Or choose “{none}”."


class NetworkChoice:
    """The two rows of a form, and what was chosen in them."""

    def __init__(self, form: FormSheet, bench: Workbench, none: str, meaning: str) -> None:
        """`none` is the word for no network, `meaning` says what that means."""
        self._form, self._bench, self._none, self._meaning = form, bench, none, meaning
        self._visible = True
        self.box = form.choice("Network", [])
        self.name = form.line("Its name", "as its page calls it")
        self.note = form.remark()
        self.box.currentIndexChanged.connect(lambda _at: self._say())

    def offer(self, modes: Collection[str], *, asked: bool) -> None:
        """Offer the networks of some modes. `asked`: without one it is worth asking for a new one first."""
        before = self.box.currentData()
        fitting = [(item.name, item.key) for item in self._bench.plan.networks if item.mode in modes]
        options: Sequence[tuple[str, str]] = [*fitting, ("a new network", NEW), (self._none, "")]
        self.box.clear()
        for text, data in options:
            self.box.addItem(text, data)
        usual = fitting[0][1] if fitting else NEW if asked else ""
        self.box.setCurrentIndex(self.box.findData(before if any(before == key for _name, key in fitting) else usual))
        self._say()

    def show(self, visible: bool) -> None:
        """Show the rows, or hide them where there is nothing to choose."""
        self._visible = visible
        self._say()

    def _say(self) -> None:
        chosen = self.box.currentData()
        self._form.form.setRowVisible(self.box, self._visible)
        self._form.form.setRowVisible(self.name, self._visible and chosen == NEW)
        self._form.form.setRowVisible(self.note, self._visible and chosen == "")
        self.note.setText(self._meaning)

    def chosen(self, mode: Mode) -> tuple[str, Edit | None]:
        """The key of the network, and the edit that makes it where it is new. Raises ValueError without a name for it."""
        key = str(self.box.currentData() or "") if self._visible else ""
        if key != NEW:
            return key, None
        name = self.name.text().strip()
        if not name:
            raise ValueError(_NAME_IT.format(none=self._none))
        known = next((item for item in self._bench.plan.networks if (item.name, item.mode) == (name, mode)), None)
        if known is not None:
            return known.key, None
        made = Network(fresh_key(name, self._bench.index.networks), name, mode)
        return made.key, add_network(made)


def with_network(edit: Edit, network: Edit | None) -> Edit:
    """An edit with the network it needs, as one step."""
    return together(edit.sentence, [network, edit]) if network is not None else edit
