"""Logs as they are met: faults that were cured, lines that deny one, other encodings and breaks, moments in every form."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.hotspot.logs import reading, streams
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


def test_bounds_are_those_that_are_documented():
    assert (reading.LOG_MOST_BYTES, reading.MOST_CALLS, reading.MOST_UNKNOWN) in {
        (64 * 10**6, 300, 200),
        (64 * 2**20, 300, 200),
    }
    assert (reading.MOST_LINE, reading.MOST_SOUGHT, reading.MOST_SHAPES) == (400, 4_000, 20_000)


def test_utf_16_is_told_from_text_with_some_zeros_in_it():
    text = OWN.encode("utf-16-le")
    assert reading.plain_bytes(text) == OWN.encode()
    assert reading.plain_bytes(b"a\0b c d e f g h i j") == b"a\0b c d e f g h i j"
    assert reading.plain_bytes(b"ab\0\0cd") == b"ab\0\0cd"
    assert reading.plain_bytes(b"") == b""
    assert reading.plain_bytes(b"\r") == b"\n"


def test_lines_are_counted_and_a_last_break_is_no_line():
    assert read_log_bytes(b"a\nb\n").lines == read_log_bytes(b"a\nb").lines == 2
    assert read_log_bytes(b"").lines == 0
    assert read_log_bytes(b"\n\na\n").unknown_lines == 1


def test_unknown_kinds_come_by_how_often_they_are_and_each_with_its_first_line():
    found = read_log("one of a kind\n" + "frob 1\nfrob 2\nfrob 3\n" + "zap 5\nzap 6\n")
    assert [(item.text, item.times) for item in found.unknown] == [("frob 1", 3), ("zap 5", 2), ("one of a kind", 1)]


def test_what_is_told_says_how_often_and_where_first_and_last():
    line = EXAMPLES["login-password"]
    found = read_log(f"x\n{line}\ny\n{line.replace('20:31', '20:35')}\n")
    (told,) = found.faults
    assert (told.times, told.first, told.last) == (2, 2, 4)
    assert told.text.startswith("2026-11-26 20:35")
    assert not told.consequence


def test_a_call_says_its_line_and_all_its_figures():
    (call,) = read_log(f"x\n{OWN}\n").calls
    assert call == (
        2,
        "2026-11-26 20:40:00",
        "dmr",
        "Q4WRN",
        "99900",
        3.2,
        "call-heard",
        0.0,
        1.2,
        11_520,
        0,
        2,
        9_994_217,
    )
    bare = "no moment at all: dmr: network q9odl to CQCQCQ, 8.0 s, loss 1 %"
    (other,) = read_log(bare).calls
    assert (other.when, other.ber, other.bits) == ("no moment at all: d", None, 0)
    assert (other.offset_hz, other.slot, other.id) == (None, 0, 0)
    huge = OWN.replace("9994217", "9" * 30)
    assert read_log(huge).calls[0].id == 10**12


def test_only_the_latest_calls_are_kept(monkeypatch):
    monkeypatch.setattr(reading, "MOST_CALLS", 2)
    lines = [OWN.replace("20:40:00", f"20:4{at}:00") for at in range(4)]
    assert [item.when[-5:-3] for item in read_log("\n".join(lines)).calls] == ["43", "42"]


def test_a_rule_of_calls_comes_before_one_of_faults_that_would_read_the_line_too():
    line = "2026-11-26 20:41:00 dmr slot 2: network Q9ODL (9990077) to Network Lost, 8.0 s, loss 1 %"
    found = read_log(line)
    assert not found.faults
    assert found.calls[0].to == "Network Lost"


def test_a_followed_log_begins_anew_when_it_is_cut_or_replaced_and_only_then(tmp_path):
    path = tmp_path / "spot.log"
    path.write_text("one\n")
    followed = streams.GrowingLog(path)
    assert followed.more()
    assert not followed.more()
    path.write_text("two\n")  # as long as before: the same file, nothing more in it
    assert not followed.more()
    path.write_text("x\n")
    assert followed.more()
    assert followed.data == b"x\n"
    other = tmp_path / "new"
    other.write_text("three lines\n")
    other.replace(path)
    assert followed.more()
    assert followed.data == b"three lines\n"


def test_the_ladder_says_where_one_stands_and_what_is_next():
    from umbra_awl.core.hotspot.logs.ladder import RUNGS, standing
    from umbra_awl.core.hotspot.seek.talk import Status
    from umbra_awl.core.plan.model import Hotspot

    hotspot = Hotspot("h", "a", 434_000_000, 434_000_000)
    nothing = standing(hotspot, None, None)
    assert (nothing.highest, nothing.words, nothing.next) == (-1, "nothing is proven yet", RUNGS[0])
    first = standing(hotspot, Status(wifi="Wren"), None)
    assert first.reached[0] == "it joined Wren"
    short = OWN.replace(", BER 1.2 %, 11520 bits, offset +0 Hz", ", BER 0 %")
    assert standing(hotspot, None, read_log(short), ["Q4WRN"]).reached[5] == "your over is in its log, 0 %"


def test_a_walk_goes_on_until_something_is_not_known_or_stops():
    from umbra_awl.core.hotspot.logs.symptoms import shipped_symptoms, walk

    symptom = next(item for item in shipped_symptoms().symptom if len(item.ask) > 1)
    first = symptom.ask[0]
    begun = walk(symptom, {}, {})
    assert (begun.open, begun.end, len(begun.asked)) == (first, None, 1)
    stopped = walk(symptom, {}, {first.question: first.stop})
    assert (stopped.open, stopped.end) == (None, first)
    other = "no" if first.stop == "yes" else "yes"
    assert walk(symptom, {}, {first.question: other}).open == symptom.ask[1]
