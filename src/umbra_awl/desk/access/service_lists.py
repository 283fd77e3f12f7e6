"""Lists that a service offers: asked for, shown and fetched."""

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from umbra_awl.core.directory.download import OfferedFile, fetch, offered
from umbra_awl.core.directory.lists.layout import WHAT_WORDS, What
from umbra_awl.core.directory.store import Store
from umbra_awl.desk.parts.widgets import button, clear, row, words

if TYPE_CHECKING:
    from umbra_awl.desk.access.imports import Imports


def _what(file: OfferedFile) -> What | None:
    return file.what if file.what in WHAT_WORDS else None


class ServiceLists:
    """Fetches for a page of lists."""

    def __init__(self, owner: "Imports") -> None:
        self._page = owner

    def ask_service(self) -> None:
        """Ask a service what it offers."""
        address = self._page.address.text()
        if not self._page.bench.reaches_out():
            return
        self._page.directory.settings.keep(service=address)
        self._page.directory.tasks.run("Asking the service …", lambda _store: offered(address), self._show_offers)

    def _show_offers(self, files: list[OfferedFile]) -> None:
        clear(self._page.offers)
        for file in files:
            line = row(gap=6)
            line.addWidget(words(file.name, "mono"))
            line.addWidget(words(f"{file.words}, {file.size / 1e6:.1f} MB, of {file.date}", "second"), 1)
            line.addWidget(button("Fetch", partial(self.fetch, file)))
            self._page.offers.addLayout(line)
        if not files:
            self._page.offers.addWidget(words("The service offers nothing.", "second"))

    def fetch(self, file: OfferedFile) -> None:
        """Fetch a file and show its columns."""
        directory, address = self._page.directory, self._page.address.text()
        if not self._page.bench.reaches_out():
            return

        def work(_store: Store) -> Path:
            def progress(have: int, size: int) -> None:
                directory.tasks.progress(have / size, f"Fetching {file.name}: {have / 1e6:.1f} of {size / 1e6:.1f} MB")

            return fetch(address, file, directory.folder / "downloads", progress, directory.tasks.stopped)

        directory.tasks.run(f"Fetching {file.name} …", work, lambda path: self._page.open(path, _what(file)))
