"""A hotspot's settings file: opened, understood, confirmed and saved."""

from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QFileDialog

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.hotspot.match.fields import BY_KEY, Values, same
from umbra_awl.core.hotspot.match.file import SettingsFile, read_settings_file, read_settings_layout
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.forms import FORM_WORDS, read_pairs
from umbra_awl.core.hotspot.match.layout import (
    SettingsLayout,
    asked_keys,
    confirmed,
    guessed,
    layout_text,
    own_layouts,
    read_settings,
    shipped_layouts,
    tried,
    unreached,
    words_of,
    write_settings,
)
from umbra_awl.core.hotspot.match.says import plan_says
from umbra_awl.core.hotspot.match.sending import sending_refusal
from umbra_awl.core.keep.limits import SETTINGS_BYTES, plain_reason, read_within
from umbra_awl.desk.parts.asking import ask_choices
from umbra_awl.desk.parts.saving import ask_place, put, refusal

if TYPE_CHECKING:
    from umbra_awl.desk.hotspots.match.match_page import MatchPage


_KINDS = "Settings (*.ini *.conf *.cfg *.json *.env *.txt);;All files (*)"


Choice = tuple[str, Callable[[], object]]


class FileInHand:
    """Reads and writes the file for a page."""

    def __init__(self, owner: "MatchPage") -> None:
        self._page = owner

    def layouts(self) -> Iterator[Choice]:
        own = own_layouts(self._page.spot.bench.profiles.folder / "settings")
        for item in (*shipped_layouts(), *own):
            yield item.name, partial(self._use, item)
        yield "From a file …", self.ask_layout

    def _use(self, layout: SettingsLayout) -> None:
        self._page.spot.layout = layout
        self._page.spot.changed.emit()
        self._try()

    def _try(self) -> None:
        """Write the plan's values by the layout, read them back, and say what was lost."""
        spot = self._page.spot
        hotspot, access = spot.hotspot, spot.access
        if hotspot is None or access is None:
            return
        text = spot.settings if spot.source != "its page" or spot.layout.form == "ini" else ""
        begin = text or ("{}" if spot.layout.form == "json" else "")
        try:
            lost = tried(begin, spot.layout, plan_says(spot.bench.index, access, hotspot))
        except FormError as error:
            self._page.tried.setText(str(error))
            return
        reached = len({key.field for key in spot.layout.key})
        told = f"Tried by writing and reading back: {reached} fields, "
        self._page.tried.setText(
            told + ("nothing lost." if not lost else f"lost: {', '.join(item.field.words for item in lost)}.")
        )

    def ask_open(self) -> None:
        """Ask for a settings file of the hotspot."""
        path, _kind = QFileDialog.getOpenFileName(self._page, "The hotspot's settings", str(Path.home()), _KINDS)
        if path:
            self.open_file(Path(path))

    def open_file(self, path: Path) -> None:
        """Read a settings file by the layout, or by one that is guessed where the layout finds nothing in it."""
        self._read(path, self._opened)

    def _read(self, path: Path, done: Callable[[SettingsFile], None]) -> None:
        spot = self._page.spot

        def failed(error: Exception) -> None:
            spot.settings = ""
            spot.bench.say(f"“{path.name}” cannot be used: {plain_reason(error)}", "stop")

        spot.bench.jobs.read(
            "settings-file", read_settings_file, path, spot.layout, self._planned(), done=done, failed=failed
        )

    def _planned(self) -> Values:
        """What the plan has for the hotspot in hand."""
        hotspot, access = self._page.spot.hotspot, self._page.spot.access
        return plan_says(self._page.spot.bench.index, access, hotspot) if hotspot and access else {}

    def _opened(self, file: SettingsFile) -> None:
        spot = self._page.spot
        spot.settings, spot.source, spot.layout = file.text, f"“{file.name}”", file.layout
        spot.changed.emit()
        self._try()

    def ask_save(self) -> None:
        """Ask where the settings go, in the hotspot's own form; a file that is there is kept but for our fields."""
        spot = self._page.spot
        hotspot, access = spot.hotspot, spot.access
        if hotspot is None or access is None:
            return
        why = sending_refusal(spot.bench.index, access, hotspot)
        if why:
            spot.bench.say(why, "stop")
            return
        if not self._confirm(plan_says(spot.bench.index, access, hotspot)):
            return
        place = ask_place(self._page, "The hotspot's settings", f"{hotspot.key}.{spot.layout.form}", _KINDS)
        if place is None:
            return
        try:
            begin = read_within(place.path, SETTINGS_BYTES).decode() if place.replace else spot.settings
            text = write_settings(
                begin or ("{}" if spot.layout.form == "json" else ""),
                spot.layout,
                plan_says(spot.bench.index, access, hotspot),
            )
            put(place, text.encode())
        except (FormError, UnicodeDecodeError) as error:
            spot.bench.say(f"“{place.path.name}” was not written: {error}", "stop")
        except OSError as error:
            spot.bench.say(refusal(place.path, error), "stop")
        else:
            left = unreached(spot.layout, plan_says(spot.bench.index, access, hotspot))
            missing = f" Not in it, since no key is known for it: {', '.join(left)}." if left else ""
            said = f"Saved. Everything else in “{place.path.name}” stays as it was; no password is in it.{missing}"
            spot.bench.say(said, "report" if left else "say")

    def _confirm(self, values: Values) -> bool:
        """Have the keys that were guessed confirmed before anything is written. False where it was given up."""
        spot = self._page.spot
        asked = asked_keys(spot.layout)
        if not asked:
            return True
        held = read_pairs(spot.settings, spot.layout.form) if spot.settings else {}
        labels = {f"{key.at} = {held.get(key.at, '')} is “{words_of(key)}”": key for key in asked}
        ours = read_settings(spot.settings, spot.layout) if spot.settings else {}
        sure = tuple(
            label
            for label, key in labels.items()
            if key.field in values and key.field in ours and same(BY_KEY[key.field], ours[key.field], values[key.field])
        )
        question = (
            "These keys were guessed. Tick what is meant so; what is not ticked is never written. Those that hold what the "
            "plan says are ticked already."
        )
        taken = ask_choices(self._page, "Which key is what?", question, tuple(labels), sure, "Save these")
        if not taken:
            return False
        self._use(confirmed(spot.layout, [labels[label].at for label in taken]))
        return True

    def ask_layout(self) -> None:
        """Ask for a layout file."""
        path, _kind = QFileDialog.getOpenFileName(self._page, "A settings layout", str(Path.home()), "Layouts (*.toml)")
        if path:
            self._page.spot.bench.jobs.read(
                "settings-layout",
                read_settings_layout,
                Path(path),
                done=self._use,
                failed=lambda error: self._page.spot.bench.say(plain_reason(error), "stop"),
            )

    def ask_make(self) -> None:
        """Make a layout from a sample file, use it, and save it."""
        path, _kind = QFileDialog.getOpenFileName(self._page, "A sample of its settings", str(Path.home()), _KINDS)
        if path:
            self._read(Path(path), self._make)

    def _make(self, file: SettingsFile) -> None:
        spot, stem = self._page.spot, Path(file.name).stem
        self._opened(file)
        self._use(guessed(file.text, stem[:60], self._planned()))
        place = ask_place(self._page, "Save the layout", f"{stem}.toml", "Layouts (*.toml)", ".toml")
        if place is not None:
            try:
                put(place, layout_text(spot.layout).encode())
            except OSError as error:
                spot.bench.say(refusal(place.path, error), "stop")
                return
            spot.bench.say(
                f"Saved as {FORM_WORDS[spot.layout.form]} layout with {counted(len(spot.layout.key), 'key')}."
            )
