"""The trace in full: every hop with what it says, where it stops and what mends it; and the other direction.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QComboBox, QFormLayout, QFrame, QLabel, QVBoxLayout, QWidget

from umbra_awl.core.plan.model import Route
from umbra_awl.core.trace.checks import checks_of
from umbra_awl.core.trace.model import Listener
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.rows_table import RowsTable
from umbra_awl.desk.parts.tabs import Tabs
from umbra_awl.desk.parts.widgets import button, clear, column, row, scrolled, words
from umbra_awl.desk.routes.route_choice import RouteChoice
from umbra_awl.desk.routes.speaking_card import SpeakingCard
from umbra_awl.desk.routes.thread_column import ThreadColumn
from umbra_awl.desk.routes.trace_chain import TraceChain
from umbra_awl.desk.theme.theme import Theme

_NOTHING = "Choose a route, and its key-up is followed here hop by hop. Those where something is found stand first."
_NO_CHANNEL = (
    "Punch the crossing that is called, so that this radio has it. Or let the channel hear anything on its slot."
)
_SAYS = {"yes": "holds", "no": "keeps it shut", "perhaps": "depends"}
_VERDICTS = {"yes": "pass", "no": "stop", "perhaps": "dark"}


class TracePage(QWidget):
    """The canvas page: where the key-up goes, or why nothing is heard."""

    def __init__(self, bench: Workbench, theme: Theme) -> None:
        super().__init__()
        self._bench = bench
        outer = column(self, 8)
        head = row(gap=10)
        self.tabs = Tabs(("Where it goes", "Why nothing is heard"), self.show_question)
        head.addWidget(self.tabs)
        head.addWidget(RadioTabs(bench), 1)
        outer.addLayout(head)
        self._call = _CallChoice(bench, self.refresh)
        outer.addWidget(self._call)
        self.title = words("", "title", wrap=True)
        outer.addWidget(self.title)
        self.chain, self._conditions = TraceChain(theme), ThreadColumn(theme)
        flow = QWidget()
        inner = column(flow, 12)
        inner.addWidget(self.chain)
        inner.addWidget(self._conditions)
        self._below: QVBoxLayout = column(gap=4)
        inner.addLayout(self._below)
        self._listeners, self.speaking = _Listeners(theme), SpeakingCard(bench)
        both = row(gap=12)
        both.addWidget(self._listeners, 1)
        both.addWidget(self.speaking, 1)
        inner.addLayout(both)
        inner.addStretch(1)
        self.told = words(_NOTHING, "second", wrap=True)
        self.choice = RouteChoice(bench, theme)
        outer.addWidget(self.told)
        outer.addWidget(self.choice, 1)
        self._flow = scrolled(flow)
        outer.addWidget(self._flow, 1)
        for signal in (bench.selection_changed, bench.results_changed, bench.radio_changed, bench.plan_changed):
            signal.connect(self._moved)
        self.show_question(0)

    @property
    def path(self) -> TraceChain | ThreadColumn:
        """What answers the question that is asked: the chain of hops, or the conditions."""
        return self._conditions if self.tabs.marked == 1 else self.chain

    def show_question(self, question: int) -> None:
        """Ask where a key-up goes (0), or why nothing is heard (1)."""
        self.tabs.mark(question)
        self._call.setVisible(question == 1)
        self.chain.setVisible(question == 0)
        self._conditions.setVisible(question == 1)
        self.refresh()

    def take_focus(self) -> None:
        """Give the keyboard to the routes to choose from, else to the questions."""
        (self.choice if self.choice.isVisible() else self.tabs.buttons[self.tabs.marked]).setFocus()

    def _moved(self) -> None:
        if self.isVisible():
            self.refresh()

    def showEvent(self, event: object) -> None:
        self.refresh()
        super().showEvent(event)  # type: ignore[arg-type]

    def refresh(self) -> None:
        """Answer for the selected route on the chosen radio."""
        clear(self._below)
        self._listeners.show_listeners(())
        self.speaking.show_route(None)
        none = self._bench.route is None or self._bench.carrier is None
        held = self.choice.hasFocus()
        for part in (self.told, self.choice):
            part.setVisible(none)
        self._flow.setVisible(not none)
        if none:
            self.title.setText("Which route?")
            self.choice.refresh()
        elif self.tabs.marked == 0:
            self._show_trace()
        else:
            self._call.refresh()
            self._show_silence()
        if held and not none:
            self.take_focus()

    def _label(self) -> str:
        route, radio = self._bench.route, self._bench.carrier
        assert route is not None
        assert radio is not None
        return f"{self._bench.index.labels.of(route)}, on {radio.name}"

    def _show_trace(self) -> None:
        trace = self._bench.trace()
        self.title.setText(self._label())
        route, index = self._bench.route, self._bench.index
        if trace is None or route is None:
            self.chain.show_hops((), "Working it out …")
            return
        mode = index.services[route.service][1].mode
        self.chain.show_hops([(hop, checks_of(hop.kind, mode)) for hop in trace.hops])
        if trace.broken is not None:
            self._offer(trace.broken.mends)
        if trace.order:
            self._list("In this order", [f"{at}.  {step}" for at, step in enumerate(trace.order, 1)])
        self._listeners.show_listeners(trace.listeners)
        allowed = all(hop.state == "pass" for hop in trace.hops if hop.kind == "guard")
        self.speaking.show_route(route if allowed else None)  # where one may only listen nothing is to be said

    def _offer(self, rules: tuple[str, ...]) -> None:
        """The repair of what a finding of these rules tells about the route, where there is one."""
        from umbra_awl.core.trace.model import mending

        route = self._bench.route
        repair = (
            mending(self._bench.index, route.key, rules, self._bench.worked.results.findings)
            if route is not None
            else None
        )
        if repair is not None:
            line = row()
            line.addWidget(
                button(repair.label, partial(self._bench.repairs.apply, repair), "main", repair.edit.sentence)
            )
            line.addStretch(1)
            self._below.addLayout(line)

    def _list(self, title: str, lines: list[str]) -> None:
        self._below.addWidget(words(title, "title"))
        for text in lines:
            self._below.addWidget(words(text, wrap=True))

    def _show_silence(self) -> None:
        from umbra_awl.core.trace.silent import why_silent

        bench, call, radio, route = self._bench, self._call.chosen(), self._bench.carrier, self._bench.route
        fits = bench.worked.results.fits
        if route is None or radio is None or call is None or not bench.worked.fresh or radio.key not in fits:
            self._conditions.show_rows((), "Working it out …")
            return
        answer = why_silent(bench.index, fits, radio.key, route.key, call)
        shut = answer.shut
        says = "stays silent" if shut else "opens"
        where = f"{radio.name} on {answer.channel or bench.index.labels.of(route)}"
        self.title.setText(f"Somebody calls {answer.call}: {where} {says}")
        self._conditions.show_rows(
            [(_VERDICTS[item.holds], _SAYS[item.holds], item.text, "") for item in answer.conditions]
        )
        if shut is not None:
            self._offer(shut.mends)
            what = f"On {radio.name}, {answer.instead} opens for this call." if answer.instead else _NO_CHANNEL
            self._list("What would help", [what])


class _Listeners(QFrame):
    """Who hears it, and who does not, each with the reason."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.setProperty("role", "card")
        outer = column(self, 6, 12)
        self._head = words("", "title")
        outer.addWidget(self._head)
        self.table = RowsTable(theme, "Who hears it")
        self.table.setMinimumHeight(theme.px(110))
        outer.addWidget(self.table)
        outer.addStretch(1)
        self._shown: tuple[Listener, ...] | None = None

    def show_listeners(self, found: tuple[Listener, ...]) -> None:
        """Show them, those who hear first; nothing where there are none."""
        self.setVisible(bool(found))
        if not found or found == self._shown:
            return
        self._shown = found
        hearing = sum(item.hears for item in found)
        self._head.setText(f"Heard by {hearing} of {len(found)}")
        rows = sorted(found, key=lambda item: not item.hears)
        texts = [(item.who, "hears" if item.hears else "does not hear", item.why) for item in rows]
        self.table.show_rows(
            ("Who", "Hears", "Because"), texts, ["ok" if item.hears else "ink2" for item in rows], mono=False
        )
        self.table.setFixedHeight(self.table.whole_height + 4)


class _CallChoice(QWidget):
    """Which call somebody makes: through which service, to whom, on which slot."""

    def __init__(self, bench: Workbench, changed: Callable[[], object]) -> None:
        super().__init__()
        self._bench = bench
        self._changed = changed
        self._shown: object = None
        form = QFormLayout(self)
        form.setContentsMargins(0, 0, 0, 0)
        self.call = QComboBox()
        self.call.setAccessibleName("The call that somebody makes")
        self.call.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.call.setMinimumContentsLength(36)
        form.addRow(QLabel("Somebody calls"), self.call)
        self.call.currentIndexChanged.connect(self._tell)

    def _tell(self, _at: int) -> None:
        if self.isVisible():
            self._changed()

    def refresh(self) -> None:
        """Offer the calls that somebody might make; the selected route's own comes first."""
        from umbra_awl.core.trace.silent import calls_to_ask

        route, index = self._bench.route, self._bench.index
        if route is None or (self._bench.plan, route.key) == self._shown:
            return
        self._shown = (self._bench.plan, route.key)
        self.call.blockSignals(True)
        self.call.clear()
        for service, destination, slot in calls_to_ask(index, route):
            self.call.addItem(index.labels.of(Route(service, destination, slot)), (service, destination, slot))
        self.call.setCurrentIndex(0)
        self.call.blockSignals(False)

    def chosen(self) -> tuple[str, str, int] | None:
        """The chosen call: service, destination, slot."""
        data = self.call.currentData()
        return tuple(data) if data is not None else None
