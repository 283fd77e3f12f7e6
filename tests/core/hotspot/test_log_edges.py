"""What is known of a hotspot by looking, each by itself: probes of symptoms, rungs of the ladder, own overs as entries."""

from datetime import UTC, datetime

import pytest
from msgspec.structs import replace

from umbra_awl.core.hotspot.logs.ladder import RUNGS, standing
from umbra_awl.core.hotspot.logs.reading import plain_bytes, read_log, read_log_bytes
from umbra_awl.core.hotspot.logs.rules import shipped_rules
from umbra_awl.core.hotspot.logs.symptoms import BER_BAD, LOSS_BAD, Sights, probes
from umbra_awl.core.hotspot.match.sheet import match_sheet
from umbra_awl.core.hotspot.seek.talk import Status
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
