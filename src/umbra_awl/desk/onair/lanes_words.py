"""What is written between the lanes: the scale of time, cuts with their reasons, notes of what changed."""

import bisect

from PyQt6.QtCore import QPointF, QRectF, Qt
from PyQt6.QtGui import QFontMetricsF, QPainter, QPen

from umbra_awl.core.simulation.told import NETWORK, Book, Cut
from umbra_awl.desk.onair.lanes_geometry import Geometry
from umbra_awl.desk.parts.thread import cross, stitch
from umbra_awl.desk.theme.theme import Theme

_TICKS = (1, 2, 5, 10, 20, 60, 120, 300)
_LONG_S = 160
_MIDDLE = Qt.AlignmentFlag.AlignVCenter


def moment_words(seconds: float, span_s: float) -> str:
    """A moment as it stands under the lanes."""
    whole = int(seconds)
    return f"{whole // 60}:{whole % 60:02d}" if span_s > _LONG_S else f"{whole} s"


def paint_scale(painter: QPainter, theme: Theme, at: Geometry, now: float) -> None:
    """The moments under the lanes, none under “now”, and a hair line for each lane."""
    px, box = theme.px, at.box
    painter.setFont(theme.font(12, mono=True))
    step = next((item for item in _TICKS if box.width() * item / at.span_s >= px(64)), _TICKS[-1])
    first = int(at.begin_s // step) * step
    painter.setPen(theme.color("ink2"))
    for tick in (first + step * count for count in range(int(at.span_s / step) + 2)):
        x = at.x(tick)
        if box.left() - 1 <= x <= box.right() - px(20) and abs(x - at.x(now)) >= px(48):
            under = QRectF(x - px(30), box.bottom() + px(4), px(60), px(18))
            painter.drawText(under, Qt.AlignmentFlag.AlignHCenter, moment_words(tick, at.span_s))
    painter.setPen(QPen(theme.color("line"), 1))
    for lane in at.places.values():
        painter.drawLine(QPointF(box.left(), at.y(lane)), QPointF(box.right(), at.y(lane)))


def paint_now(painter: QPainter, theme: Theme, at: Geometry, now: float) -> None:
    """The line of the present moment."""
    px, box, x = theme.px, at.box, at.x(now)
    painter.setPen(QPen(theme.color("brass"), 1.6))
    painter.drawLine(QPointF(x, box.top()), QPointF(x, box.bottom()))
    painter.setFont(theme.font(12, mono=True, weight=600))
    flag = QRectF(x - px(26), box.bottom() + px(3), px(52), px(19))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("brass_tint"))
    painter.drawRoundedRect(flag, 4, 4)
    painter.setPen(theme.color("brass"))
    painter.drawText(flag, Qt.AlignmentFlag.AlignCenter, moment_words(now, at.span_s))


def paint_cuts(painter: QPainter, theme: Theme, at: Geometry, book: Book) -> None:
    """Every cut in sight: its thread, its cross, and its reason where there is room for it; the latest first."""
    px = theme.px
    first = bisect.bisect_left([item.at for item in book.cuts], at.begin_s)
    found = [cut for cut in reversed(book.cuts[first:]) if cut.lane in at.places]
    ends = [_thread_end(painter, theme, at, cut) for cut in found]
    taken = [QRectF(end.x() - px(7), end.y() - px(7), px(14), px(14)) for end in ends]
    for cut, end in zip(found, ends, strict=True):
        _paint_reason(painter, theme, at, (cut.reason, end, taken))
    for end in ends:
        cross(painter, end, theme.color("stop"))


def _thread_end(painter: QPainter, theme: Theme, at: Geometry, cut: Cut) -> QPointF:
    """Draw the thread of an over to where it is cut; what comes from the network goes up to you."""
    up, lane = cut.lane == NETWORK, at.places[cut.lane]
    x, y = at.x(cut.at), at.y(lane)
    other = at.y(max(lane - 1, 0) if up else min(lane + 1, len(at.places) - 1))
    end = QPointF(x, y + (other - y) * 0.55)
    stitch(painter, QPointF(x, y + at.bar / 2 * (-1 if up else 1)), end, theme.color("stop"), solid=False)
    return end


def _paint_reason(painter: QPainter, theme: Theme, at: Geometry, told: tuple[str, QPointF, list[QRectF]]) -> None:
    """Write why beside a cut, where nothing else is written."""
    px, box = theme.px, at.box
    reason, end, taken = told
    font = theme.font(12, weight=600)
    metrics = QFontMetricsF(font)
    width = min(metrics.horizontalAdvance(reason) + 4, box.width() * 0.7)
    right = end.x() + px(12) + width < box.right()
    words = QRectF(end.x() + px(12) if right else end.x() - px(12) - width, end.y() - px(9), width, px(18))
    if words.left() < box.left() or any(words.intersects(item) for item in taken):
        return
    taken.append(words)
    painter.setFont(font)
    painter.fillRect(words.adjusted(-2, 1, 2, -1), theme.color("sheet"))
    painter.setPen(theme.color("stop"))
    painter.drawText(words, _MIDDLE, metrics.elidedText(reason, Qt.TextElideMode.ElideRight, width))


def paint_notes(painter: QPainter, theme: Theme, at: Geometry, book: Book) -> None:
    """What changed in a lane, under its bars; where there is no room between the lanes, it is told beside only."""
    px, box = theme.px, at.box
    if at.each < px(38):
        return
    painter.setFont(theme.font(12))
    metrics = QFontMetricsF(theme.font(12))
    painter.setPen(theme.color("ok"))
    ends: dict[int, float] = {}
    for note in book.notes:
        lane, x = at.places.get(note.lane), at.x(note.at)
        if lane is None or not box.left() - px(200) <= x <= box.right():
            continue
        width = metrics.horizontalAdvance(note.words) + 4
        left = min(max(x, ends.get(lane, 0.0) + px(10)), box.right() - width)
        if left < ends.get(lane, 0.0):
            continue
        ends[lane] = left + width
        under = at.y(lane) + at.bar / 2
        painter.drawText(QRectF(left, under + 1, width, px(16)), _MIDDLE, note.words)
        painter.drawLine(QPointF(x, under), QPointF(x, under + px(4)))
