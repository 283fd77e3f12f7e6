"""The rules by which a log is read: patterns with what they mean, which setting they speak of and what to do; data, checked."""

from functools import cache, cached_property
from pathlib import Path
from typing import Literal

import msgspec
from msgspec.structs import replace

from umbra_awl.core.keep.patterns import PatternError, SafePattern, pattern_of
from umbra_awl.core.keep.toml_form import from_toml, text_of

SHIPPED = Path(__file__).with_name("rules.toml")
WORDINGS = Path(__file__).with_name("wordings.toml")
FORMAT, WORDINGS_FORMAT = "umbra-awl log rules", "umbra-awl log wordings"
MOST_RULES = 400
WORDED = "~"
"""In the key of a rule that is another one's in the words of others."""
DIGITS = str.maketrans("123456789", "000000000")
"""Lines that differ in their digits alone are read by the same rule, so each shape of a line is looked at once."""
Kind = Literal["fault", "state", "call", "quiet"]


class RulesError(ValueError):
    """A file of rules that cannot be used; the message says why."""


class LogRule(msgspec.Struct, frozen=True, forbid_unknown_fields=True, dict=True):
    """One rule. `field` names what of the hotspot it speaks of; `after` the rules whose cause comes before this one.

    `cured` are the rules whose line, once it comes behind this one's last, says that the fault is past. `stands_for` is the
    rule that says the same in other words.
    """

    key: str
    kind: Kind
    pattern: str
    means: str
    example: str
    setting: str = ""
    todo: str = ""
    field: str = ""
    after: tuple[str, ...] = ()
    cured: tuple[str, ...] = ()
    stands_for: str = ""

    @property
    def is_wording(self) -> bool:
        """Whether it reads what others write for another rule."""
        return WORDED in self.key

    @property
    def meant(self) -> str:
        """The key of what it means: a rule of one's own means what the one that it stands for does."""
        return self.stands_for or self.key

    @cached_property
    def sought(self) -> SafePattern:
        """The pattern, ready to be searched for; case does not matter. Raises PatternError."""
        return pattern_of(self.pattern)


class Wording(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """What others write for a rule: its key, a pattern, and lines that it matches."""

    of: str
    pattern: str
    examples: tuple[str, ...]


class _Wordings(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    wording: tuple[Wording, ...]
    format: str = WORDINGS_FORMAT
    version: int = 1


class LogRules(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A file of rules; the first that matches a line reads it."""

    rule: tuple[LogRule, ...]
    format: str = FORMAT
    version: int = 1

    @property
    def exact(self) -> tuple[LogRule, ...]:
        """The rules of calls and faults that read one form of line, calls first."""
        known = [rule for rule in self.rule if not rule.is_wording and rule.kind != "state"]
        return tuple(sorted(known, key=lambda rule: rule.kind != "call"))

    @property
    def loose(self) -> tuple[LogRule, ...]:
        """The rules that read a fault in others' words, in any form of line."""
        return tuple(rule for rule in self.rule if rule.is_wording and rule.kind != "state")

    @property
    def states(self) -> tuple[LogRule, ...]:
        """The rules of states, those that read one form first: a word for a good state may stand in a line that complains."""
        known = [rule for rule in self.rule if rule.kind == "state"]
        return tuple(sorted(known, key=lambda rule: rule.is_wording))


def parse_rules(text: str, source: str = "The rules") -> LogRules:
    """The rules in a TOML text. Raises RulesError: for a pattern that does not compile, or does not match its example."""
    rules = from_toml(text, LogRules, (FORMAT, 1), source, RulesError)
    if len(rules.rule) > MOST_RULES:
        raise RulesError(f"{source} has more than {MOST_RULES} rules.")
    keys = [rule.key for rule in rules.rule]
    if len(set(keys)) < len(keys):
        raise RulesError(f"{source}: two rules have the same key.")
    for rule in rules.rule:
        _check(rule, source)
    return rules


def _check(rule: LogRule, source: str) -> None:
    try:
        found = rule.sought.search(rule.example)
    except PatternError as error:
        raise RulesError(f"{source}: the pattern of “{rule.key}” is none: {error}.") from None
    if found is None:
        raise RulesError(f"{source}: the pattern of “{rule.key}” does not match its own example.")
    if rule.sought.search(rule.example.translate(DIGITS)) is None:
        raise RulesError(f"{source}: the pattern of “{rule.key}” asks for certain digits; write \\d for a digit.")


@cache
def shipped_rules() -> LogRules:
    """The rules that come with the application, and behind them what others write for the same."""
    rules = parse_rules(SHIPPED.read_text("utf-8"), SHIPPED.name)
    of = {rule.key: rule for rule in rules.rule}
    made = tuple(
        replace(
            of[item.of],
            key=f"{item.of}{WORDED}{at}",
            pattern=item.pattern,
            example=item.examples[0],
            stands_for=item.of,
        )
        for at, item in enumerate(shipped_wordings(), 1)
    )
    for rule in made:
        _check(rule, WORDINGS.name)
    return LogRules((*rules.rule, *made))


def shipped_wordings() -> tuple[Wording, ...]:
    """What others write for the rules that come with the application."""
    form = (WORDINGS_FORMAT, 1)
    return from_toml(WORDINGS.read_text("utf-8"), _Wordings, form, WORDINGS.name, RulesError).wording


def own_rules(path: Path) -> LogRules:
    """The rules in a file of one's own; none where there is no file. Raises RulesError, OSError for one that cannot be read."""
    return parse_rules(text_of(path), path.name) if path.exists() else LogRules(())


def rules_with(folder: Path) -> LogRules:
    """The rules that come with the application, behind those that lie in a folder; what cannot be used is passed over."""
    own: list[LogRule] = []
    for path in sorted(folder.glob("*.toml")):
        try:
            own += parse_rules(text_of(path), path.name).rule
        except (RulesError, OSError, UnicodeDecodeError):
            continue
    keys = {rule.key for rule in own}
    if not own:
        return shipped_rules()
    return LogRules((*own, *(rule for rule in shipped_rules().rule if rule.key not in keys)))
