"""Lines of another hand's log are told what they mean, and all of their kind are read so from then on."""

import pytest

from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.hotspot.logs.rules import LogRules, parse_rules, shipped_rules
from umbra_awl.core.hotspot.logs.teach import NOTHING, meanings, pattern_for, rules_text, teach

NONE = LogRules(())
BY_KEY = {item.key: item for item in meanings()}
CALLS = (
    "Nov 26 20:40:01 spotd[77]: RF uplink from Q4WRN to TG 99900 ts 2 lasted 3.2 sec ber 1.2 %",
    "Nov 26 20:41:11 spotd[77]: RF uplink from Q7QBY to TG 99901 ts 2 lasted 12.0 sec ber 0.4 %",
    "Nov 26 20:42:30 spotd[77]: RF uplink from Q9ODL to TG 99900 ts 1 lasted 7.5 sec ber 0.0 %",
)
BAD = (
    "2026-11-26 20:31:06 gate> handshake with velmar.lattice.invalid turned away (code 17)",
    "2026-11-26 20:31:16 gate> handshake with velmar.lattice.invalid turned away (code 17)",
    "2026-11-26 20:35:16 gate> handshake with other.lattice.invalid turned away (code 4)",
)
CHATTER = ("2026-11-26 20:31:01 sensor: case at 41 degrees", "2026-11-26 20:32:01 sensor: case at 43 degrees")
LOG = (*CALLS, *BAD, *CHATTER)


def read_with(*taught):
    rules = LogRules((*(item.rule for item in taught), *shipped_rules().rule))
    return read_log("\n".join(LOG) + "\n", rules)


def test_calls_are_read_with_who_to_whom_how_long_and_how_well():
    taught = teach(LOG, CALLS[0], BY_KEY["call-heard"], NONE)
    assert taught.lines == CALLS
    found = read_with(taught).calls
    assert [(item.call, item.to, item.seconds, item.ber, item.slot, item.way) for item in found] == [
        ("Q9ODL", "99900", 7.5, 0.0, 1, "call-heard"),
        ("Q7QBY", "99901", 12.0, 0.4, 2, "call-heard"),
        ("Q4WRN", "99900", 3.2, 1.2, 2, "call-heard"),
    ]


def test_a_fault_means_what_the_shipped_one_does_and_reads_all_lines_of_its_kind():
    login = next(item for item in meanings() if item.kind == "fault" and item.key.startswith("login"))
    taught = teach(LOG, BAD[0], login, NONE)
    assert taught.lines == BAD
    reading = read_with(taught)
    assert reading.cause.rule.meant == login.key
    assert reading.cause.times == 3
    assert reading.cause.rule.todo


def test_what_means_nothing_is_passed_over_and_the_rest_stays_unknown():
    taught = teach(LOG, CHATTER[0], BY_KEY[NOTHING], NONE)
    assert taught.lines == CHATTER
    assert read_with(taught).unknown_lines == read_log("\n".join(LOG) + "\n").unknown_lines - 2


def test_own_rules_are_a_file_that_is_read_again_and_keys_are_never_doubled():
    first = teach(LOG, CALLS[0], BY_KEY["call-heard"], NONE)
    own = LogRules((first.rule,))
    second = teach(LOG, CHATTER[0], BY_KEY[NOTHING], own)
    third = teach(LOG, CALLS[1], BY_KEY["call-heard"], own)
    assert len({first.rule.key, second.rule.key, third.rule.key}) == 3
    text = rules_text(LogRules((first.rule, second.rule, third.rule)))
    assert parse_rules(text).rule == (first.rule, second.rule, third.rule)


@pytest.mark.parametrize(
    ("example", "key", "word"),
    [("20:31:06 17 42", NOTHING, "nothing could tell"), (CHATTER[0], "call-heard", "call sign")],
)
def test_a_line_that_nothing_can_be_known_by_is_refused(example, key, word):
    with pytest.raises(ValueError, match=word):
        teach((*LOG, example), example, BY_KEY[key], NONE)


@pytest.mark.parametrize(
    ("lines", "stays", "varies"),
    [
        (("x: link to 'Blackfell' is up", "x: link to 'Nessa' is up"), "link", "'[^']*'"),
        (("1 ready on 434612500", "2 ready on 435000000"), "ready", r"\d+"),
        (("user Q4WRN gone", "user Q7QBY gone"), "gone", r"\S+"),
    ],
)  # fmt: skip
def test_what_varies_is_found_by_comparing_lines(lines, stays, varies):
    made = pattern_for(lines, lines[0])
    assert stays in made
    assert varies in made


def test_a_single_line_is_enough_where_it_has_words():
    taught = teach((BAD[0],), BAD[0], BY_KEY[NOTHING], NONE)
    assert taught.lines == (BAD[0],)


@pytest.mark.parametrize("line", ["", " ", "(((", "a" * 3_000, "ü ß 中文 line of words", "x\\d+[ broken"])
def test_no_line_raises_anything_but_a_sentence(line):
    try:
        teach((line,), line, BY_KEY[NOTHING], NONE)
    except ValueError as error:
        assert str(error).endswith(".")


OWN = (
    "Nov 26 20:40:01 oldmill spotd[77]: RF uplink from Q4WRN to Q7QBY lasted 3.2 sec",
    "Nov 26 20:41:11 oldmill spotd[77]: login at velmar.lattice.invalid as 9991234 password heron refused",
    "2026-11-26 20:40:01 gate> station q7qby-pi told ops@lattice.invalid pass=heron and went",
    "2026-11-26 20:40:01 gate> joined 'Oldmill shed' as user heron with one try",
)


@pytest.mark.parametrize("line", OWN)
@pytest.mark.parametrize("key", [NOTHING, "call-heard"])
def test_a_rule_tells_nothing_of_whose_log_it_was(line, key):
    if key != NOTHING and "uplink" not in line:
        key = NOTHING
    taught = teach((line,), line, BY_KEY[key], NONE)
    assert taught.lines == (line,)
    text = rules_text(LogRules((taught.rule,))).casefold()
    told = [word for word in ("oldmill", "q4wrn", "q7qby", "lattice", "9991234", "heron", "shed") if word in text]
    assert told == []
    assert parse_rules(rules_text(LogRules((taught.rule,)))).rule == (taught.rule,)
