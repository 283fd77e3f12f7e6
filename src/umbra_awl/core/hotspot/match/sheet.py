"""The sheet: plan, radio and hotspot row by row; a thread where they agree, a cut where not, with what one would notice."""

from typing import Literal, NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.dmr import mask_id
from umbra_awl.core.facts.wording import within
from umbra_awl.core.hotspot.match.fields import FIELDS, MatchField, Values, plain, same, shown

Joint = Literal["joined", "cut", "open"]
"""Two values agree, differ, or one of them is not known."""


_SUFFIXED = 9


class MatchRow(NamedTuple):
    """One row: the three values as shown, how the plan is joined to the radio and to the hotspot, what one would notice."""

    field: MatchField
    plan: str
    radio: str
    hotspot: str
    to_radio: Joint
    to_hotspot: Joint

    @property
    def cut(self) -> bool:
        """Whether anything differs."""
        return "cut" in {self.to_radio, self.to_hotspot}

    @property
    def notice(self) -> str:
        """What one would notice in use; empty where nothing differs."""
        return self.field.notice if self.cut else ""


def masked(row: MatchRow) -> MatchRow:
    """The row as it may be seen by anybody: an ID but for its country.

    Its two last digits tell hotspots apart and are no secret of their own.
    """
    if row.field.key != "id":
        return row
    plan, radio, hotspot = (_hidden(text) for text in (row.plan, row.radio, row.hotspot))
    return row._replace(plan=plan, radio=radio, hotspot=hotspot)


def _hidden(text: str) -> str:
    if not text.isdecimal():
        return text
    return mask_id(int(text)) if len(text) < _SUFFIXED else f"{mask_id(int(text[:-2]))}{text[-2:]}"


def match_sheet(plan: Values, radio: Values, hotspot: Values) -> tuple[MatchRow, ...]:
    """The rows of which anything is known at all."""
    return tuple(
        _row(field, plan.get(field.key), radio.get(field.key), hotspot.get(field.key))
        for field in FIELDS
        if field.key in plan or field.key in radio or field.key in hotspot
    )


def _row(field: MatchField, plan: str | None, radio: str | None, hotspot: str | None) -> MatchRow:
    texts = [shown(field, item) if item is not None else "" for item in (plan, radio, hotspot)]
    to_radio = _within(field, plan, radio) if field.key == "slot" else _joint(field, plan, radio)
    return MatchRow(field, texts[0], texts[1], texts[2], to_radio, _joint(field, plan, hotspot))


def _joint(field: MatchField, plan: str | None, other: str | None) -> Joint:
    if plan is None or other is None:
        return "open"
    return "joined" if same(field, plan, other) else "cut"


def _within(field: MatchField, plan: str | None, radio: str | None) -> Joint:
    """A radio may use fewer slots than there are."""
    if plan is None or radio is None:
        return "open"
    return "joined" if set(plain(field, radio).split()) <= set(plain(field, plan).split()) else "cut"


def tally(rows: tuple[MatchRow, ...]) -> str:
    """The sheet in one line."""
    cuts = [within(row.field.words) for row in rows if row.cut]
    if cuts:
        return f"{counted(len(cuts), 'differs', 'differ')}: {', '.join(cuts[:4])}"
    known = sum("joined" in {row.to_radio, row.to_hotspot} for row in rows)
    return f"{known} of {len(rows)} agree, the rest is not known yet" if known < len(rows) else "Everything agrees"
