"""Labels for radios that were programmed: whose, which radio, the names of its zones; no ID, nothing that is not public."""

from collections.abc import Sequence
from typing import NamedTuple

from umbra_awl.core.paper.letters import LINE, MARGIN, PAGE_HEIGHT, PAGE_WIDTH, SECOND, Paper
from umbra_awl.core.radio.memory import Memory

_COLUMNS, _ROWS = 2, 5
_MOST_ZONES = 8


class Label(NamedTuple):
    """What stands on a label."""

    call: str
    radio: str
    zones: tuple[str, ...]
    loaded: str
    day: str


def label_of(memory: Memory, radio: str, loaded: str, day: str) -> Label:
    """The label of a radio that holds a memory; `loaded` says how it is loaded, in a few words."""
    return Label(memory.call, radio, tuple(zone.name for zone in memory.zones), loaded, day)


def labels_pdf(labels: Sequence[Label], title: str) -> bytes:
    """A sheet of labels, ten on an A4 page, to be cut apart. Raises PaperError."""
    return draw_labels(labels, Paper(f"{title}: labels")).data()


def draw_labels(labels: Sequence[Label], paper: Paper) -> Paper:
    """The labels drawn behind what stands on a paper."""
    wide, high = (PAGE_WIDTH - 2 * MARGIN) / _COLUMNS, (PAGE_HEIGHT - 2 * MARGIN) / _ROWS
    for at, label in enumerate(labels):
        place = at % (_COLUMNS * _ROWS)
        if not place:
            paper.new_page()
        x, y = MARGIN + place % _COLUMNS * wide, MARGIN + place // _COLUMNS * high
        paper.box(x, y, wide - 2, high - 2, line=LINE)
        _draw(paper, label, (x + 4, y + 4), wide - 10)
    return paper


def _draw(paper: Paper, label: Label, at: tuple[float, float], wide: float) -> None:
    x, y = at
    paper.text(x, y + 6, label.call or "–", 20, face="strong", room=wide)
    paper.text(x, y + 13, label.radio, 11, face="bold", room=wide)
    shown = [*label.zones[:_MOST_ZONES], *(["…"] if len(label.zones) > _MOST_ZONES else [])]
    for line, text in enumerate(paper.wrapped(" · ".join(shown), 10, wide, "mono")[:4]):
        paper.text(x, y + 20 + 5 * line, text, 10, face="mono", room=wide)
    paper.text(x, y + 41, label.loaded, 8, tone=SECOND, room=wide)
    paper.text(x, y + 45, label.day, 8, tone=SECOND)
