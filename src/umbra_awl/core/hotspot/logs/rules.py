"""The rules by which a log is read: patterns with what they mean, which setting they speak of and what to do; data, checked."""

from functools import cache, cached_property
from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.keep.patterns import PatternError, SafePattern, pattern_of
from umbra_awl.core.keep.toml_form import from_toml, text_of

SHIPPED = Path(__file__).with_name("rules.toml")
FORMAT = "umbra-awl log rules"
MOST_RULES = 400
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
    def meant(self) -> str:
        """The key of what it means: a rule of one's own means what the one that it stands for does."""
        return self.stands_for or self.key

    @cached_property
    def sought(self) -> SafePattern:
        """The pattern, ready to be searched for; case does not matter. Raises PatternError."""
        return pattern_of(self.pattern)


class LogRules(msgspec.Struct, frozen=True, forbid_unknown_fields=True):
    """A file of rules; the first that matches a line reads it."""

    rule: tuple[LogRule, ...]
    format: str = FORMAT
    version: int = 1


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
    """The rules that come with the application."""
    return parse_rules(SHIPPED.read_text("utf-8"), SHIPPED.name)


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
