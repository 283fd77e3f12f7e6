"""The band scan on paper: a line a frequency with what is known there, and room for what is heard."""

from collections.abc import Sequence

from umbra_awl.core.agenda.listening import GroupLine, ScanLine
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.paper.letters import LINE, MARGIN, PAGE_HEIGHT, PAGE_WIDTH, SECOND, VIOLET, Paper

_WIDE = PAGE_WIDTH - 2 * MARGIN
_STEP, _FOOT = 6.4, PAGE_HEIGHT - MARGIN - 10
_WHAT, _ROOM = MARGIN + 30, MARGIN + 108
_MOST_GROUPS = 20
CAUTION = "Listening only: keep free tuning from sending. What one may listen to, and pass on, is decided by local law."


def scan_pdf(plan: str, lines: Sequence[ScanLine], groups: Sequence[GroupLine], busiest: str, day: str) -> bytes:
    """The scan, then the groups in their order, as a PDF on as many A4 pages as it takes. Raises PaperError."""
    paper = Paper(f"{plan}: where to begin listening")
    y = _head(paper, "Through the band, from its lower edge up", busiest, day)
    for line in lines:
        if y > _FOOT:
            y = _head(paper, "Through the band, continued", "", day)
        paper.box(MARGIN, y - 3.6, 3.6, 3.6, line=LINE)
        paper.text(MARGIN + 6, y, format_mhz(line.hz), 10.5, face="mono")
        paper.text(_WHAT, y, " · ".join(filter(None, (line.what, line.reach))), 9.5, room=_ROOM - _WHAT - 3)
        if line.heard_words:
            paper.text(_ROOM, y, line.heard_words, 9, tone=SECOND, room=MARGIN + _WIDE - _ROOM)
        else:
            paper.box(_ROOM, y + 0.6, MARGIN + _WIDE - _ROOM, 0.2, fill=LINE)
        y += _STEP
    y = y + 4 if y < _FOOT - 8 * _STEP else _head(paper, "Then the groups, quiet and local first", "", day)
    paper.text(MARGIN, y, "Then the groups, quiet and local first", 12, face="bold", tone=VIOLET)
    for at, group in enumerate(groups[:_MOST_GROUPS], 1):
        y += _STEP
        if y > _FOOT:
            y = _head(paper, "The groups, continued", "", day)
        paper.text(MARGIN, y, f"{at}", 9.5, tone=SECOND)
        paper.text(MARGIN + 8, y, group.label, 10, room=_ROOM - MARGIN - 10)
        paper.text(_ROOM, y, group.why, 9, tone=SECOND, room=MARGIN + _WIDE - _ROOM)
    return paper.data()


def _head(paper: Paper, title: str, told: str, day: str) -> float:
    paper.new_page()
    paper.text(MARGIN, MARGIN + 6, title, 15, face="bold", room=_WIDE - 40)
    paper.text(PAGE_WIDTH - MARGIN - 38, MARGIN + 6, f"page {paper.pages} · {day}", 9, tone=SECOND)
    paper.text(MARGIN, PAGE_HEIGHT - MARGIN, CAUTION, 8, tone=SECOND, room=_WIDE)
    if told:
        paper.text(MARGIN, MARGIN + 12, told, 9.5, tone=SECOND, room=_WIDE)
    return MARGIN + 20
