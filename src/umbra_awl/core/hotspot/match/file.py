"""A settings file and a layout's file as they are opened: read within limits, with the layout that finds something in it."""

from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.hotspot.match.fields import Values
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.layout import SettingsLayout, guessed, parse_layout, read_settings
from umbra_awl.core.keep.limits import SETTINGS_BYTES, read_within


class SettingsFile(NamedTuple):
    """The file's name and text, and the layout to read it by."""

    name: str
    text: str
    layout: SettingsLayout


def read_settings_file(path: Path, layout: SettingsLayout, planned: Values | None = None) -> SettingsFile:
    """A file of settings, by a layout, or by one that is guessed where that finds nothing. Raises OSError and FormError.

    `planned` are the plan's values for this hotspot: the best evidence of which key is what.
    """
    text = read_within(path, SETTINGS_BYTES).decode("utf-8", "replace")
    try:
        fits = bool(read_settings(text, layout))
    except FormError:
        fits = False
    return SettingsFile(path.name, text, layout if fits else guessed(text, path.stem[:60], planned))


def read_settings_layout(path: Path) -> SettingsLayout:
    """A layout out of its file. Raises OSError and LayoutError."""
    return parse_layout(read_within(path, SETTINGS_BYTES).decode("utf-8", "replace"), path.name)
