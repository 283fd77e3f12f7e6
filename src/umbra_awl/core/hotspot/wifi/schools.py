"""The two schools of taking a hotspot along, as threads in time: who does what, who must be on before whom, what one sees."""

from typing import Literal, NamedTuple

from umbra_awl.core.hotspot.wifi.phones import joined_words, kind_of, page_words, sharing_words
from umbra_awl.core.plan.model import Hotspot, Phone, WifiSchool

Who = Literal["phone", "hotspot", "home", "you"]
WHO_WORDS: dict[Who, str] = {"phone": "phone", "hotspot": "hotspot", "home": "home Wi-Fi", "you": "you"}
SCHOOL_WORDS: dict[WifiSchool, str] = {
    "teach": "Teach the hotspot the phone",
    "pose": "Make the phone look like home",
}
SCHOOL_WHY: dict[WifiSchool, str] = {
    "teach": "Done once at home; on the road nothing is changed. The phone keeps its own name.",
    "pose": "Nothing changes on the hotspot; the phone's sharing gets the home's name and password, letter for letter.",
}


_SHARE = "Switch its sharing on, at 2.4 GHz"
_LISTED = "Look whom it lists as joined"
_PAGE = "Open the hotspot's page"


class WifiStep(NamedTuple):
    """A step: where it is done, whose it is, what, what one sees, what to do when not."""

    at: Literal["home", "road"]
    who: Who
    what: str
    sees: str
    else_: str = ""


_ROAD: tuple[WifiStep, ...] = (
    WifiStep("road", "phone", "Charge it, keep its screen on, mobile data on", "It has data", "Go where it has data"),
    WifiStep(
        "road",
        "phone",
        _SHARE,
        "“Sharing”, nobody joined yet",
        "Look for “compatibility”: 2.4 GHz",
    ),
    WifiStep(
        "road",
        "hotspot",
        "Only now switch the hotspot on; wait two minutes",
        "Its display names the phone's Wi-Fi",
        "Off, wait, on again",
    ),
    WifiStep(
        "road",
        "phone",
        _LISTED,
        "The hotspot, by its name",
        "Switch sharing off and on, then the hotspot",
    ),
    WifiStep(
        "road",
        "phone",
        _PAGE,
        "The page, then others' calls",
        "Use the address from the phone's list",
    ),
    WifiStep(
        "road",
        "you",
        "Key the echo test and listen",
        "A beep, then your own voice",
        "Look at the ladder: the first rung that fails",
    ),
)
_STEPS: dict[WifiSchool, tuple[WifiStep, ...]] = {
    "teach": (
        WifiStep("home", "phone", _SHARE, "“Sharing”", "Look for “compatibility”: 2.4 GHz"),
        WifiStep(
            "home",
            "hotspot",
            "Have it look for networks; look a second time",
            "The phone's name in its list",
            "Often only the second look shows it",
        ),
        WifiStep(
            "home", "hotspot", "Choose the name, type the password, save", "“Saved”", "Type it again; blanks count"
        ),
        WifiStep(
            "home", "hotspot", "Wait, and look again whether it is listed", "Both networks are listed", "Save once more"
        ),
        WifiStep(
            "home",
            "home",
            "Switch the home Wi-Fi off for a minute, restart the hotspot",
            "It joins the phone",
            "Compare the names letter by letter",
        ),
        *_ROAD,
    ),
    "pose": (
        WifiStep(
            "home",
            "phone",
            "Give its sharing the home's name, letter for letter",
            "The same name, capitals too",
            "Compare letter by letter",
        ),
        WifiStep(
            "home", "phone", "Give it the home's password, plain quotes", "Saved", "Type it again; no curly quotes"
        ),
        WifiStep(
            "home",
            "phone",
            "Leave its sharing off at home: never both at once",
            "Only the home's network is there",
            "Switch the sharing off",
        ),
        *_ROAD,
    ),
}


def wifi_steps(hotspot: Hotspot, phone: Phone | None) -> tuple[WifiStep, ...]:
    """The steps of a hotspot's method, with the menus and addresses of the phone that goes along where they are known."""
    sharing, joined = sharing_words(phone), joined_words(phone)
    kind = kind_of(phone)
    minds = f". {kind.minds.rstrip('.')}" if kind is not None and kind.minds else ""
    told = {
        _SHARE: f"{_SHARE} ({sharing}){minds}" if sharing else _SHARE,
        _LISTED: f"{_LISTED} ({joined})" if joined else _LISTED,
        _PAGE: f"{_PAGE}: {page_words(hotspot, phone)}",
    }
    return tuple(step._replace(what=told.get(step.what, step.what)) for step in _STEPS[hotspot.school])


PORTAL_WAYS = (
    "Share the phone's own mobile data, and leave the hotel's Wi-Fi to the phone.",
    "Log in with the phone, and let it share that Wi-Fi on, where it can.",
    "Take a travel router that logs in once, and teach the hotspot its name at home.",
)
"""Where the place's Wi-Fi wants a login page, a hotspot cannot get past it."""
