"""Logs read by rules: every fault told, causes before consequences, unknown lines shown; the ladder; symptoms."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from umbra_awl.core.hotspot.logs.ladder import RUNGS, note_proof, standing
from umbra_awl.core.hotspot.logs.reading import MOST_LINE, own_overs, plain_bytes, read_log, read_log_bytes
from umbra_awl.core.hotspot.logs.rules import RulesError, parse_rules, shipped_rules
from umbra_awl.core.hotspot.logs.streams import GrowingLog
from umbra_awl.core.hotspot.logs.symptoms import Sights, probes, shipped_symptoms, walk
from umbra_awl.core.hotspot.match.fields import BY_KEY
from umbra_awl.core.hotspot.seek.talk import Status
from umbra_awl.standins.hotspot.faults import FAULT_LINES
from umbra_awl.standins.hotspot.machine import STARTS_S, Machine

GOOD = {
    "board.type": "simplex-70",
    "modes.dmr": "on",
    "dmr.master": "m.invalid",
    "station.login": "9994217",
    "station.call": "Q4WRN",
}
OWN = "2026-11-26 20:40:00 dmr slot 2: radio Q4WRN (9994217) to 99900, 3.2 s, loss 0 %, BER 1.2 %, 11520 bits, offset +0 Hz"


def log_of(*faults, **more):
    clock = [0.0]
    machine = Machine(lambda: clock[0], GOOD | more, faults=faults)
    clock[0] = STARTS_S + 1
    assert machine.up
    return read_log("\n".join(machine.lines))


@pytest.mark.parametrize("fault", sorted(FAULT_LINES))
def test_each_of_twelve_faults_is_told_with_its_setting_and_what_to_do(fault):
    found = log_of(fault)
    assert found.cause.rule.key == fault
    assert found.cause.rule.todo
    assert found.unknown_lines == 0
    assert found.cause.rule.field in {
        "",
        "modes",
        "id",
        "password",
        "transmit_hz",
        "image",
        "wifi",
        "modem",
        "master",
        "time_zone",
    }


def test_a_sound_log_has_states_and_no_fault():
    found = log_of()
    assert not found.faults
    assert [item.rule.key for item in found.states] == ["starts", "modem-ready", "joined", "logged-in"]


def test_the_first_cause_comes_before_its_consequences():
    text = (
        "2026-11-26 20:31:08 dmr: cannot resolve m.invalid\n2026-11-26 20:31:09 host: clock not set, 1970-01-01\n"
        "2026-11-26 20:31:10 net: wifi 'Wren-away' not found\n"
    )
    found = read_log(text)
    assert [(item.rule.key, item.consequence) for item in found.faults] == [
        ("no-network", False), ("not-resolved", True), ("clock-wrong", True),
    ]  # fmt: skip


def test_what_was_wrong_before_the_last_start_is_past_but_its_calls_stay():
    old = f"2026-11-26 20:31:04 modem: frequency 435500000 Hz refused: reserved segment\n{OWN}\n"
    found = read_log(
        old + "2026-11-26 20:50:00 host: starting, image Slate 2\n2026-11-26 20:51:00 modem: ready on 1, type x\n"
    )
    assert not found.faults
    assert len(found.calls) == 1
    assert read_log(old).cause.rule.key == "frequency-refused"


def test_calls_are_read_newest_first_and_own_overs_known():
    other = "2026-11-26 20:41:00 dstar: network Q9ODL to CQCQCQ, 8.0 s, loss 1 %"
    found = read_log(f"{OWN}\n{other}\n")
    assert [item.call for item in found.calls] == ["Q9ODL", "Q4WRN"]
    own = own_overs(found, ("Q4WRN",), ())
    assert [(item.ber, item.bits, item.offset_hz, item.slot, item.id) for item in own] == [
        (1.2, 11_520, 0, 2, 9_994_217)
    ]
    assert own_overs(found, (), (9_994_217,)) == own


def test_unknown_lines_are_shown_once_a_kind():
    found = read_log("".join(f"2026-11-26 20:31:{at:02d} frob: widget {at:02d}\n" for at in range(50)) + "\n\nhello\n")
    assert found.unknown_lines == 51
    assert [(item.times, item.text.startswith("2026")) for item in found.unknown] == [(50, True), (1, False)]


@given(st.binary(max_size=4_000))
def test_any_bytes_are_a_log_and_nothing_is_shown_that_cannot_be(data):
    found = read_log_bytes(data)
    shown = [item.text for item in found.unknown] + [item.text for item in (*found.faults, *found.states)]
    assert all(text.isprintable() and len(text) <= MOST_LINE for text in shown)
    plain = plain_bytes(data)
    assert found.lines == len(plain.split(b"\n")) - plain.endswith(b"\n") - (not plain)


@given(st.lists(st.sampled_from([rule.example for rule in shipped_rules().rule]), max_size=30))
def test_every_line_that_a_rule_exemplifies_is_read(lines):
    assert read_log("\n".join(lines)).unknown_lines == 0


def test_rules_are_checked_before_they_are_used():
    head = 'format = "umbra-awl log rules"\nversion = 1\n[[rule]]\nkey = "x"\nkind = "fault"\nmeans = ""\n'
    for pattern, example in (("(?=a)a", "aa"), (r"(a)\1", "aa"), ("(", "("), ("abc", "xyz"), ("code 7", "code 7")):
        with pytest.raises(RulesError):
            parse_rules(f"{head}pattern = '{pattern}'\nexample = '{example}'\n")
    assert parse_rules(f"{head}pattern = 'code \\d'\nexample = 'code 7'\n").rule[0].sought.search("CODE 9") is not None
    with pytest.raises(RulesError):
        parse_rules("format = 'umbra-awl log rules'\nversion = 2\nrule = []")


@pytest.mark.parametrize(
    ("pattern", "example", "line"),
    [
        (r"(a|a)*b", "b", "a" * 390),
        (r"((a+))+b", "ab", "a" * 390),
        (r"(\w|\d)+!", "a0!", "0" * 390),
        (r"(a{1,9}){1,99}b", "ab", "a" * 390),
        (r"(a?){40}a{40}b", "a" * 41 + "b", "a" * 390),
        (r".*.*.*.*.*.*.*.*=", "=", "a" * 390),
        (r"(a|a)*$|zz", "a" * 40 + "! zz", "a" * 390 + "!"),
    ],
)
def test_no_pattern_runs_away(pattern, example, line):
    """Each of these takes a backtracking matcher longer than anybody lives."""
    head = 'format = "umbra-awl log rules"\nversion = 1\n[[rule]]\nkey = "x"\nkind = "fault"\nmeans = ""\n'
    rules = parse_rules(f"{head}pattern = '{pattern}'\nexample = '{example}'\n")
    assert read_log_bytes(f"{line}\n".encode() * 50, rules).lines == 50


def test_a_followed_log_goes_on_waits_for_whole_lines_and_begins_anew(tmp_path):
    path = tmp_path / "spot.log"
    path.write_text("one\ntw")
    followed = GrowingLog(path)
    assert followed.more()
    assert followed.data == b"one\n"
    assert not followed.more()
    with path.open("a") as file:
        file.write("o\nthree\n")
    assert followed.more()
    assert followed.data == b"one\ntwo\nthree\n"
    path.write_text("new\n")
    assert followed.more()
    assert followed.data == b"new\n"
    path.unlink()
    with pytest.raises(OSError, match="No such file"):
        followed.more()


def test_the_ladder_stands_where_the_highest_proof_is(plan):
    hotspot = plan.hotspots[0]
    assert standing(hotspot, None, None).words == "nothing is proven yet"
    page = standing(hotspot, Status("x", "up", wifi="Harrowquay-7"), None)
    assert RUNGS[page.highest].key == "page"
    found = read_log(f"{OWN}\n2026-11-26 20:42:00 dmr slot 2: echo back to Q4WRN, 3.0 s\n")
    assert RUNGS[standing(hotspot, None, found, ("Q4WRN",)).highest].key == "echo"
    noted = note_proof(hotspot, "answered", "2026-11-26").apply(plan)
    top = standing(noted.hotspots[0], None, None)
    assert top.next is None
    assert note_proof(noted.hotspots[0], "answered", "2026-11-27").apply(noted).hotspots[0].proofs == ()


def test_somebody_elses_echo_proves_nothing_of_ones_own(plan):
    found = read_log(f"{OWN}\n2026-11-26 20:42:00 dmr slot 2: echo back to Q4WRN, 3.0 s\n")
    assert standing(plan.hotspots[0], None, found, ("Q9ODL",)).highest == -1


def symptom(key):
    return next(item for item in shipped_symptoms().symptom if item.key == key)


def test_questions_that_the_software_can_answer_are_not_asked():
    seen = probes(Sights(status=Status("x", "up", modem="none"), log=log_of("frequency-refused"), page=True))
    found = walk(symptom("no-picture"), seen, {})
    assert found.end.page == "place"
    assert all(item.seen for item in found.asked)


def test_what_it_cannot_see_is_asked_and_the_answer_leads_on():
    first = walk(symptom("not-here"), {}, {})
    assert first.open.question.startswith("Was the phone's sharing on")
    second = walk(symptom("not-here"), {"wifi-name": False}, {first.open.question: "yes"})
    assert second.end.page == "wifi"
    assert "capital" in second.end.means
    assert walk(symptom("not-here"), {}, {first.open.question: "no"}).end is not None


@pytest.mark.parametrize("item", shipped_symptoms().symptom, ids=lambda item: item.key)
def test_every_symptom_ends_and_each_of_its_answers_has_an_end(item):
    for ask in item.ask:
        told = {earlier.question: "no" if earlier.stop == "yes" else "yes" for earlier in item.ask}
        assert walk(item, {}, told | {ask.question: ask.stop}).end is ask
    assert walk(item, {}, told).end is None
    assert {ask.page for ask in item.ask} <= {"path", "place", "match", "calibrate", "wifi", "find", "phone"}


def test_probes_say_nothing_of_what_is_not_known():
    assert probes(Sights()) == {}
    assert probes(Sights(ber=4.0))["ber"] is False
    assert BY_KEY["tx_hz"].radio
