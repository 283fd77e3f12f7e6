"""Settings files as keys and values: JSON, INI, KEY=VALUE, sections by indentation. Only what is asked for is changed.

A key is told as “section.key” (INI, indented), as a path of names (JSON, “modem.tx”), or as it stands (KEY=VALUE). Everything
else stays byte for byte: the layout, a mark of the byte order, how keys are written, comments behind values. Of a key that
stands twice the last one counts, in reading as in writing.
"""

from typing import Literal

from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.json_form import read_json, write_json
from umbra_awl.core.hotspot.match.line_forms import line_form, read_lines, write_lines

Form = Literal["ini", "json", "env", "indented", "words"]
FORM_WORDS: dict[Form, str] = {
    "ini": "INI",
    "json": "JSON",
    "env": "KEY=VALUE",
    "indented": "indented",
    "words": "KEY VALUE",
}
MOST_KEYS = 5_000
BOM = "\ufeff"
_KNOWN = "a key, an equals sign or a colon, a value; sections in brackets or by indentation; or a JSON object"


def form_of(text: str) -> Form:
    """Which form a text is in, by how it begins and how its lines are made."""
    text = text.removeprefix(BOM)
    return "json" if text.lstrip().startswith("{") else line_form(text)


def read_pairs(text: str, form: Form) -> dict[str, str]:
    """Every key of a file with its value as text; the last of several alike counts. Raises FormError."""
    text = text.removeprefix(BOM)
    made = read_json(text) if form == "json" else read_lines(text, form)
    if not made:
        raise FormError(f"There is no setting in it: {_KNOWN}.")
    if len(made) > MOST_KEYS:
        raise FormError(f"It has more than {MOST_KEYS} settings and is no hotspot's.")
    return made


def write_pairs(text: str, form: Form, values: dict[str, str]) -> str:
    """The file with these values in place of its own; keys that it has not are added. Raises FormError."""
    for value in values.values():
        if any(not char.isprintable() for char in value):
            raise FormError("A value has a line break or a control character in it; settings files cannot hold that.")
    mark = BOM if text.startswith(BOM) else ""
    text = text.removeprefix(BOM)
    return mark + (write_json(text, values) if form == "json" else write_lines(text, form, values))
