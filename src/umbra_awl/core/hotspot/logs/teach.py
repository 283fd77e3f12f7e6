"""A line that no rule reads is told what it means: what varies in it is found by comparing lines, and a rule is made.

The rule says what one of the shipped rules says, in the words of another hand's log; it lies in a file that a pack can carry.
"""

import re
from collections.abc import Callable, Sequence
from typing import NamedTuple

import msgspec
import tomlkit
from msgspec.structs import replace

from umbra_awl.core.hotspot.logs.rules import DIGITS, FORMAT, Kind, LogRule, LogRules, shipped_rules
from umbra_awl.core.keep.patterns import MOST_LETTERS, PatternError, pattern_of

NOTHING = "nothing"
_NOTHING_WORDS = "nothing: pass it over"
_ALIKE = 0.6
"""So much of two lines' words must be the same for them to be of one kind."""
_MOST_COMPARED = 4_000
_BETWEEN = r"\s+"
_SOME_CALL = "Q0AAA"
_QUOTED = re.compile(r"'[^']*'|\"[^\"]*\"|\S+")
_CALL = re.compile(r"\b[A-Z]{1,2}\d[A-Z0-9]{1,5}\b(?:[-/][A-Z0-9]+)?")
_MONTHS = {"jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"}
_DAYS = {"mon", "tue", "wed", "thu", "fri", "sat", "sun"}
_TO = {"to", "tg", "->", "→", "group", "target", "for", "an", "nach", "vers"}
_MODES = {"dmr", "dstar", "d-star", "fusion"}
_SECRET = {"password", "passphrase", "pass", "psk", "secret", "token", "user", "username", "ssid"}
"""The word behind one of these is the operator's own, and is in no rule."""
_OWN = re.compile(r"[@=\\~&?]|[A-Za-z]\w*\.\w|\w\.[A-Za-z]")
"""Addresses, host names, and values that are set: likewise."""
_PROGRAM = re.compile(r"[\w.-]+\[\d+\]:")


class Meaning(NamedTuple):
    """What a line may mean: the key of the shipped rule that means the same, its kind, and words for a list."""

    key: str
    kind: Kind
    words: str


class Taught(NamedTuple):
    """A rule made of a line, and the lines of the log that it would read."""

    rule: LogRule
    lines: tuple[str, ...]


def meanings() -> list[Meaning]:
    """What a line can be told to mean: nothing, a call, a state, a fault; in the order of a list."""
    order = {"call": 0, "state": 1, "fault": 2}
    known = sorted((rule for rule in shipped_rules().rule if rule.kind in order), key=lambda rule: order[rule.kind])
    return [
        Meaning(NOTHING, "quiet", _NOTHING_WORDS),
        *(Meaning(rule.key, rule.kind, rule.means.rstrip(".")) for rule in known),
    ]


def _words(line: str) -> list[str]:
    """A line's words behind its moment, which is another in every line."""
    words = _QUOTED.findall(line.strip())
    while words and (words[0][0].isdigit() or words[0].strip("[].,").casefold()[:3] in _MONTHS | _DAYS):
        words = words[1:]
    return words[1:] if len(words) > 1 and _PROGRAM.fullmatch(words[1]) else words  # the machine's name goes with it


def _is_own(word: str, before: str) -> bool:
    """Whether a word may tell who or where the operator is, or a secret of theirs."""
    bare = word.strip("(),:;[].")
    return before.strip("(),:;[].").casefold() in _SECRET or bool(_OWN.search(bare) or _CALL.search(bare.upper()))


def _alike(one: list[str], other: list[str]) -> bool:
    same = sum(a.translate(DIGITS) == b.translate(DIGITS) for a, b in zip(one, other, strict=False))
    return len(one) == len(other) and same >= _ALIKE * len(one)


def _varies(word: str, before: str, others: Sequence[str]) -> str:
    """The pattern of a word: as it stands, with digits that vary, or anything where it is another in other lines."""
    if word[0] in "'\"":
        return f"{word[0]}[^{word[0]}]*{word[0]}"
    if _is_own(word, before) or any(item.translate(DIGITS) != word.translate(DIGITS) for item in others):
        head = re.escape(word[0]) if word[0] in "([" and all(item[:1] == word[0] for item in others) else ""
        tail = re.escape(word[-1]) if word[-1] in "),:;]%" and all(item[-1:] == word[-1] for item in others) else ""
        return rf"{head}\S+?{tail}" if head or tail else r"\S+"
    return re.sub(r"\d+", r"\\d+", re.escape(word).replace(r"\-", "-"))


class _Place(NamedTuple):
    """A word of a line with what stands around it, all small and without its brackets."""

    bare: str
    before: str
    near: str
    after: str


_RATE, _NUMBER = re.compile(r"\d+(?:\.\d+)?%?"), re.compile(r"\d+(?:\.\d+)?")
_FIELDS: tuple[tuple[str, str, Callable[[_Place], object]], ...] = (
    ("mode", "|".join(sorted(_MODES)), lambda it: it.bare.casefold() in _MODES),
    ("call", "[A-Z0-9/-]+", lambda it: _CALL.fullmatch(it.bare)),
    ("to", r"[^\s,;]+", lambda it: it.before in _TO and it.bare.casefold() not in _TO),
    ("ber", r"[\d.]+", lambda it: "ber" in it.near and _RATE.fullmatch(it.bare)),
    ("loss", r"[\d.]+", lambda it: ("loss" in it.near or "lost" in it.near) and _RATE.fullmatch(it.bare)),
    ("seconds", r"[\d.]+", lambda it: it.after in {"s", "sec", "secs", "seconds"} and _NUMBER.fullmatch(it.bare)),
    ("slot", r"\d", lambda it: it.before in {"slot", "ts", "timeslot"} and re.fullmatch(r"\d", it.bare)),
)
"""A field of a call, what it is made of, and by what it is known; the first word of a line that is one has it."""


def _fields(words: list[str], patterns: list[str]) -> list[str]:
    """Patterns of a call's line with its fields named: who, to whom, how long, error rate, loss, slot, mode."""
    plain = [word.strip("(),:;[]") for word in words]
    small = ["", "", *(word.rstrip(".").casefold() for word in plain), ""]
    left = {field: (inside, known) for field, inside, known in _FIELDS}
    for at, word in enumerate(words):
        place = _Place(plain[at], small[at + 1], " ".join(small[at : at + 2]), small[at + 3])
        field = next((name for name, (_inside, known) in left.items() if plain[at] and known(place)), None)
        if field is not None:
            before, after = word.split(plain[at], 1)
            unit = "%" if plain[at].endswith("%") else ""
            patterns[at] = f"{re.escape(before)}(?P<{field}>{left.pop(field)[0]}){unit}{re.escape(after)}"
    return patterns


def pattern_for(lines: Sequence[str], example: str, *, call: bool = False) -> str:
    """The pattern of a kind of line. Raises ValueError, as a sentence, where the line has nothing to be known by."""
    return _BETWEEN.join(_patterns(lines, example, call=call))


def _patterns(lines: Sequence[str], example: str, *, call: bool) -> list[str]:
    words = _words(example)
    others = [item for line in lines[:_MOST_COMPARED] if line != example and _alike(words, item := _words(line))]
    before = ["", *words]
    patterns = [_varies(word, before[at], [item[at] for item in others]) for at, word in enumerate(words)]
    if not any(re.search(r"[A-Za-z]{2}", re.sub(r"\\.|\(\?P<\w+>", "", item)) for item in patterns):
        raise ValueError(
            "No word of this line is the same in every line of its kind, so nothing could tell it from others."
        )
    if call:
        patterns = _fields(words, patterns)
        if not any("(?P<call>" in item for item in patterns):
            raise ValueError("No call sign was found in this line, so it cannot be read as a call.")
    while len(_BETWEEN.join(patterns)) > MOST_LETTERS and len(patterns) > 3:
        patterns = patterns[:-1]
    return patterns


def _told(word: str, pattern: str) -> str:
    """A word as an example may tell it, since a pack carries it on: nobody's call sign, number, name or address."""
    if pattern[0] in "'\"":
        return f"{word[0]}x{word[0]}"
    plain = _CALL.sub(_SOME_CALL, word).translate(DIGITS)
    if _SOME_CALL in plain or not (r"\S+" in pattern or "(?P<to>" in pattern):
        return plain
    return re.sub(r"[^\W\d_]", "x", plain)


def teach(lines: Sequence[str], example: str, meaning: Meaning, own: LogRules) -> Taught:
    """A rule by which lines like the example mean that. Raises ValueError, as a sentence."""
    patterns = _patterns(lines, example, call=meaning.kind == "call")
    pattern = _BETWEEN.join(patterns)
    example = " ".join(_told(word, one) for word, one in zip(_words(example), patterns, strict=False))
    try:
        sought = pattern_of(pattern)
    except PatternError as error:
        raise ValueError(f"No rule can be made of this line: {error}.") from None
    found = tuple(line for line in lines if sought.search(line) is not None)
    if sought.search(example) is None or sought.search(example.translate(DIGITS)) is None:
        raise ValueError(
            "No rule can be made of this line: what varies in it is not clear. Take another one of its kind."
        )
    taken = {rule.key for rule in own.rule}
    key = next(name for number in range(1, len(taken) + 2) if (name := f"own-{meaning.key}-{number}") not in taken)
    shipped = next((rule for rule in shipped_rules().rule if rule.key == meaning.key), None)
    if shipped is None:
        return Taught(LogRule(key, "quiet", pattern, "Nothing to be heeded.", example), found)
    rule: LogRule = replace(shipped, key=key, pattern=pattern, example=example, stands_for=meaning.key)
    return Taught(rule, found)


def rules_text(rules: LogRules) -> str:
    """Rules as the TOML text of a file."""
    body = msgspec.to_builtins(rules)
    made = tomlkit.document()
    made.add(tomlkit.comment("What lines of your hotspots' logs mean, as you said."))
    made["format"], made["version"] = FORMAT, rules.version
    made["rule"] = tomlkit.aot()
    for rule in body["rule"]:
        made["rule"].append(tomlkit.item({key: value for key, value in rule.items() if value not in ("", (), [])}))
    return tomlkit.dumps(made)
