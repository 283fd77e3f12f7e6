"""The colours by their meaning, light (“paper”) and dark (“umbra”). Every text pair reaches at least 4.5 : 1."""

from typing import NamedTuple


class Tokens(NamedTuple):
    """One theme's colours, as #RRGGBB."""

    name: str
    bg: str
    panel: str
    sheet: str
    shade: str
    line: str
    ink: str
    ink2: str
    hole: str
    violet: str
    violet_tint: str
    brass: str
    brass_tint: str
    stop: str
    stop_tint: str
    ok: str
    ok_tint: str


PAPER = Tokens(
    "paper", "#EFEAE0", "#FAF8F3", "#FFFDF8", "#E4DCCD", "#D8D0C1", "#24211C", "#655E54", "#2B2733",
    "#4B3B90", "#E6E0F4", "#8A5508", "#F5E5C4", "#9E2F1C", "#F5DAD2", "#1B665F", "#D4EAE5",
)  # fmt: skip
UMBRA = Tokens(
    "umbra", "#141318", "#1D1B22", "#292731", "#0F0E12", "#38343F", "#ECE7DC", "#A69F93", "#F2EDE2",
    "#B5A6F5", "#302A52", "#E5B24E", "#3B2E14", "#F28C73", "#46221B", "#6FCABD", "#153733",
)  # fmt: skip

TEXT_PAIRS: tuple[tuple[str, str], ...] = (
    ("ink", "bg"), ("ink", "panel"), ("ink", "sheet"), ("ink", "shade"), ("ink", "violet_tint"), ("ink", "brass_tint"),
    ("ink", "stop_tint"), ("ink", "ok_tint"), ("ink2", "bg"), ("ink2", "panel"), ("ink2", "sheet"),
    ("violet", "bg"), ("violet", "panel"), ("violet", "sheet"), ("violet", "violet_tint"), ("panel", "violet"),
    ("brass", "panel"), ("brass", "brass_tint"), ("stop", "bg"), ("stop", "panel"), ("stop", "sheet"), ("stop", "stop_tint"),
    ("ok", "panel"), ("ok", "sheet"), ("ok", "ok_tint"), ("ok", "bg"),
)  # fmt: skip
"""Which colour is written on which."""


def contrast(one: str, other: str) -> float:
    """The contrast ratio of two colours, 1 to 21 (WCAG 2.2, relative luminance)."""
    high, low = sorted((_luminance(one), _luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def _luminance(color: str) -> float:
    channels = (int(color[at : at + 2], 16) / 255 for at in (1, 3, 5))
    linear = [value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4 for value in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]
