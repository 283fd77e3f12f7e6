"""The plan file changed by another program: noticed while it is open and before saving, and settled by the operator."""

from PyQt6.QtCore import QFileSystemWatcher, QTimer
from PyQt6.QtWidgets import QWidget

from umbra_awl.core.plan.disk.store import Document
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.widgets import button, row, words

_SETTLE_MS = 300
"""A program that writes a file does so in several steps; looked at in the middle it would be half a file."""


class OutsideBar(QWidget):
    """Watches the open plan file; a line with the three ways to go on appears when another program has changed it."""

    def __init__(self, bench: Workbench) -> None:
        super().__init__()
        self._bench = bench
        self.setObjectName("outside")
        line = row(gap=8)
        line.setContentsMargins(16, 4, 16, 4)
        self._words = words("", "brass", wrap=True)
        line.addWidget(self._words, 1)
        self.mine = button(
            "Keep mine", self._keep_mine, tip="Save over it; what the other program wrote goes among the older saves"
        )
        self.theirs = button(
            "Take theirs", self._take_theirs, tip="Go on from the file as it is now; undo leads back to yours"
        )
        self.both = button(
            "Keep both", self._keep_both, "main", "Save yours under another name beside it, and go on from theirs"
        )
        for made in (self.both, self.mine, self.theirs):
            line.addWidget(made)
        self.setLayout(line)
        self.hide()
        self._watcher = QFileSystemWatcher(self)
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.setInterval(_SETTLE_MS)
        self._pause.timeout.connect(self.look)
        self._watcher.fileChanged.connect(lambda _path: self._pause.start())
        self._watcher.directoryChanged.connect(lambda _path: self._pause.start())
        bench.document_changed.connect(self._watch)
        bench.saved_changed.connect(self._watch)
        bench.outside_noticed.connect(self._ask)

    def _watch(self) -> None:
        """Watch the open file and its folder: a file that is replaced is another one under the same name."""
        document = self._bench.document
        wanted = {str(document.real), str(document.real.parent)} if document is not None else set()
        watched = {*self._watcher.files(), *self._watcher.directories()}
        if watched - wanted:
            self._watcher.removePaths(sorted(watched - wanted))
        if wanted - watched:
            self._watcher.addPaths(sorted(wanted - watched))
        if document is None or self.isVisible():
            self.look()

    def look(self) -> None:
        """Look whether the file is still what was opened or saved here."""
        document = self._bench.document
        if document is not None and document.outside() == "changed":
            self._ask()
        else:
            self.hide()
        if document is not None and str(document.real) not in self._watcher.files():
            self._watcher.addPath(str(document.real))

    def _ask(self) -> None:
        document = self._bench.document
        if document is not None:
            self._words.setText(
                f"“{document.path.name}” was changed by another program while it is open here. "
                "Nothing of yours is lost; saving waits until you choose."
            )
            self.show()

    def _keep_mine(self) -> None:
        if self._bench.save(over_theirs=True):
            self.hide()

    def _take_theirs(self) -> None:
        said = "This is the plan as the other program left it. Ctrl Z takes you back to yours."
        if self._bench.settle(lambda document: document.take_theirs(self._bench.clock.local()), said):
            self.hide()

    def _keep_both(self) -> None:
        def way(document: Document) -> None:
            document.keep_both(self._bench.clock.local())

        said = "Yours is beside it, with “mine” and the date in its name; open here is what the other program wrote."
        if self._bench.settle(way, said):
            self.hide()
