"""The net that comes next, said with the way to it."""

from collections.abc import Mapping
from datetime import datetime
from typing import TYPE_CHECKING, NamedTuple
from zoneinfo import ZoneInfo

from umbra_awl.core.agenda.recurrence import (
    Clash,
    Meeting,
    until_words,
)
from umbra_awl.core.agenda.ten_minutes import NetCheck, NetKnown, ten_minutes
from umbra_awl.core.agenda.way_there import way_there
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.plan.model import Net
from umbra_awl.core.transfer.held import proved

if TYPE_CHECKING:
    from umbra_awl.desk.log.nets_page import NetsPage


class Week(NamedTuple):
    """Nets at a moment: their meetings of the week, the one that is on or next with its net, and which of them clash."""

    nets: tuple[Net, ...]
    now: datetime
    meetings: list[Meeting]
    coming: tuple[Meeting, Net] | None
    clashes: list[Clash]


class NextNet:
    """Says what is next on a page."""

    def __init__(self, owner: "NetsPage") -> None:
        self._page = owner

    def say_next(self, week: "Week") -> None:
        now = week.now
        if week.coming is None:
            self._page.told.setText("No net is coming." if week.nets else "")
            return
        meeting, net = week.coming
        local = meeting.start.astimezone(ZoneInfo(self._page.zone))
        when = f"{local:%a} {self._page.theme.measures.time(local)}"
        self._page.told.setText(
            f"Next: {net.name}, {until_words(meeting.start, now)} ({when} {self._page.zone}). {self.way_words(net)}"
        )

    def way_words(self, net: Net) -> str:
        found = way_there(self._page.bench.index, self.fits, net, self.here())
        return " ".join(filter(None, (f"{found.words}." if found.words else "", found.missing)))

    def ask_check(self) -> None:
        """Show what is in order for the net in hand, or for the one that comes next."""
        page = self._page
        net = page.net
        if net is None:
            page.bench.say("The plan has no net yet. Add one first.")
            return
        from umbra_awl.desk.log.ten_minutes_sheet import TenMinutesSheet

        TenMinutesSheet(page, page.bench, net.name, self.checks(net)).exec()

    def checks(self, net: Net) -> tuple[NetCheck, ...]:
        """The checks before a net, as they stand now."""
        bench = self._page.bench
        document = bench.document
        holding = proved(document.real, self.fits) if document is not None else frozenset()
        known = NetKnown(
            self.fits, bench.profiles.snapshot(), bench.worked.results.findings, self._page.book.proofs, holding
        )
        return ten_minutes(bench.index, known, net, bench.clock.utc(), self.here())

    @property
    def fits(self) -> Mapping[str, Fit]:
        return self._page.bench.worked.results.fits if self._page.bench.worked.fresh else {}

    def here(self) -> Position | None:
        trip = next(
            (item for item in self._page.bench.plan.trips if item.key == self._page.seen_from.currentData()), None
        )
        if trip is not None:
            return Position(trip.lat, trip.lon)
        station = self._page.bench.plan.station
        return Position(station.lat, station.lon) if station.lat is not None and station.lon is not None else None
