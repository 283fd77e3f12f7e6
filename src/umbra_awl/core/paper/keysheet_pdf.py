"""The key sheet on paper: for each memory its steps as rows of keys, the save step boxed."""

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.table import MODES
from umbra_awl.core.paper.begin import BEFORE, begin_words
from umbra_awl.core.paper.keys import KeyStep
from umbra_awl.core.paper.keysheet import NOT_BY_KEYS, Entered, KeySheet
from umbra_awl.core.paper.letters import LINE, MARGIN, PAGE_HEIGHT, PAGE_WIDTH, PAPER, SECOND, STOP, VIOLET, Paper
from umbra_awl.core.paper.loading import loaded_how
from umbra_awl.core.paper.taps import WAIT, runs

_KEY, _GAP, _ROW = 5.0, 0.8, 7.0
_LABEL = 46.0
_WIDTH = PAGE_WIDTH - 2 * MARGIN
_KEYS_WIDTH = _WIDTH - _LABEL - 24


def keysheet_pdf(sheet: KeySheet, title: str, day: str) -> bytes:
    """The sheet as a PDF; a memory is not broken over two pages unless it is longer than one."""
    return draw_keysheet(sheet, title, day, Paper(f"{title}: key sheet")).data()


def draw_keysheet(sheet: KeySheet, title: str, day: str, paper: Paper) -> Paper:
    """The sheet drawn behind what stands on a paper."""
    y = _begin(paper, sheet, _begin_page(paper, sheet, title, day)) if sheet.memories else PAGE_HEIGHT
    for entered in sheet.memories:
        height = _height(paper, entered)
        if y + height > PAGE_HEIGHT - MARGIN - 6:
            y = _begin_page(paper, sheet, title, day)
        y = _memory(paper, entered, y)
    if not sheet.memories:
        _begin_page(paper, sheet, title, day)
    return paper


def _begin_page(paper: Paper, sheet: KeySheet, title: str, day: str) -> float:
    paper.new_page()
    paper.text(MARGIN, MARGIN + 6, f"{title}: key sheet", 16, face="bold")
    many = f"{counted(len(sheet.memories), 'memory')}, about {counted(sheet.presses, 'press')}"
    words = f"{many} · {day} · page {paper.pages}"
    paper.text(PAGE_WIDTH - MARGIN - paper.width(words, 9), MARGIN + 6, words, 9, tone=SECOND)
    keypad = sheet.profile.keypad
    wait = f"“wait”: {keypad.wait_s:g} s, between letters on one key. " if keypad is not None else ""
    paper.text(MARGIN, MARGIN + 11, f"{wait}{NOT_BY_KEYS} Not while driving.", 9, tone=SECOND)
    return MARGIN + 15


def _begin(paper: Paper, sheet: KeySheet, y: float) -> float:
    """What must stand right before the first memory."""
    paper.box(MARGIN, y, _WIDTH, 7, fill=PAPER)
    paper.text(MARGIN + 2, y + 5, BEFORE, 12, face="strong")
    y += 7
    for line in paper.wrapped(
        " ".join((begin_words(sheet.profile), *loaded_how(sheet.profile), *sheet.kept_to)), 9, _WIDTH - 4
    ):
        y += 4.4
        paper.text(MARGIN + 2, y, line, 9, tone=SECOND)
    y += 2
    for step in sheet.begin:
        y = _step(paper, step, y)
    return y + 3


def _height(paper: Paper, entered: Entered) -> float:
    rows = sum(len(_lines(paper, step.keys)) for step in entered.steps) if entered.steps else 1
    return 8 + rows * _ROW + 3


def _memory(paper: Paper, entered: Entered, y: float) -> float:
    channel = entered.channel
    paper.box(MARGIN, y, _WIDTH, 7, fill=PAPER)
    paper.text(MARGIN + 2, y + 5, f"{channel.number:>3}  {entered.name}", 12, face="strong")
    words = f"{format_mhz(channel.rx_hz)} MHz {MODES[channel.mode].word()} · {counted(entered.presses, 'press')}"
    paper.text(PAGE_WIDTH - MARGIN - 2 - paper.width(words, 9, "mono"), y + 4.8, words, 9, face="mono", tone=SECOND)
    y += 8
    if entered.fault:
        paper.text(MARGIN + 2, y + 5, entered.fault, 10, tone=STOP)
        return y + _ROW + 3
    for step in entered.steps:
        y = _step(paper, step, y)
    return y + 3


def _step(paper: Paper, step: KeyStep, y: float) -> float:
    lines = _lines(paper, step.keys)
    if step.saves:
        paper.box(MARGIN, y, _WIDTH, len(lines) * _ROW, line=VIOLET, pen=0.5, round=1.5)
    paper.text(MARGIN + 2, y + 4.7, step.label, 9.5, face="bold" if step.saves else "sans", room=_LABEL - 3)
    paper.text(PAGE_WIDTH - MARGIN - 22, y + 4.7, step.shows, 9, face="mono", tone=SECOND, room=21)
    for keys in lines:
        x = MARGIN + _LABEL
        for key, count in keys:
            x += _cap(paper, key, count, x, y)
        y += _ROW
    if step.note:
        room = PAGE_WIDTH - MARGIN - 24 - x
        if paper.width(step.note, 7.5) < room:
            paper.text(x + 1.5, y - 2.4, step.note, 7.5, tone=SECOND)
    return y


def _cap_width(paper: Paper, key: str, count: int = 1) -> float:
    times = paper.width(f"×{count}", 8, "bold") + 1 if count > 1 else 0.0
    return max(_KEY, paper.width(key, 8, "strong") + 2) + times


def _cap(paper: Paper, key: str, count: int, x: float, y: float) -> float:
    """Draw one key, with how often it is pressed; the width it took."""
    width = _cap_width(paper, key)
    if key == WAIT:
        paper.text(x + 1, y + 4.6, key, 8, tone=VIOLET)
    else:
        paper.box(x, y + 0.8, width, _KEY, line=LINE, round=0.8)
        paper.text(x + (width - paper.width(key, 8, "strong")) / 2, y + 4.5, key, 8, face="strong")
    if count > 1:
        paper.text(x + width + 0.6, y + 4.6, f"×{count}", 8, face="bold", tone=VIOLET)
    return _cap_width(paper, key, count) + _GAP


def _lines(paper: Paper, keys: tuple[str, ...]) -> list[list[tuple[str, int]]]:
    """Keys in rows that fit between label and what the display shows."""
    rows: list[list[tuple[str, int]]] = [[]]
    used = 0.0
    for key, count in runs(keys):
        width = _cap_width(paper, key, count) + _GAP
        if used + width > _KEYS_WIDTH and rows[-1]:
            rows.append([])
            used = 0.0
        rows[-1].append((key, count))
        used += width
    return rows
