"""Beside the phone-app page: which apps there are for the radio, what each carries and needs, and what it is to set."""

from collections.abc import Iterator, Mapping
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QWidget

from umbra_awl.core.fit.choices import set_settings
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.ways_in import App, AppPart
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.field_list import FieldList
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field
from umbra_awl.desk.parts.widgets import clear, column, words
from umbra_awl.desk.runs.runner import Runner

_AS_IT_IS = "as it is"
_LINKS = {"wireless": "wireless", "cable": "a data cable"}
_ALL: tuple[AppPart, ...] = (
    "access list", "call signs", "identity", "message", "power", "data", "fast data", "position", "units",
)  # fmt: skip


class AppSide(QWidget):
    """What the app is to set above, what the apps can below."""

    def __init__(self, bench: Workbench, runner: Runner) -> None:
        super().__init__()
        self._bench, self._runner = bench, runner
        outer = column(self, 8)
        outer.addWidget(words("What the app sets", "title"))
        self.fields = FieldList(96)
        outer.addWidget(self.fields)
        outer.addWidget(words("Apps for this radio", "title"))
        self._apps = column(None, 4)
        outer.addLayout(self._apps)
        outer.addStretch(1)
        self._shown: tuple[object, ...] = ()

    def refresh(self) -> None:
        """Show the chosen radio's."""
        radio, profile = self._bench.radio, self._runner.profile
        if radio is None or profile is None or (radio, profile.apps) == self._shown:
            return
        self._shown = (radio, profile.apps)
        self.fields.show_fields(list(self._settings(radio, profile)), about=radio.key)
        clear(self._apps)
        for app in profile.apps:
            for text, role in _said(app):
                self._apps.addWidget(words(text, role, wrap=True))

    def _settings(self, radio: OwnedRadio, profile: Profile) -> Iterator[Field]:
        carried = {part for app in profile.apps for part in app.carries}
        longest = max((app.message for app in profile.apps), default=20)
        if "message" in carried:
            text = radio.settings.message
            tip = f"Up to {longest} characters, shown on the other's display"
            yield Field(
                "Message", text or _AS_IT_IS, True, commit=self._message(radio, longest), text=text or "", tip=tip
            )
        for part, label, field, options in (
            ("data", "Data", "data_by_itself", {None: _AS_IT_IS, False: "only with the key", True: "by itself"}),
            ("fast data", "Fast data", "fast_data", {None: _AS_IT_IS, True: "on", False: "off"}),
            ("units", "Speed", "units", {None: _AS_IT_IS, "km/h": "km/h", "knots": "knots"}),
        ):
            if part in carried:
                yield self._one(radio, label, field, options)

    def _one(self, radio: OwnedRadio, label: str, field: str, options: Mapping[Any, str]) -> Field:
        now = getattr(radio.settings, field)
        choices = [
            Choice(text, partial(self._set, radio, label, field, value), value == now)
            for value, text in options.items()
        ]
        return Field(label, options[now], choices=choices)

    def _set(self, radio: OwnedRadio, label: str, field: str, value: Any) -> None:
        self._bench.do(set_settings(radio, f"{label} by the app of {radio.name}", **{field: value}))

    def _message(self, radio: OwnedRadio, longest: int) -> Commit:
        def commit(text: str) -> str:
            if len(text) > longest:
                return f"“{text}” has {len(text)} characters; the app takes {longest}."
            self._set(radio, "Message", "message", text or None)
            return ""

        return commit


def _said(app: App) -> Iterator[tuple[str, str]]:
    """What is known of one app: what it reaches, carries, lacks, needs, and of which day that is."""
    yield f"{app.platform}: by {' or '.join(_LINKS[link] for link in app.links)}", ""
    lacking = [part for part in _ALL if part not in app.carries]
    if lacking:
        yield f"does not carry {', '.join(lacking)}", "brass"
    if app.needs:
        yield f"needs {app.needs}", "brass"
    yield f"as known on {app.known}" if app.known else "of unknown age: look before you buy", "second"
