"""Logs as they are met: faults that were cured, lines that deny one, other encodings and breaks, moments in every form."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.hotspot.logs import reading
from umbra_awl.core.hotspot.logs.healthy import complaint, hangs_on_its_numbers
from umbra_awl.core.hotspot.logs.moments import moment_of
from umbra_awl.core.hotspot.logs.reading import own_overs, read_log, read_log_bytes
from umbra_awl.core.hotspot.logs.rules import shipped_rules
from umbra_awl.core.logbook.from_hotspot import utc_of

EXAMPLES = {rule.key: rule.example for rule in shipped_rules().rule}
OWN = EXAMPLES["call-heard"]


@pytest.mark.parametrize(("fault", "cure"), [(rule.key, cure) for rule in shipped_rules().rule for cure in rule.cured])
def test_a_fault_that_was_cured_later_is_past_and_one_that_came_again_is_not(fault, cure):
    found = read_log(f"{EXAMPLES[fault]}\n{EXAMPLES[cure]}\n")
    assert not found.faults
    assert [item.rule.key for item in found.past] == [fault]
    again = read_log(f"{EXAMPLES[fault]}\n{EXAMPLES[cure]}\n{EXAMPLES[fault]}\n")
    assert again.cause.rule.key == fault
    assert not again.past


def test_every_cure_is_a_rule_that_there_is():
    keys = set(EXAMPLES)
    assert all(keys.issuperset(rule.cured) for rule in shipped_rules().rule)


@pytest.mark.parametrize(
    "line",
    [
        "dmr: login attempts 3, 0 failed, 0 rejected, password wrong: 0",
        "modem: port /dev/serial0 not in use",
        "modem: device not busy",
        "dmr: login accepted, password not wrong",
        "dmr: login to velmar.lattice.invalid accepted",
        "net: link restored, network unreachable no more",
        "net: 0 lost, link up",
        "host: settings: device_busy_limit = 5",
        "host: login_password_wrong_limit=3",
        "dmr: linked to group 'Lost Password Login Wrong'",
        "dmr: group “Network Lost And Found” linked to 99911",
        "firmware 1.9 not too old",
        "login succeeded after wrong password",
        "status: errors: 0, link: none lost",
    ],
)
def test_healthy_lines_names_and_settings_fire_nothing(line):
    found = read_log(f"2026-11-26 20:31:04 {line}\n")
    assert not found.faults, found.faults[0].rule.key


@pytest.mark.parametrize(
    "line",
    [
        "dmr: login attempts 3, 3 failed, password wrong",
        "dmr: login not accepted: wrong password",
        'host: level=error msg="login refused: wrong password"',
        "dmr: login of 'Wren' refused: wrong password",
    ],
)
def test_complaints_beside_names_and_settings_are_told_all_the_same(line):
    assert read_log(f"2026-11-26 20:31:04 {line}\n").cause.rule.key == "login-password"


def test_none_failed_and_three_failed_are_told_apart_though_they_look_alike():
    rules = reading.LogRules((reading.LogRule("x", "fault", r"\d+ logins? failed", "m", "3 logins failed"),))
    assert hangs_on_its_numbers("0 logins failed")
    assert not read_log_bytes(b"0 logins failed\n", rules).faults
    (told,) = read_log_bytes(b"0 logins failed\n3 logins failed\n0 logins failed\n", rules).faults
    assert (told.times, told.first, told.last) == (1, 2, 2)


@given(st.text(max_size=200))
def test_what_is_left_of_any_line_is_short_and_nothing_breaks(line):
    assert len(complaint(line)) <= 3 * len(line) + 2


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le"])
@pytest.mark.parametrize("ending", ["\n", "\r\n", "\r"])
def test_a_log_is_read_in_any_encoding_and_with_any_break(encoding, ending):
    text = ending.join([EXAMPLES["starts"], EXAMPLES["login-password"], OWN, ""])
    found = read_log_bytes(text.encode(encoding))
    assert found.lines == 3
    assert found.unknown_lines == 0
    assert found.calls[0].call == "Q4WRN"


def test_calls_in_small_letters_are_ones_own():
    found = read_log(OWN.replace("Q4WRN", "q4wrn"))
    assert [item.call for item in own_overs(found, ["Q4WRN"], [])] == ["Q4WRN"]


def test_a_long_head_of_a_journal_hides_nothing():
    head = "Nov 26 20:31:04 q4wrn-home spot[812]: " + "unit=host.service;" * 60
    found = read_log(f"{head} dmr: login refused: wrong password\n{head} {OWN}\n")
    assert len(head) > 1_000
    assert found.cause.rule.key == "login-password"
    assert found.calls[0].call == "Q4WRN"


def test_of_too_many_kinds_of_lines_the_newest_are_looked_at(monkeypatch):
    monkeypatch.setattr(reading, "MOST_SHAPES", 10)
    old = "".join(f"{'x' * at} frob\n" for at in range(1, 40))
    found = read_log(old + EXAMPLES["login-password"] + "\n")
    assert found.cause.rule.key == "login-password"
    assert found.unknown_lines == 39


@pytest.mark.parametrize(
    ("line", "moment"),
    [
        ("2026-11-26 20:31:04 dmr: x", "2026-11-26 20:31:04"),
        ("2026-11-26T20:31:04.123Z dmr: x", "2026-11-26 20:31:04+00:00"),
        ("[2026/11/26 20:31:04] dmr: x", "2026-11-26 20:31:04"),
        ("I: 2026-11-26T20:31:04+01:00 dmr: x", "2026-11-26 20:31:04+01:00"),
        ("26.11.2026 20:31:04 dmr: x", "2026-11-26 20:31:04"),
        ("Nov 26 20:31:04 host dmr: x", "2026-11-26 20:31:04"),
        ("Nov  6 20:31:04 host dmr: x", "2026-11-06 20:31:04"),
        ("Dec 24 20:31:04 host dmr: x", "2025-12-24 20:31:04"),
        ("Dec  2 00:10:00 host dmr: x", "2026-12-02 00:10:00"),
        ("Feb 29 20:31:04 host dmr: x", "2024-02-29 20:31:04"),
        ("Now 26 20:31:04 host dmr: x", ""),
        ("20:31:04 dmr: x", ""),
    ],
)
def test_a_moment_is_read_in_every_form(line, moment):
    assert moment_of(line, date(2026, 12, 1)) == moment


def test_a_day_of_a_syslog_line_becomes_an_entrys_day_and_a_zone_in_the_line_counts():
    line = OWN.replace("2026-11-26 20:40:00", "Nov 26 20:40:00 q4wrn-home spot[12]:")
    (call,) = read_log_bytes(line.encode(), today=date(2026, 12, 1)).calls
    assert f"{utc_of(call.when, 'Etc/GMT+2'):%Y-%m-%d %H:%M}" == "2026-11-26 22:40"
    assert f"{utc_of('2026-11-26 20:40:00+01:00', 'Etc/GMT+2'):%H:%M}" == "19:40"
    (unknown,) = read_log_bytes(line.encode()).calls
    assert utc_of(unknown.when, "") is None
