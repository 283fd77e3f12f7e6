"""The field card on paper: two columns, letters as large as one or two pages allow."""

from collections.abc import Callable, Iterator
from typing import NamedTuple

from umbra_awl.core.paper.field_card import CardRow, FieldCard
from umbra_awl.core.paper.letters import (
    INK,
    MARGIN,
    MM_PER_POINT,
    PAGE_HEIGHT,
    PAGE_WIDTH,
    PAPER,
    SECOND,
    STOP,
    VIOLET,
    Paper,
)

SIZES = (16.0, 15.0, 14.0, 13.0, 12.0, 11.0, 10.0, 9.0, 8.0, 7.0)
MOST_PAGES = 2
_GAP, _HEAD, _FOOT = 6.0, 16.0, 8.0
_COLUMNS = 2
_CODE_MM = 44.0
_WIDTH = (PAGE_WIDTH - 2 * MARGIN - _GAP) / _COLUMNS


class _Block(NamedTuple):
    """Something that stands in a column: its height, how it is drawn at (x, y), and whether the next one stays with it.

    `under` is the heading that is said again where a column begins with this block.
    """

    height: float
    draw: Callable[[Paper, float, float], None]
    heads: bool = False
    under: "_Block | None" = None


class Printed(NamedTuple):
    """A finished card: the file, its pages, and the size of its letters in points."""

    data: bytes
    pages: int
    size: float


def card_pdf(card: FieldCard) -> Printed:
    """The card with the largest letters that keep it to two pages; at the smallest size it may take more."""
    paper, size = draw_card(card)
    return Printed(paper.data(), paper.pages, size)


def draw_card(card: FieldCard, paper: Paper | None = None) -> tuple[Paper, float]:
    """The card drawn onto a paper of its own, or behind what stands on one; and the size of its letters, in points."""
    for size in SIZES:
        tried = _drawn(card, size, Paper(f"{card.title}: field card"))
        if tried.pages <= MOST_PAGES or size == SIZES[-1]:
            break
        tried.drop()
    if paper is None:
        return tried, size
    tried.drop()
    return _drawn(card, size, paper), size


def _drawn(card: FieldCard, size: float, paper: Paper) -> Paper:
    columns = _columns(list(_blocks(card, size, paper)))
    for at, blocks in enumerate(columns):
        if at % _COLUMNS == 0:
            _begin_page(paper, card)
        x, y = MARGIN + at % _COLUMNS * (_WIDTH + _GAP), MARGIN + _HEAD
        for block in blocks:
            block.draw(paper, x, y)
            y += block.height
    return paper


def _columns(blocks: list[_Block]) -> list[list[_Block]]:
    """Blocks poured into columns; a heading moves on with what follows it."""
    room = PAGE_HEIGHT - 2 * MARGIN - _HEAD - _FOOT
    columns: list[list[_Block]] = [[]]
    left = room
    for at, block in enumerate(blocks):
        needed = block.height + (blocks[at + 1].height if block.heads and at + 1 < len(blocks) else 0.0)
        if needed > left and columns[-1]:
            columns.append([block.under] if block.under is not None else [])
            left = room - (block.under.height if block.under is not None else 0.0)
        columns[-1].append(block)
        left -= block.height
    return columns


def _begin_page(paper: Paper, card: FieldCard) -> None:
    paper.new_page()
    y = MARGIN + 7
    paper.text(MARGIN, y, card.title, 20, face="bold", room=110)
    owner = paper.width(card.owner, 13, "strong")
    paper.text(PAGE_WIDTH - MARGIN - owner, y, card.owner, 13, face="strong")
    paper.rule(MARGIN, y + 3, PAGE_WIDTH - 2 * MARGIN)
    foot = f"{card.plan} · {card.day} · page {paper.pages}"
    paper.text(MARGIN, PAGE_HEIGHT - MARGIN, foot, 8, tone=SECOND)


def _blocks(card: FieldCard, size: float, paper: Paper) -> Iterator[_Block]:
    line = size * MM_PER_POINT * 1.32
    for zone in card.zones:
        yield _heading(zone.name, size, line)
        again = _heading(f"{zone.name} (continued)", size, line)
        for row in zone.rows:
            yield _Block(line * 1.72, _row_drawer(row, size, line), under=again)
        yield _Block(line * 0.5, lambda _paper, _x, _y: None)
    for title, steps in card.how_to:
        yield _heading(title, size, line)
        yield from _sentences(steps, size, line, paper)
    yield _heading("Care", size, line)
    yield from _sentences(card.cautions, size, line, paper)
    if card.code:
        yield _Block(_CODE_MM + 8, _code_drawer(card))


def _heading(text: str, size: float, line: float) -> _Block:
    def draw(paper: Paper, x: float, y: float) -> None:
        paper.box(x, y, _WIDTH, line * 1.1, fill=PAPER)
        paper.text(x + 1.5, y + line * 0.82, text, size, face="bold", tone=VIOLET, room=_WIDTH - 3)

    return _Block(line * 1.3, draw, heads=True)


def _row_drawer(row: CardRow, size: float, line: float) -> Callable[[Paper, float, float], None]:
    def draw(paper: Paper, x: float, y: float) -> None:
        foot = y + line * 0.8
        paper.text(x, foot, str(row.place), size * 0.8, face="mono", tone=SECOND)
        mhz = paper.width(row.mhz, size, "mono")
        paper.text(x + _WIDTH - mhz, foot, row.mhz, size, face="mono")
        left = x + size * 0.62
        paper.text(left, foot, row.name, size, face="strong", room=_WIDTH - mhz - size * 0.62 - 4)
        second = foot + line * 0.66
        at = left
        if row.receive_only:
            at += paper.text(at, second, "RX ", size * 0.68, face="bold", tone=STOP) + 1
        at += paper.text(at, second, row.opens, size * 0.68, face="mono", tone=SECOND)
        if row.calls:
            calls = paper.width(row.calls, size * 0.68, "mono")
            paper.text(max(at + 2, x + _WIDTH - calls), second, row.calls, size * 0.68, face="mono", tone=SECOND)
        paper.rule(x, y + line * 1.64, _WIDTH)

    return draw


def _sentences(steps: tuple[str, ...], size: float, line: float, paper: Paper) -> Iterator[_Block]:
    small = max(size * 0.82, 7.0)
    for step in steps:
        rows = paper.wrapped(step, small, _WIDTH - 5)
        yield _Block(line * 0.86 * len(rows) + 1, _text_drawer(rows, small, line * 0.86))


def _text_drawer(rows: list[str], size: float, line: float) -> Callable[[Paper, float, float], None]:
    def draw(paper: Paper, x: float, y: float) -> None:
        paper.text(x + 0.6, y + line * 0.8, "·", size, face="bold", tone=VIOLET)
        for at, row in enumerate(rows):
            paper.text(x + 4, y + line * (at + 0.8), row, size, tone=INK)

    return draw


def _code_drawer(card: FieldCard) -> Callable[[Paper, float, float], None]:
    def draw(paper: Paper, x: float, y: float) -> None:
        paper.code(x, y + 4, _CODE_MM, card.code)
        words = f"Access points and talk groups of this plan, to read with a phone. No IDs. {card.code_note}".strip()
        for at, row in enumerate(paper.wrapped(words, 9, _WIDTH - _CODE_MM - 4)):
            paper.text(x + _CODE_MM + 3, y + 8 + at * 4.4, row, 9, tone=SECOND)

    return draw
