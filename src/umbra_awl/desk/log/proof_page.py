"""The proof map with what is in hand: its proof, its entries, one line to write another, and what to prove next."""

from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QComboBox, QWidget

from umbra_awl.core.keep.naming import readable_name
from umbra_awl.core.logbook.pocket import next_words, pocket_text
from umbra_awl.core.logbook.proof import KeyUp, Shares, proof_words, prove_next, share_of
from umbra_awl.core.routes.lists import members_of_all, trip_members
from umbra_awl.desk.asked import ask_button
from umbra_awl.desk.book.log_book import LogBook
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.log.proof_map import ProofMap
from umbra_awl.desk.log.write_card import WriteCard
from umbra_awl.desk.parts.low_scroll import LowScroll
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.saving import ask_place, save_file, save_later
from umbra_awl.desk.parts.widgets import button, column, row, rows_of, words
from umbra_awl.desk.theme.theme import Theme

if TYPE_CHECKING:
    from collections.abc import Callable

    from umbra_awl.core.asked.figure import Figure
    from umbra_awl.desk.known.directory import Directory

_LEGEND = (
    "Hollow: never tried · quarter: repeater heard · half: own key · three quarters: echo · whole with a dot: heard by "
    "somebody · whole: answered · cross: failed · ring: doubtful, broken where over a year old"
)


class ProofPage(QWidget):
    """The canvas page; `side` has the route in hand and what is next."""

    def __init__(self, bench: Workbench, theme: Theme, book: LogBook, directory: "Callable[[], Directory]") -> None:
        super().__init__()
        self._bench, self._theme, self.book, self._directory = bench, theme, book, directory
        self.next: tuple[KeyUp, ...] = ()
        outer = column(self, 6)
        self.scope = QComboBox()
        self.scope.setAccessibleName("Routes counted")
        self.scope.currentIndexChanged.connect(lambda _at: self._show_shares())
        self.shares = words("", wrap=True)
        line = row(gap=8)
        line.addWidget(self.scope)
        line.addWidget(self.shares, 1)
        line.addWidget(ask_button(self._bench))
        outer.addLayout(line)
        self.map = ProofMap(bench, theme, book)
        outer.addWidget(self.map, 1)
        outer.addWidget(words(_LEGEND, "second", wrap=True))
        self.side: QWidget = self._place_side()
        self.map.chosen.connect(self._show_route)
        book.changed.connect(self.refresh)
        bench.results_changed.connect(self.refresh)
        self.refresh()

    def _place_side(self) -> QWidget:
        inside = QWidget()
        beside = column(inside, 6)
        self.title = words("", "title", wrap=True)
        self.told = words("", "second", wrap=True)
        beside.addWidget(self.title)
        beside.addWidget(self.told)
        self.card = WriteCard(self._bench, self._theme, self.book)
        beside.addWidget(self.card)
        beside.addWidget(words("Prove next", "title"))
        self.table = RowsTable(
            self._theme, "Key-ups that prove most", "Every route here is proven. Take another radio, trip or zone."
        )
        self.table.chosen.connect(self._go_next)
        beside.addWidget(self.table, 1)
        scroll = LowScroll(inside, self.table)
        beside.addLayout(
            rows_of(
                button("Save for the pocket", self.save_next),
                button("Proof sheet PDF", self.save_sheet),
                button("Proof CSV", self.save_csv),
                button("The listing is wrong …", self.say_wrong),
            )
        )
        return scroll

    # showing

    def refresh(self) -> None:
        """Show the route in hand, the shares, what is next."""
        self._show_route()
        self._fill_scope()
        self._show_shares()
        self._show_next()

    def _show_route(self) -> None:
        bench, route = self._bench, self._bench.route
        found = self.book.proofs.get(route.key) if route is not None else None
        self.title.setText(bench.index.labels.of(route) if route is not None else "No route chosen")
        told = proof_words(found) if found is not None else "Choose a disc, by mouse or arrows"
        count = sum(item.route == route.key for item in self.book.entries) if route is not None else 0
        more = f" {count} entr{'y' if count == 1 else 'ies'}." if count else ""
        self.told.setText(f"{told[:1].upper()}{told[1:]}.{more} {self.book.trouble}".strip())
        self.card.refresh()

    def _show_next(self) -> None:
        bench = self._bench
        if bench.worked.fresh:
            self.next = prove_next(bench.index, self.book.proofs, bench.worked.results.fits)
            rows = [(f"{len(item.proves)}", next_words(bench.index, item)) for item in self.next]
            self.table.show_rows(("Proves", "Key up"), rows, mono=False)

    def _scopes(self) -> list[tuple[str, str, tuple[str, ...]]]:
        """All routes, those on each radio, in each zone and of each trip: key, name, routes."""
        bench = self._bench
        found = [("all", "All routes", tuple(bench.index.routes))]
        for key, fit in bench.worked.results.fits.items() if bench.worked.fresh else ():
            if key in bench.index.radios:
                on_it = tuple(channel.route for channel in fit.memory.channels if channel.route)
                found.append((f"radio {key}", bench.index.radios[key].name, on_it))
        members = members_of_all(bench.index, bench.plan.zones)
        found += [(f"zone {item.key}", f"Zone {item.name}", members[item.key]) for item in bench.plan.zones]
        trips = bench.plan.trips
        found += [(f"trip {item.key}", f"Trip {item.name}", trip_members(bench.index, item.key)) for item in trips]
        return found

    def _fill_scope(self) -> None:
        wanted = [(key, name) for key, name, _routes in self._scopes()]
        if wanted == [(self.scope.itemData(at), self.scope.itemText(at)) for at in range(self.scope.count())]:
            return
        chosen = self.scope.currentData()
        self.scope.blockSignals(True)
        self.scope.clear()
        for key, name in wanted:
            self.scope.addItem(name, key)
        self.scope.setCurrentIndex(max(0, self.scope.findData(chosen)))
        self.scope.blockSignals(False)

    def figures(self) -> "list[Figure]":
        """The share that is proven of the routes counted."""
        from umbra_awl.core.asked.counted import proven_figure

        return [proven_figure(self._shares(), self.scope.currentText())]

    def _shares(self) -> Shares:
        routes = next((routes for key, _name, routes in self._scopes() if key == self.scope.currentData()), ())
        return share_of(self.book.proofs, routes)

    def _show_shares(self) -> None:
        found = self._shares()
        self.shares.setText(
            f"{found.proven} of {found.routes} proven both ways ({100 * found.share:.0f} %), {found.doubtful} doubtful or in "
            f"part, {found.failed} failed, {found.never} never tried."
        )

    def _go_next(self, at: int) -> None:
        """Take the chosen key-up in hand."""
        from umbra_awl.desk.held.selection import Selection

        if 0 <= at < len(self.next) and self.table.hasFocus():
            route = self._bench.index.routes.get(self.next[at].route)
            if route is not None:
                self._bench.select(Selection(route.service, route.destination, route.slot))

    def save_next(self) -> None:
        """Save the list of key-ups as a text for the pocket."""
        if not self.next:
            self._bench.say("Everything that a radio may send is proven, or there is nothing to key up on yet.", "stop")
            return
        bench = self._bench
        index, fits, listed = bench.index, bench.worked.results.fits, self.next
        name = readable_name(f"{bench.plan.name} prove next", "prove next")
        place = ask_place(self, "Save what to prove next", f"{name}.txt", "Text (*.txt)", ".txt")
        if place is not None:
            save_file(bench, place, lambda: pocket_text(index, fits, listed).encode(), "Saved what to prove next.")

    def save_sheet(self) -> None:
        """Save every route's proof as a PDF."""
        from umbra_awl.core.paper.proof_sheet import proof_lines, proof_pdf

        bench = self._bench
        lines, name, day = proof_lines(bench.index, self.book.proofs), bench.plan.name, bench.clock.today().isoformat()
        place = ask_place(
            self, "Save the proof sheet", f"{readable_name(name, 'plan')} proven.pdf", "PDF (*.pdf)", ".pdf"
        )
        if place is not None:
            save_later(bench, place, lambda: proof_pdf(lines, name, day), "Saved the proof sheet.")

    def save_csv(self) -> None:
        """Save every route's proof as CSV."""
        from umbra_awl.core.paper.proof_sheet import proof_csv, proof_lines

        bench = self._bench
        lines, name = proof_lines(bench.index, self.book.proofs), readable_name(bench.plan.name, "plan")
        place = ask_place(self, "Save what is proven", f"{name} proven.csv", "CSV (*.csv)", ".csv")
        if place is not None:
            save_file(bench, place, lambda: proof_csv(lines).encode("utf-8-sig"), "Saved what is proven.")

    def say_wrong(self) -> None:
        """Say what of the listing of the route in hand is wrong."""
        from umbra_awl.desk.log.wrong_sheet import WrongSheet

        route = self._bench.route
        if route is None:
            self._bench.say("Choose a route through that access point first.", "stop")
            return
        access, service, _destination = self._bench.index.parts(route)
        WrongSheet(self._bench, self._directory(), self, access, service).exec()

    def take_focus(self) -> None:
        """Give the keyboard to the map."""
        self.map.setFocus()

    def reach(self, field: str) -> bool:
        """The line of an entry, or the map."""
        if field in {"entry", "map"}:
            (self.card.call if field == "entry" else self.map).setFocus()
        return field in {"entry", "map"}
