"""A net as a card of fields, and the sheet that adds one."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.agenda.net_edits import add_net, days_typed, days_words, nth_typed, nth_words, set_net
from umbra_awl.core.agenda.recurrence import day_of, rule_words
from umbra_awl.core.agenda.trips import zone_typed, zone_words
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import Every, Net
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field
from umbra_awl.desk.parts.cards.form_sheet import FormSheet
from umbra_awl.desk.parts.cards.late_choices import LateChoices

EVERY_WORDS: dict[Every, str] = {"week": "week", "month": "month", "day": "day", "once": "once only"}
_LEAD = (
    "When it meets, by the clock of whoever runs it. Your own time, with daylight saving on both sides, is worked out."
)
_CALLED = frozenset({"local", "group", "reflector", "room", "repeater", "direct", "station", "private"})


class NetFields:
    """Makes the fields of a net, and takes what is typed into them."""

    def __init__(self, bench: Workbench) -> None:
        self._bench = bench

    def fields(self, net: Net) -> list[Field]:
        """All fields of a net."""
        made: list[Field] = [
            Field("Name", net.name, commit=self._text(net, "name"), text=net.name),
            Field("Calls", self._whom(net), choices=LateChoices(lambda: self._destinations(net))),
            Field("Route", self._route(net), choices=LateChoices(lambda: self._routes(net))),
            Field("Every", EVERY_WORDS[net.every], choices=self._every(net)),
        ]
        if net.every != "once":
            made.append(Field("So many", str(net.step), commit=self._number(net, "step"), tip="2: every second one"))
        if net.every in {"week", "month"}:
            days = days_words(net.days)
            made.append(
                Field("On", days or "the first one's day", commit=self._typed(net, "days", days_typed), text=days)
            )
        if net.every == "month":
            nth = nth_words(net.nth)
            shown = nth or ("every" if net.days else "its date")
            made.append(Field("Which", shown, commit=self._typed(net, "nth", nth_typed), text=nth, tip="first, last"))
        skipped = ", ".join(net.skips)
        reminded = "never" if net.remind_minutes < 0 else f"{net.remind_minutes} min before"
        return [
            *made,
            Field("At", net.at, commit=self._text(net, "at"), text=net.at),
            Field("Lasts", f"{net.minutes} min", commit=self._number(net, "minutes"), text=str(net.minutes)),
            Field("Time zone", zone_words(net.time_zone), commit=self._zone(net), text=zone_words(net.time_zone)),
            Field("First day", net.begins, commit=self._text(net, "begins"), text=net.begins),
            Field("Last day", net.until or "none", commit=self._text(net, "until"), text=net.until),
            Field(
                "Not on",
                skipped or "–",
                commit=self._typed(net, "skips", _dates),
                text=skipped,
                tip="Days it falls out",
            ),
            Field(
                "Reminder",
                reminded,
                commit=self._number(net, "remind_minutes"),
                text="never" if net.remind_minutes < 0 else str(net.remind_minutes),
                tip="-1: never",
            ),
            Field("Note", net.note or "–", commit=self._text(net, "note"), text=net.note),
        ]

    def _whom(self, net: Net) -> str:
        known = self._bench.index.destinations.get(net.destination)
        return known.name if known is not None else "not said"

    def _route(self, net: Net) -> str:
        known = self._bench.index.routes.get(net.route)
        return self._bench.index.labels.of(known) if known is not None else "the nearest"

    def _put(self, net: Net, **fields: Any) -> str:
        """Do an edit of a net; the refusal, which is shown under the field."""
        edit = set_net(net, f"Change the net {net.name}", **fields)
        try:
            edit.apply(self._bench.plan)
        except EditRefused as error:
            return str(error)
        self._bench.do(edit)
        return ""

    def _text(self, net: Net, name: str) -> Commit:
        def commit(text: str) -> str:
            return self._put(net, **{name: text.strip()})

        return commit

    def _zone(self, net: Net) -> Commit:
        return lambda text: self._put(net, time_zone=zone_typed(text))

    def _number(self, net: Net, name: str) -> Commit:
        def commit(text: str) -> str:
            typed = text.strip().casefold().removesuffix("before").strip().removesuffix("min")
            try:
                value = -1 if name == "remind_minutes" and typed in {"never", "none", ""} else int(typed)
            except ValueError:
                return f"“{text}” is no whole number."
            return self._put(net, **{name: max(-1, value)})

        return commit

    def _typed(self, net: Net, name: str, read: Callable[[str], Any]) -> Commit:
        def commit(text: str) -> str:
            try:
                return self._put(net, **{name: read(text)})
            except EditRefused as error:
                return str(error)

        return commit

    def _every(self, net: Net) -> list[Choice]:
        return [
            Choice(word, partial(self._put, net, every=every), net.every == every)
            for every, word in EVERY_WORDS.items()
        ]

    def _destinations(self, net: Net) -> Iterator[Choice]:
        for item in self._bench.plan.destinations:
            if item.kind in _CALLED:
                does = partial(self._put, net, destination=item.key, route="")
                yield Choice(item.name, does, item.key == net.destination)

    def _routes(self, net: Net) -> Iterator[Choice]:
        yield Choice("the nearest", partial(self._put, net, route=""), not net.route)
        for route in self._bench.plan.routes:
            if not net.destination or route.destination == net.destination:
                does = partial(self._put, net, route=route.key, destination=route.destination)
                yield Choice(self._bench.index.labels.of(route), does, net.route == route.key)


def _dates(text: str) -> tuple[str, ...]:
    days = [word for word in text.replace(",", " ").split() if word]
    for day in days:
        if day_of(day) is None:
            raise EditRefused(f"“{day}” is no day. Days read like 2026-12-01.")
    return tuple(sorted(set(days)))


class AddNet(FormSheet):
    """Add a net."""

    def __init__(self, bench: Workbench, parent: QWidget, zone: str) -> None:
        super().__init__(parent, "Add a net", _LEAD, self.attempt)
        self._bench = bench
        self.key = ""
        self.name = self.line("Name", "Isles evening net")
        called = [(item.name, item.key) for item in bench.plan.destinations if item.kind in _CALLED]
        self.whom = self.choice("Calls", [("say later", ""), *called])
        route = bench.route
        if route is not None:
            self.whom.setCurrentIndex(max(0, self.whom.findData(route.destination)))
        self.every = self.choice("Every", [(word, every) for every, word in EVERY_WORDS.items()])
        self.days = self.line("On", "Tue, Thu; empty for the first one's day")
        self.nth = self.line("Which of the month", "first, last; empty for the first one's date")
        self.begins = self.line("First day", f"{bench.clock.utc():%Y-%m-%d}")
        self.begins.setText(f"{bench.clock.utc():%Y-%m-%d}")
        self.at = self.line("At", "19:30")
        self.zone = self.line("Time zone", "Atlantic/Azores")
        self.zone.setText(zone_words(zone))
        self.every.currentIndexChanged.connect(lambda _at: self._say_rows())
        self.told = self.remark()
        for line in (self.days, self.nth, self.begins, self.at, self.zone):
            line.textChanged.connect(lambda _text: self._say_rule())
        self._say_rows()

    def _say_rows(self) -> None:
        every = self.every.currentData()
        self.form.setRowVisible(self.days, every in {"week", "month"})
        self.form.setRowVisible(self.nth, every == "month")
        self._say_rule()

    def _say_rule(self) -> None:
        try:
            self.told.setText(rule_words(self._net()))
        except EditRefused:
            self.told.setText("")

    def _net(self) -> Net:
        every = self.every.currentData()
        return Net(
            "",
            self.name.text().strip(),
            self.whom.currentData(),
            time_zone=zone_typed(self.zone.text()),
            begins=self.begins.text().strip(),
            at=self.at.text().strip() or "19:30",
            every=every,
            days=days_typed(self.days.text()) if every in {"week", "month"} else (),
            nth=nth_typed(self.nth.text()) if every == "month" else (),
        )

    def attempt(self) -> str:
        """Add it; the reason when that cannot be."""
        try:
            edit = add_net(self._bench.plan, self._net())
        except EditRefused as error:
            return str(error)
        if self._bench.do(edit):
            self.key = self._bench.plan.nets[-1].key
        return ""
