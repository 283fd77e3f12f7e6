"""The path from an empty card to an echo: each step with what proves it, done when that is seen and not before."""

from typing import NamedTuple

from umbra_awl.core.hotspot.compatible import HotspotNeeds, Parts, builds
from umbra_awl.core.hotspot.logs.ladder import RUNGS, Standing
from umbra_awl.core.hotspot.logs.reading import LogReading
from umbra_awl.core.hotspot.match.sheet import MatchRow
from umbra_awl.core.hotspot.seek.talk import Status
from umbra_awl.core.plan.edit.edits import Edit, set_fields
from umbra_awl.core.plan.hotspots import Proof
from umbra_awl.core.plan.model import Hotspot
from umbra_awl.core.plan.parts import HOTSPOTS


class PathStep(NamedTuple):
    """A step: whose hands, what, what one sees when it worked, whether that was seen, and the page where it is done.

    `seen` says by what it was seen, and when that was by eye: “seen on its page”, “seen by eye on 2026-11-24”.
    """

    key: str
    hands: str
    what: str
    sees: str
    done: bool
    page: str
    seen: str = ""


class KnownOfHotspot(NamedTuple):
    """What is known of a hotspot just now."""

    hotspot: Hotspot
    status: Status | None = None
    log: LogReading | None = None
    rows: tuple[MatchRow, ...] = ()
    wifi_laid: bool = False


def build_fault(parts: Parts, hotspot: Hotspot) -> str:
    """Why board, computer and image do not work together, as a sentence; empty where they do or are not chosen."""
    if not (hotspot.board and hotspot.computer and hotspot.image):
        return "Board, computer and image are not chosen yet."
    for build in builds(parts, HotspotNeeds()):
        chosen = (build.board.key, build.computer.key, build.image.key) == (
            hotspot.board,
            hotspot.computer,
            hotspot.image,
        )
        if chosen and build.duplex == hotspot.duplex:
            return " ".join(build.faults)
    return "That board cannot be duplex." if hotspot.duplex else "These parts are not in the table."


_STEPS: tuple[tuple[str, str, str, str, str], ...] = (
    ("parts", "you", "Choose board, computer and image that go together", "Nothing stands against them", "path"),
    ("place", "you", "Choose a frequency that disturbs nobody, and listen there", "A good place on the ruler", "place"),
    ("image", "you", "Write the image onto the card", "The card shows a small start folder", "path"),
    ("wifi", "here", "Lay the Wi-Fi file beside it, before the first start", "The file is on the card", "path"),
    ("start", "you", "Card in, switch on, wait two minutes", "Its light goes from blinking to steady", "path"),
    ("address", "here", "Find its address and open its page", "The page answers", "find"),
    ("password", "you", "Give its page a password of your own", "The default is refused", "match"),
    ("settings", "here", "Set it as the plan says; it restarts, a minute", "Nothing is cut in the sheet", "match"),
    ("log", "here", "Read its log", "No fault in it", "find"),
    ("link", "here", "Only then the start-up link", "“Linked” on its page", "match"),
    ("echo", "you", "Key the echo test", "Your own voice comes back", "find"),
)


def path_steps(known: KnownOfHotspot, parts: Parts, standing: Standing) -> tuple[PathStep, ...]:
    """The steps in their order."""
    done = _done(known, parts, standing)
    eye = {item.rung: f"seen by eye on {item.day[:10]}" for item in known.hotspot.by_eye}
    told = {} if known.hotspot.startup else {"link": _NO_LINK}
    return tuple(
        PathStep(
            key,
            hands,
            *told.get(key, (what, sees)),
            done[key] or key in eye,
            page,
            _SEEN.get(key, "seen on its page") if done[key] else eye.get(key, ""),
        )
        for key, hands, what, sees, page in _STEPS
    )


_SEEN = {
    "parts": "by the plan", "place": "by the plan", "image": "by the card or its page", "wifi": "by the card or its page",
    "settings": "seen in its settings", "log": "seen in its log", "echo": "noted, or seen in its log",
}  # fmt: skip


def see_step(hotspot: Hotspot, step: str, day: str) -> Edit:
    """Note that a step was seen by eye, or that it was not after all. `day` is an ISO text."""
    held = any(item.rung == step for item in hotspot.by_eye)
    what = next((what for key, _hands, what, _sees, _page in _STEPS if key == step), step)
    kept = tuple(item for item in hotspot.by_eye if item.rung != step)
    sentence = f"{'Take back' if held else 'Note'} as seen by eye: {what}"
    return set_fields(HOTSPOTS, hotspot.key, sentence, by_eye=kept if held else (*kept, Proof(step, day)))


_NO_LINK = ("No start-up link is planned: groups come when you key them", "nothing to see")


def _done(known: KnownOfHotspot, parts: Parts, standing: Standing) -> dict[str, bool]:
    """Which step is done: by what is seen, never by a click."""
    hotspot, status, log = known.hotspot, known.status, known.log
    seen = status is not None
    up = status is not None and status.up
    agrees = any(row.to_hotspot == "joined" for row in known.rows)
    cuts = any(row.to_hotspot == "cut" for row in known.rows if row.field.kind != "secret")
    faultless = log is not None and not log.faults and any(item.rule.meant == "modem-ready" for item in log.states)
    reached = dict(zip((rung.key for rung in RUNGS), standing.reached, strict=True))
    return {
        "parts": not build_fault(parts, hotspot),
        "place": bool(hotspot.listened),
        "image": known.wifi_laid or seen,
        "wifi": known.wifi_laid or seen,
        "start": seen,
        "address": seen,
        "password": hotspot.locked if status is None else not status.default_password,
        "settings": agrees and not cuts,
        "log": up and faultless,
        "link": up and status is not None and (bool(status.linked) or not hotspot.startup),
        "echo": bool(reached.get("echo")),
    }
