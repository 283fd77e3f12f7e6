"""A text before it goes out: how long it may be, to whom, and whether the position goes along."""

from typing import NamedTuple

from umbra_awl.core.facts.callsign import call_sign_fault, tidy_call_sign
from umbra_awl.core.facts.earth import locator_of
from umbra_awl.core.messages.carriers import Carrier
from umbra_awl.core.messages.frames import Text
from umbra_awl.core.plan.model import Station
from umbra_awl.core.plan.sharing import private_position

QUICK_TEXTS = (
    "On my way",
    "Please call me by voice",
    "Arrived, all well",
    "Signal is weak here, moving",
    "Do you copy? Please answer",
    "QRX five minutes",
    "Thank you, 73",
)
"""Offered where a radio's plan has none of its own."""


class Draft(NamedTuple):
    """A text in the making: what, to whom (empty: everybody), whether the position goes along."""

    text: str
    to: str = ""
    position: bool = True


def draft_fault(draft: Draft, carrier: Carrier) -> str:
    """Why a text cannot go out as it is, as a sentence; empty when it can."""
    text = draft.text.strip()
    if not text:
        return "There is nothing to send yet. Type a text, or take a quick one."
    if len(text) > carrier.text_length:
        over = len(text) - carrier.text_length
        return f"{over} characters too long: {carrier.words} carries {carrier.text_length}. Shorten it, or send two."
    if any(not char.isprintable() for char in text):
        return "It has a character that cannot be shown. Type it again without."
    return call_sign_fault(draft.to) if draft.to else ""


def make_text(draft: Draft, call: str, station: Station) -> Text:
    """The text as it goes out, with the position as exactly as the plan lets it be known, or none."""
    to = tidy_call_sign(draft.to) if draft.to else ""
    return Text(call, draft.text.strip(), to, position_words(station) if draft.position else "")


def position_words(station: Station) -> str:
    """The position that goes along: a locator, or degrees where the plan says exactly; empty where none is to be told."""
    if station.lat is None or station.lon is None:
        return ""
    shown = private_position(station.lat, station.lon, station.privacy)
    if shown is None:
        return ""
    lat, lon = shown
    return f"{lat:.4f} {lon:.4f}" if station.privacy == "exact" else locator_of(lat, lon)
