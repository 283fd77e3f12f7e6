"""Pairing as a machine of states: from what both sides show follows what to do next, and the cure when it went the wrong way."""

from collections.abc import Iterator
from typing import Any, Literal, NamedTuple

from umbra_awl.core.hotspot.pairing.devices import PairedDevice
from umbra_awl.core.radio.ways_in import AppLink

BEFORE = "before"
PairingStart = Literal["new", "old", "stuck"]
START_WORDS: dict[PairingStart, str] = {
    "new": "new: never paired",
    "old": "paired before, with another phone or app",
    "stuck": "stuck already: paired, and nothing works",
}
"""How one comes to it; the last is the usual one."""


class PairingSides(NamedTuple):
    """What phone and radio show.

    `paired_in` is where the phone was paired (“”, “app”, “phone”, or `BEFORE`: an old pairing that still stands there);
    `radio_names` the phone that the radio names, `chosen` the link that was chosen for it in the app, `plugged` the data cable.
    """

    settings: dict[str, str]
    paired_in: str = ""
    radio_names: str = ""
    asks_phone: bool = False
    asks_radio: bool = False
    connected: bool = False
    stuck: bool = False
    wireless: bool = True
    restarted: bool = True
    mirror: tuple[str, ...] = ()
    chosen: str = ""
    plugged: bool = False


class Move(NamedTuple):
    """What to do: the verb that a simulated pair understands, in words, whose hands, what one sees then."""

    do: dict[str, Any]
    words: str
    who: str
    sees: str


def sides_of(state: dict[str, Any]) -> PairingSides:
    """What a simulated pair shows."""
    given = {key: state[key] for key in PairingSides._fields if key in state}
    return PairingSides(
        **{**given, "settings": dict(given.get("settings", {})), "mirror": tuple(given.get("mirror", ()))}
    )


def begun(device: PairedDevice, start: PairingStart) -> PairingSides:
    """What both sides of a real pair show at the beginning, as their owner tells it."""
    if start == "new":
        return PairingSides(dict.fromkeys((item.key for item in device.settings), ""))
    settings = {item.key: item.want if item.key == "wireless" else "" for item in device.settings}
    where = BEFORE if start == "old" else ("phone" if device.starts == "app" else "app")
    return PairingSides(settings, where, "another phone" if start == "old" else "your phone", stuck=start == "stuck")


def proven(sides: PairingSides, link: AppLink = "wireless") -> bool:
    """Whether radio and app have proven each other."""
    return sides.connected and (link == "cable" or bool(sides.radio_names))


def next_move(device: PairedDevice, sides: PairingSides, link: AppLink = "wireless") -> Move | None:
    """What is to be done next over a kind of link; None when radio and app have proven each other."""
    if proven(sides, link):
        return None
    return next(_by_cable(device, sides) if link == "cable" else _moves(device, sides))


def _choose(link: AppLink) -> Move:
    return Move(
        {"do": "choose", "link": link}, f"App: choose the radio, and “{link}” as its link", "app", "It names the radio"
    )


_CONNECT = Move({"do": "connect"}, "App: connect", "app", "The app mirrors the radio's front")


def _settings(device: PairedDevice, sides: PairingSides, *, apart: str = "") -> Iterator[Move]:
    for needed in device.settings:
        if needed.key != apart and sides.settings.get(needed.key) != needed.want:
            where = f" ({' › '.join(needed.menu)})" if needed.menu else ""
            do = {"do": "radio", "key": needed.key, "value": needed.want}
            words = f"Radio: {needed.words} to “{needed.want}”{where}"
            yield Move(do, words, "radio", f"{needed.words}: {needed.want}")


def _by_cable(device: PairedDevice, sides: PairingSides) -> Iterator[Move]:
    """By the data cable nothing is paired: it is plugged in, chosen and connected."""
    yield from _settings(device, sides, apart="wireless")
    if not sides.plugged:
        yield Move(
            {"do": "plug"}, "You: data cable between radio and phone", "both", "The phone asks which app takes it"
        )
    if sides.chosen != "cable":
        yield _choose("cable")
    yield _CONNECT


def _moves(device: PairedDevice, sides: PairingSides) -> Iterator[Move]:
    """What is still to be done, in order; an old pairing goes out first."""
    if sides.stuck:
        yield _cure(sides)
    if sides.paired_in == BEFORE:
        yield Move({"do": "forget"}, "Phone's settings: forget the old pairing", "phone", "It is no longer listed")
    if sides.radio_names and not sides.paired_in:
        words = f"Radio: delete “{sides.radio_names}” from its list"
        yield Move({"do": "delete"}, words, "radio", "The list is empty")
    yield from _settings(device, sides)
    if not sides.wireless:
        yield Move({"do": "wireless", "on": True}, "Phone: wireless on", "phone", "Its sign in the top line")
    if sides.asks_phone:
        pin = f" and type {device.pin}" if device.pin else ""
        yield Move({"do": "yes", "who": "phone", "pin": device.pin}, f"Phone: yes{pin}", "phone", "The question goes")
    if sides.asks_radio:
        yield Move({"do": "yes", "who": "radio"}, "Radio: yes", "radio", "The radio names the phone")
    if not sides.paired_in:
        yield _begin(device)
    if sides.chosen != "wireless":
        yield _choose("wireless")
    yield _CONNECT


def _begin(device: PairedDevice) -> Move:
    if device.starts == "app":
        return Move(
            {"do": "pair", "in": "app"},
            "App: look for the radio and choose it; not in the phone's settings",
            "app",
            "Both sides ask",
        )
    return Move(
        {"do": "pair", "in": "phone"},
        f"Phone's settings: choose the bridge, PIN {device.pin}",
        "phone",
        "The phone asks for the PIN",
    )


def _cure(sides: PairingSides) -> Move:
    """The cure, in its order: forget, delete, wireless off, restart both, and from the beginning."""
    if sides.paired_in:
        return Move({"do": "forget"}, "Phone's settings: forget the radio", "phone", "It is no longer listed")
    if sides.radio_names:
        return Move({"do": "delete"}, "Radio: delete the phone from its list", "radio", "The list is empty")
    if sides.wireless:
        return Move({"do": "wireless", "on": False}, "Phone: wireless off", "phone", "Its sign is gone")
    return Move({"do": "restart"}, "Restart both, the radio first", "both", "Both show their start")


def reset_words(device: PairedDevice) -> str:
    """What is said before a factory reset, which is the last thing to do."""
    return f"Only when the cure did not help, and after a backup. A factory reset loses: {device.reset_loses}"


def proof_words(sides: PairingSides) -> str:
    """What proves a pairing, as far as it is seen."""
    if sides.connected and not sides.radio_names:
        return "Proven: the app mirrors the radio's front over the cable."
    if proven(sides):
        return f"Proven: the radio names “{sides.radio_names}”, the app mirrors “{' / '.join(sides.mirror)}”."
    if sides.paired_in == BEFORE:
        return "An old pairing stands in the way: it goes out first, on both sides."
    if sides.stuck:
        return "Stuck: it was paired in the wrong place. Asking again does not help; the cure has an order."
    return "Not yet. The proof is that the radio names the phone and the app mirrors the radio's front."


def told_done(sides: PairingSides, move: Move) -> PairingSides:
    """What both sides show when a move did what it should: for real devices, of which only their owner can tell."""
    what = move.do.get("do")
    if what == "radio":
        return sides._replace(settings={**sides.settings, str(move.do["key"]): str(move.do["value"])})
    if what == "pair":
        return sides._replace(asks_phone=True)
    if what == "yes":
        phone = move.do.get("who") == "phone"
        pinned = bool(move.do.get("pin"))
        names = "your phone" if not phone or pinned else ""
        return sides._replace(asks_phone=False, asks_radio=phone and not pinned, paired_in="app", radio_names=names)
    simple: dict[object, dict[str, Any]] = {
        "wireless": {"wireless": bool(move.do.get("on"))},
        "forget": {"paired_in": ""},
        "delete": {"radio_names": ""},
        "restart": {"stuck": False, "wireless": True},
        "connect": {"connected": True},
        "choose": {"chosen": str(move.do.get("link", ""))},
        "plug": {"plugged": True},
    }
    return sides._replace(**simple.get(what, {}))
