"""Field cards and key sheets as HTML pages that stand alone.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from functools import cache
from pathlib import Path
from typing import Any

from umbra_awl.core.paper.begin import BEFORE, begin_words
from umbra_awl.core.paper.field_card import FieldCard
from umbra_awl.core.paper.keysheet import NOT_BY_KEYS, KeySheet
from umbra_awl.core.paper.loading import loaded_how
from umbra_awl.core.paper.taps import runs

_TEMPLATES = Path(__file__).parent / "templates"


@cache
def _environment() -> Any:
    from jinja2 import Environment, FileSystemLoader, StrictUndefined

    return Environment(
        loader=FileSystemLoader(_TEMPLATES),
        autoescape=True,
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )


def card_html(card: FieldCard) -> str:
    """The field card as a page; its QR code is drawn into it."""
    from markupsafe import Markup

    code = ""
    if card.code:
        import segno

        code = Markup(segno.make(card.code, error="m", micro=False).svg_inline(scale=4))  # noqa: S704  (drawn by the library)
    return str(_environment().get_template("card.html.j2").render(card=card, code=code))


def keysheet_html(sheet: KeySheet, title: str, day: str) -> str:
    """The key sheet as a page."""
    template = _environment().get_template("keysheet.html.j2")
    return str(
        template.render(
            sheet=sheet,
            title=title,
            day=day,
            runs=runs,
            not_by_keys=NOT_BY_KEYS,
            loaded=loaded_how(sheet.profile),
            begin=(BEFORE, " ".join((begin_words(sheet.profile), *sheet.kept_to))),
        )
    )
