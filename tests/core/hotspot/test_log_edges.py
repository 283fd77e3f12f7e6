"""What is known of a hotspot by looking, each by itself: probes of symptoms, rungs of the ladder, own overs as entries."""

from datetime import UTC, datetime

import pytest
from msgspec.structs import replace

from umbra_awl.core.hotspot.logs import reading, streams
from umbra_awl.core.hotspot.logs.ladder import RUNGS, Standing, standing
from umbra_awl.core.hotspot.logs.reading import plain_bytes, read_log, read_log_bytes
from umbra_awl.core.hotspot.logs.rules import shipped_rules
from umbra_awl.core.hotspot.logs.symptoms import (
    BER_BAD,
    LOSS_BAD,
    SHIPPED,
    Sights,
    SymptomsError,
    parse_symptoms,
    probes,
    shipped_symptoms,
    walk,
)
from umbra_awl.core.hotspot.match.sheet import match_sheet
from umbra_awl.core.hotspot.seek.talk import Status
from umbra_awl.core.logbook import from_hotspot
from umbra_awl.core.logbook.from_hotspot import entries_of, utc_of

RULES = {item.key: item for item in shipped_rules().rule}
ON = Status("spot", "up", modem="ready", logged_in=True)


def log_with(*keys):
    return read_log("\n".join(RULES[key].example for key in keys) + "\n")


def of_loss(*rates):
    line = "2026-11-26 20:4{}:00 dmr slot 2: radio Q4WRN to 99900, 3.2 s, loss {} %, BER 1.2 %"
    return read_log("\n".join(line.format(at, rate) for at, rate in enumerate(rates)) + "\n")


@pytest.mark.parametrize("fault", ["wrong-modem", "port-busy", "firmware-old"])
def test_a_fault_of_the_modem_says_no_whatever_its_page_says(fault):
    assert probes(Sights(log=log_with(fault)))["modem"] is False
    assert probes(Sights(status=ON, log=log_with(fault)))["modem"] is False


def test_the_modem_is_known_by_the_page_of_a_hotspot_that_is_up_only():
    assert probes(Sights(status=ON))["modem"] is True
    assert probes(Sights(status=Status("x", "up", modem="none")))["modem"] is False
    assert "modem" not in probes(Sights(status=Status("x", "starting", modem="ready")))


@pytest.mark.parametrize("key", [key for key in RULES if key.startswith("login")] + ["not-resolved", "no-network"])
def test_a_fault_of_the_login_says_no_whatever_its_page_says(key):
    assert probes(Sights(status=ON, log=log_with(key)))["logged-in"] is False


def test_the_login_is_known_by_the_page_of_a_hotspot_that_is_up_only():
    assert probes(Sights(status=ON))["logged-in"] is True
    assert probes(Sights(status=Status("x", "up")))["logged-in"] is False
    assert "logged-in" not in probes(Sights(status=Status("x", "starting", logged_in=True)))
    assert probes(Sights(status=ON, log=log_with("frequency-refused")))["logged-in"] is True


def test_modes_and_frequency_are_told_by_the_log_alone():
    assert "modes" not in probes(Sights(status=ON))
    assert probes(Sights(log=log_with("no-mode")))["modes"] is False
    assert probes(Sights(log=log_with("modem-ready")))["modes"] is True
    assert probes(Sights(log=log_with("modem-ready")))["frequency"] is True
    assert probes(Sights(log=log_with("frequency-refused")))["frequency"] is False


def test_rows_of_the_sheet_say_something_only_where_two_values_are_known():
    open_ = match_sheet({"tx_hz": "434612500", "rx_hz": "434612500"}, {}, {})
    assert not {"match", "hears-on"} & probes(Sights(rows=open_)).keys()
    joined = match_sheet({"rx_hz": "434612500", "tx_hz": "1"}, {}, {"rx_hz": "434612500"})
    assert {key: probes(Sights(rows=joined))[key] for key in ("match", "hears-on")} == {"match": True, "hears-on": True}
    by_radio = match_sheet({"rx_hz": "434612500"}, {"rx_hz": "434612500"}, {})
    assert probes(Sights(rows=by_radio))["hears-on"] is True
    cut = match_sheet({"rx_hz": "434612500", "color_code": "1"}, {}, {"rx_hz": "434600000", "color_code": "1"})
    assert probes(Sights(rows=cut))["hears-on"] is False
    assert probes(Sights(rows=cut))["match"] is False
    elsewhere = match_sheet({"color_code": "1"}, {}, {"color_code": "2"})
    assert "hears-on" not in probes(Sights(rows=elsewhere))


def test_loss_is_bad_above_its_limit_and_the_mean_counts():
    assert probes(Sights(log=of_loss(LOSS_BAD)))["loss"] is False
    assert probes(Sights(log=of_loss(LOSS_BAD + 1)))["loss"] is True
    assert probes(Sights(log=of_loss(0, 9)))["loss"] is False
    assert probes(Sights(log=of_loss(2, 9)))["loss"] is True
    assert "loss" not in probes(Sights(log=log_with("modem-ready")))


def test_an_error_rate_is_bad_from_its_limit_on_and_is_a_line_in_the_log():
    assert probes(Sights(ber=BER_BAD))["ber"] is False
    assert probes(Sights(ber=BER_BAD - 0.1))["ber"] is True
    assert probes(Sights(ber=0.0))["line"] is True
    assert "echo" not in probes(Sights(log=log_with("call-heard")))
    assert probes(Sights(log=log_with("call-heard", "echo")))["echo"] is True


def test_the_ladder_stands_on_its_lowest_rung_and_tells_the_next(plan):
    hotspot = plan.hotspots[0]
    none = standing(hotspot, None, None)
    assert (none.words, none.next) == ("nothing is proven yet", RUNGS[0])
    first = standing(hotspot, Status("x", "up", wifi="Wren-Away"), None)
    assert "Wren-Away" in "".join(first.reached)
    at = [rung.key for rung in RUNGS].index("display")
    by_note = standing(replace(hotspot, proofs=()), None, log_with("call-network"))
    assert "others' calls" in by_note.reached[[rung.key for rung in RUNGS].index("passing")]
    assert standing(hotspot, Status("x", "up"), None).highest == [rung.key for rung in RUNGS].index("page")
    assert (
        standing(hotspot, Status("x", "up", calls=("Q7QBY",)), None).reached[
            [rung.key for rung in RUNGS].index("passing")
        ]
        == "calls are on its page"
    )
    assert not standing(hotspot, Status("x", "up"), None).reached[at]
    for number, rung in enumerate(RUNGS):
        assert none.reached[number] == ""
        assert f"rung {number + 1} of {len(RUNGS)}" in none._replace(highest=number).words
        assert none._replace(highest=number).words.startswith(rung.words)


def over(to="99900", at="20:40:00", slot=1, mode="dmr", call="Q4WRN"):
    return f"2026-11-26 {at} {mode} slot {slot}: radio {call} to {to}, 3.2 s, loss 0 %, BER 1.2 %"


def entries(index, *lines, hotspot="home"):
    found = next(item for item in index.plan.hotspots if item.key == hotspot)
    return entries_of(index, found, read_log("\n".join(lines) + "\n"))


def test_an_over_goes_to_the_route_of_its_slot_and_destination(index):
    slots = {item.slot for item in index.plan.routes if (item.service, item.destination) == ("home-dmr", "isles-wide")}
    assert slots == {1}
    assert [index.routes[item.route].slot for item in entries(index, over(slot=1))] == [1]
    assert not entries(index, over(slot=2))
    assert not entries(index, over(to="55555"))
    assert not entries(index, over(mode="dstar"))
    assert not entries(index, over(call="Q7QBY"))


def test_a_destination_is_known_by_its_name_and_its_number(index):
    destination = index.destinations["isles-wide"]
    by_name = f"2026-11-26 20:40:00 dmr: radio Q4WRN to {destination.name.upper()}, 3.2 s, loss 0 %, BER 1.2 %"
    assert entries(index, by_name)[0].route == entries(index, over())[0].route
    assert not entries(index, by_name.replace(destination.name.upper(), "Nobody at all"))


@pytest.mark.parametrize(
    ("back", "grade"), [("20:40:03", "echo"), ("20:40:33", "echo"), ("20:40:34", "own-key"), ("20:39:59", "own-key")]
)
def test_an_echo_counts_within_half_a_minute_behind_the_over(index, back, grade):
    echo = index.destinations["echo"].number
    line = over(
        to=str(echo),
        slot=next(item.slot for item in index.plan.routes if (item.service, item.destination) == ("home-dmr", "echo")),
    )
    answer = f"2026-11-26 {back} dmr slot 2: echo back to Q4WRN, 3.0 s"
    (entry,) = entries(index, line, answer)
    assert entry.grade == grade


def test_an_echo_at_the_very_end_of_its_time_counts(index):
    echo = index.destinations["echo"].number
    slot = next(item.slot for item in index.plan.routes if (item.service, item.destination) == ("home-dmr", "echo"))
    line = over(to=str(echo), slot=slot).replace("3.2 s", "3.0 s")
    for back, grade in (("20:40:33", "echo"), ("20:40:34", "own-key"), ("20:40:00", "echo")):
        (entry,) = entries(index, line, f"2026-11-26 {back} dmr slot 2: echo back to Q4WRN, 3.0 s")
        assert entry.grade == grade, back


def test_what_is_taken_already_is_not_taken_again(index):
    made = entries(index, over(), over(at="20:50:00"))
    assert len(made) == 2
    assert made[0].utc < made[1].utc
    hotspot = index.plan.hotspots[0]
    left = entries_of(index, hotspot, read_log("\n".join((over(), over(at="20:50:00"))) + "\n"), [made[0].key])
    assert [item.key for item in left] == [made[1].key]


def test_moments_are_told_in_the_zone_of_the_hotspot():
    assert utc_of("2026-11-26 20:40:00", "Etc/GMT+2") == datetime(2026, 11, 26, 22, 40, tzinfo=UTC)
    assert utc_of("2026-11-26T20:40:00+01:00", "Etc/GMT+2") == datetime(2026, 11, 26, 19, 40, tzinfo=UTC)
    assert utc_of("yesterday", "") is None
    assert utc_of("2026-11-26 20:40:00", "No/Where") is None


@pytest.mark.parametrize("coding", ["utf-16", "utf-16-le", "utf-8-sig"])
@pytest.mark.parametrize("end", ["\n", "\r\n", "\r"])
def test_whatever_a_log_is_written_in_it_says_the_same(coding, end):
    text = end.join([RULES["wrong-modem"].example, RULES["starts"].example, RULES["port-busy"].example, ""])
    found = read_log_bytes(text.encode(coding))
    assert [item.rule.key for item in found.faults] == ["port-busy"]
    assert found.lines == 3
    assert plain_bytes(text.encode(coding)).decode().count("\n") == 3


def test_only_what_comes_behind_the_last_start_counts_and_lines_are_counted_from_one():
    lines = [RULES[key].example for key in ("starts", "wrong-modem", "starts", "port-busy", "port-busy")]
    (found,) = read_log("\n".join(lines) + "\n").faults
    assert (found.rule.key, found.first, found.last, found.times) == ("port-busy", 4, 5, 2)
    first_line = log_with("port-busy", "joined").faults[0]
    assert (first_line.first, first_line.last) == (1, 1)


def test_a_fault_on_the_very_last_line_is_not_past_and_one_cured_right_after_is():
    ready = RULES["modem-ready"].example
    assert [item.rule.key for item in read_log(f"{ready}\n{RULES['port-busy'].example}\n").faults] == ["port-busy"]
    cured = read_log(f"{RULES['port-busy'].example}\n{ready}\n")
    assert not cured.faults
    assert [item.rule.key for item in cured.past] == ["port-busy"]


# a log line by line


def test_lines_are_counted_with_and_without_a_last_break():
    assert read_log("one thing\nanother thing\n").lines == 2
    assert read_log("one thing\nanother thing").lines == 2
    assert read_log("").lines == 0
    assert read_log("x\n\n\ny\n").lines == 4


@pytest.mark.parametrize("spaced", ["a\0b\0c\0\n\0", "a\0b\0"])
def test_every_other_byte_being_nothing_is_utf_16_and_a_single_one_is_not(spaced):
    assert b"\0" not in plain_bytes(spaced.encode("latin-1"))
    assert plain_bytes(b"a\0bcdefghij") == b"a\0bcdefghij"
    assert plain_bytes(b"a\0b\0cdefgh") == b"a\0b\0cdefgh"  # two of five


def test_breaks_of_three_kinds_are_one():
    assert plain_bytes(b"a\r\nb\rc\nd") == b"a\nb\nc\nd"
    assert plain_bytes(b"\xef\xbb\xbfa") == b"a"


def test_of_too_many_kinds_of_lines_the_newest_are_looked_at(monkeypatch):
    monkeypatch.setattr(reading, "MOST_SHAPES", 3)
    fault = RULES["wrong-modem"].example
    shapes = ["alpha", "beta", "gamma", "delta"]
    assert read_log("\n".join([*shapes, fault]) + "\n").faults
    assert not read_log("\n".join([fault, *shapes]) + "\n").faults
    assert read_log("\n".join([fault, *shapes[:2]]) + "\n").faults


def test_unknown_lines_are_shown_once_a_kind_the_commonest_first(monkeypatch):
    text = "alpha 1\nbeta 1\nbeta 2\nbeta 3\ngamma\ngamma" + "\n"
    found = read_log(text)
    assert [(item.text, item.times) for item in found.unknown] == [("beta 1", 3), ("gamma", 2), ("alpha 1", 1)]
    assert found.unknown_lines == 6
    monkeypatch.setattr(reading, "MOST_UNKNOWN", 2)
    few = read_log(text)
    assert [item.text for item in few.unknown] == ["beta 1", "gamma"]
    assert few.unknown_lines == 6


def test_a_fault_says_how_often_and_where_first_and_last():
    fault = RULES["wrong-modem"].example
    (told,) = read_log(f"x\n{fault}\ny\n{fault}" + "\n").faults
    assert (told.times, told.first, told.last, told.consequence) == (2, 2, 4, False)
    assert told.text == fault


def test_causes_stand_before_what_follows_from_them_and_these_say_so():
    after = next(item for item in shipped_rules().rule if item.kind == "fault" and set(item.after) & RULES.keys())
    cause = next(key for key in after.after if key in RULES and RULES[key].kind == "fault")
    found = read_log(f"{after.example}\n{RULES[cause].example}" + "\n")
    assert [item.consequence for item in found.faults] == [False, True]
    assert found.cause.rule.key == cause


def test_a_line_is_shown_so_far_and_without_what_cannot_be_seen():
    assert reading.clean("a" * 401) == "a" * 400
    assert reading.clean(b"\xc3\xa4\x07b") == "ä·b"
    assert reading.clean(("ü" * 400 + "x").encode()) == "ü" * 400


def test_the_latest_calls_are_kept_newest_first(monkeypatch):
    line = "2026-11-26 20:40:{:02d} dmr slot 2: radio Q4WRN to 99900, 3.2 s, loss 1 %, BER 1.2 %"
    text = "\n".join(line.format(at) for at in range(6)) + "\n"
    monkeypatch.setattr(reading, "MOST_CALLS", 4)
    calls = read_log(text).calls
    assert [item.line for item in calls] == [6, 5, 4, 3]
    assert (calls[0].seconds, calls[0].loss, calls[0].ber, calls[0].slot, calls[0].bits) == (3.2, 1.0, 1.2, 2, 0)


def test_what_a_line_does_not_tell_is_nothing():
    rule = (
        RULES["call-heard"] if "call-heard" in RULES else next(item for item in RULES.values() if item.kind == "call")
    )
    made = reading._call(1, "now", rule.meant, {"call": "q4wrn", "offset": "-150", "bits": "1e15", "id": "x"})
    assert (made.call, made.offset_hz, made.bits, made.id, made.seconds, made.slot) == (
        "Q4WRN",
        -150,
        10**12,
        0,
        0.0,
        0,
    )
    bare = reading._call(1, "now", rule.meant, {})
    assert (bare.call, bare.to, bare.loss, bare.ber, bare.offset_hz, bare.mode) == ("", "", None, None, None, "")


def test_a_growing_log_is_read_on_by_whole_lines_and_anew_where_it_was_cut(tmp_path):
    path = tmp_path / "spot.log"
    path.write_bytes(b"one\ntw")
    followed = streams.GrowingLog(path)
    assert followed.more()
    assert followed.data == b"one\n"
    assert not followed.more()
    with path.open("ab") as file:
        file.write(b"o\nthree\n")
    assert followed.more()
    assert followed.data == b"one\ntwo\nthree\n"
    path.write_bytes(b"new\n")
    assert followed.more()
    assert followed.data == b"new\n"


def test_own_overs_are_those_of_own_calls_and_ids_that_the_hotspot_heard():
    line = "2026-11-26 20:40:00 dmr slot 2: {} {} to 99900, 3.2 s, loss 1 %, BER 1.2 %"
    found = read_log("\n".join([line.format("radio", "Q4WRN"), line.format("radio", "Q9ODL")]) + "\n")
    assert [item.call for item in reading.own_overs(found, ["Q4WRN"], [])] == ["Q4WRN"]
    assert reading.own_overs(found, [], [0]) == []
    by_id = found._replace(calls=tuple(item._replace(id=9_994_217) for item in found.calls[:1]))
    assert len(reading.own_overs(by_id, [], [9_994_217])) == 1


def test_questions_are_asked_until_one_stops_or_none_is_left():
    symptom = next(item for item in shipped_symptoms().symptom if len(item.ask) > 1)
    begun = walk(symptom, {}, {})
    assert begun.open == symptom.ask[0]
    assert (begun.end, len(begun.asked), begun.asked[0].seen) == (None, 1, False)
    ends = walk(symptom, {}, {symptom.ask[0].question: symptom.ask[0].stop})
    assert (ends.open, ends.end) == (None, symptom.ask[0])
    others = {ask.question: "no" if ask.stop == "yes" else "yes" for ask in symptom.ask}
    through = walk(symptom, {}, others)
    assert (through.open, through.end, len(through.asked)) == (None, None, len(symptom.ask))


def test_symptoms_of_a_newer_program_are_not_read():
    text = SHIPPED.read_text("utf-8")
    assert parse_symptoms(text)
    with pytest.raises(SymptomsError, match="newer"):
        parse_symptoms(text.replace("version = 1", "version = 2", 1))


def test_the_rungs_of_the_ladder_are_counted_from_one(plan):
    hotspot = replace(plan.hotspots[0], proofs=())
    nothing = standing(hotspot, None, None)
    assert nothing.words == "nothing is proven yet"
    assert nothing.next == RUNGS[0]
    first = nothing._replace(highest=0)
    assert first.words == f"{RUNGS[0].words}: rung 1 of {len(RUNGS)}"
    assert first._replace(highest=len(RUNGS) - 1).next is None


def test_only_so_many_overs_of_a_log_are_taken_and_an_echo_at_the_very_end_of_its_time_counts(index, monkeypatch):
    monkeypatch.setattr(from_hotspot, "MOST_TAKEN", 2)
    lines = [over(at=f"20:4{at}:00") for at in range(4)]
    assert len(entries(index, *lines)) == 2


def test_the_last_rung_but_one_still_has_a_next_one():
    before = Standing(("",) * len(RUNGS), len(RUNGS) - 2)
    assert before.next == RUNGS[-1]


def test_a_line_is_looked_at_so_far_and_no_further():
    fault = RULES["wrong-modem"].example
    assert read_log("-" * (4_000 - len(fault)) + fault + "\n").faults
    assert not read_log("-" * 4_000 + " " + fault + "\n").faults


def test_a_reading_without_anything_has_no_cause():
    assert read_log("x\n").cause is None
    two = read_log(RULES["wrong-modem"].example + "\n" + RULES["port-busy"].example + "\n")
    assert two.cause == two.faults[0]


def test_so_much_of_a_log_is_looked_at_and_shown():
    assert (reading.LOG_MOST_BYTES, reading.MOST_CALLS, reading.MOST_UNKNOWN) == (64_000_000, 300, 200)
    assert (reading.MOST_LINE, reading.MOST_SOUGHT, reading.MOST_SHAPES) == (400, 4_000, 20_000)
    assert from_hotspot.MOST_TAKEN == 300


@pytest.mark.parametrize(("when", "clock"), [
    ("2026-11-26 20:41:00", "20:41:00"), ("Nov 26 20:41:00", "Nov 26 20:41:00"), ("20:41:00", "20:41:00"), ("", ""),
])  # fmt: skip
def test_the_clock_of_a_call_is_its_time_of_day(when, clock):
    assert reading.HeardCall(1, when, "dmr", "Q4WRN", "9", 1.0, "call-heard").clock == clock


@pytest.mark.parametrize("letters", [1, 200, 5_000])
def test_utf_16_without_a_mark_is_known_by_its_beginning(letters):
    text = "x" * letters + "\n"
    assert plain_bytes(text.encode("utf-16-le")) == text.encode()
    assert plain_bytes(text.encode()) == text.encode()
    odd = b"x\0" * 100 + b"xy" * 101
    assert plain_bytes(odd) == odd


def test_a_log_without_a_last_break_reads_as_one_with_it():
    line = RULES["no-network"].example
    with_break, without = read_log(line + "\n"), read_log(line)
    assert [item[:4] for item in with_break.faults] == [item[:4] for item in without.faults]
    assert with_break.lines == without.lines == 1
    assert with_break.unknown_lines == without.unknown_lines == 0


def test_a_call_in_other_words_begins_and_ends_and_is_one_call():
    text = (
        "2026-11-26 20:41:00 start of transmission, slot 2, from Q3AMB to TG 99900\n"
        "2026-11-26 20:41:08 end of transmission, slot 2, from Q3AMB to TG 99900, 8.0 seconds\n"
    )
    found = read_log(text)
    assert [(item.call, item.to, item.seconds, item.line) for item in found.calls] == [("Q3AMB", "99900", 8.0, 2)]
    assert found.unknown_lines == 0


def test_who_answers_on_a_talk_group_is_no_echo_and_the_same_line_twice_is_one_entry(index):
    answer = "2026-11-26 20:40:05 dmr slot 1: echo back to Q4WRN, 3.0 s"
    (entry,) = entries(index, over(), answer)
    assert entry.grade == "own-key"
    assert len(entries(index, over(), over())) == 1
    assert len(entries(index, over(), over(at="20:41:00"))) == 2
