"""What a line says of health: “0 failed”, “not in use” and “login accepted” name a fault that is not there.

What stands in quotes is somebody's name, and `name = value` is a setting; neither is a complaint, whatever words are in it.
"""

import re

_COMPLAINT = (
    r"(?:failed|failures?|errors?|faults?|problems?|in use|busy|locked|lost|refused|rejected|wrong|invalid|unreachable|mismatch"
    r"|logged in|linked to|duplicates?|too old|outdated|timeouts?)"
)
_DENIED = re.compile(
    rf"\b(?:no|not|never|zero|none|without|no longer|not yet|0)\s+(?:\w+\s+)?{_COMPLAINT}\b", re.IGNORECASE
)
_NONE_OF = re.compile(rf"\b{_COMPLAINT}\s*[:=]?\s*(?:0|none|no|false)(?=\s*(?:$|[,;.)\]]))", re.IGNORECASE)
_COUNTED = re.compile(rf"\b0\s+(?:\w+\s+)?{_COMPLAINT}\b|\b{_COMPLAINT}\s*[:=]?\s*0\b", re.IGNORECASE)
_CURED = re.compile(r"\b(?:accepted|succeeded|successful|successfully|recovered|restored|cleared)\b", re.IGNORECASE)
_NOT_CURED = re.compile(
    r"\b(?:not|never|cannot be|could not be|un\w*)\s+(?:be\s+)?(?:accepted|successful|recovered|restored)\b",
    re.IGNORECASE,
)
_NAMED = re.compile(r"“[^”]*”|\"[^\"]*\"|(?<!\w)'[^']*'(?!\w)|«[^»]*»")
_SETTING = re.compile(
    r"(?<![\w.])(?!(?:msg|message|err|error|reason|text|status|state)\b)[a-z][\w.]*\s*=\s*\S+", re.IGNORECASE
)
_SAID = re.compile(
    r"\b(?:msg|message|err|error|reason|text|status|state)\s*[=:]\s*[\"“']([^\"”']*)[\"”']", re.IGNORECASE
)


def complaint(line: str) -> str:
    """What is left of a line once names, settings, and what it denies are taken out; empty where it tells of a cure."""
    said = " ".join(_SAID.findall(line))
    left = _SETTING.sub(" ", _NAMED.sub(" ", _SAID.sub(" ", line)))
    left = f"{left} {said}"
    if _CURED.search(left) and not _NOT_CURED.search(left):
        return ""
    return _NONE_OF.sub(" ", _DENIED.sub(" ", left))


_DENIES = re.compile(
    r"\b(?:not|never|no|cannot|can't|failed|failure|refused|rejected|denied|lost|down|nicht|kein\w*|abgelehnt|pas|sin|non|niet|un\w+)\b",
    re.IGNORECASE,
)


def denies_nothing(line: str) -> bool:
    """Whether a line of somebody's own words has none that turns a good state into its opposite."""
    return _DENIES.search(line) is None


def hangs_on_its_numbers(shape: str) -> bool:
    """Whether a line of this shape (its digits all 0) is healthy or not by a number in it: “0 failed”, “3 failed”."""
    return _COUNTED.search(shape) is not None
