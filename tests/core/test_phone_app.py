"""The phone app: its list is taken and kept, own entries stay, what goes is said, the radio it mirrors is the read-back."""

from datetime import datetime
from threading import Thread

import httpx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import AccessEntry, CallSign, Memory
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.app.carry import app_for, hand_over, settings_for, take
from umbra_awl.core.transfer.app.form import AppList, AppSettings, app_bytes, parse_app, to_hand_on
from umbra_awl.core.transfer.app.merge import key_of, merged
from umbra_awl.core.transfer.app.phone import SimulatedPhone
from umbra_awl.core.transfer.errors import (
    AppAsleepError,
    AppFormError,
    NoPhoneError,
    NotProvenError,
    StaleError,
    WrongModelError,
)
from umbra_awl.core.transfer.shelf import Shelf
from umbra_awl.standins.phone.app import PhoneApp, PhoneServer

FELL = shipped_profiles()["fell-d2"]
NOW = datetime(2026, 11, 26, 22, 0, 0)
OWN = AccessEntry(1, "Ferry", "Q0FRY  B", "Q0FRY  G", 438_325_000, 430_725_000)
ALDER, BIRCH = app_for(FELL, "Alder"), app_for(FELL, "Birch")


@pytest.fixture
def served(tmp_path):
    """A phone with one entry of its owner's own."""
    path = tmp_path / "phone.json"
    path.write_bytes(app_bytes(AppList("fell-d2", (OWN,), (CallSign(1, "Corin", "Q2COR"),), AppSettings("Q4WRN"))))
    app = PhoneApp(path, "fell-d2", "Alder")
    server = PhoneServer(app)
    thread = Thread(target=server.serve_forever, args=(0.02,), daemon=True)
    thread.start()
    yield app, SimulatedPhone(f"http://127.0.0.1:{server.server_port}")
    server.shutdown()
    server.server_close()
    thread.join()


@pytest.fixture
def given_plan(plan, tmp_path):
    index = PlanIndex(plan, TODAY)
    radio = index.radios["fell"]
    return fit(index, radio, FELL).memory, radio, FELL, Shelf(tmp_path / "shelf")


def test_there_and_back(served, given_plan):
    app, phone = served
    memory, radio, profile, shelf = given_plan
    before = app.own
    taken = take(phone, memory, radio, profile, shelf, NOW)
    assert app.own == app.on_radio == before, "taking changes nothing"
    assert [parse_app(path.read_bytes()) for path in shelf.folder.glob("*phone.app.json")] == [before]
    fates = {(line.fate, line.name) for line in taken.merge.lines}
    assert ("own, stays", "Ferry") in fates
    assert ("own, stays", "Corin") in fates
    assert {line.name for line in taken.merge.lines if line.fate == "added"} >= {row.name for row in memory.access_list}
    found = hand_over(phone, taken, shelf)
    assert found == app.on_radio == taken.merge.made
    again = take(phone, memory, radio, profile, shelf, NOW.replace(hour=23))
    assert again.merge.changes == 0


def test_what_left_the_plan_goes_and_what_is_ones_own_stays(served, given_plan):
    _app, phone = served
    memory, radio, profile, shelf = given_plan
    hand_over(phone, take(phone, memory, radio, profile, shelf, NOW), shelf)
    fewer = replace(memory, access_list=memory.access_list[1:])
    taken = take(phone, fewer, radio, profile, shelf, NOW.replace(hour=23))
    gone = [line.name for line in taken.merge.lines if line.fate == "goes"]
    assert gone == [memory.access_list[0].name]
    assert "Ferry" in [row.name for row in taken.merge.made.access_list]


def test_a_friends_list_is_laid_in_and_stays_ones_own(served, given_plan):
    _app, phone = served
    memory, radio, profile, shelf = given_plan
    friend = AppList("fell-d2", (replace(OWN, name="Friend", rpt1="Q0FRD  B"), *memory.access_list))
    hand_over(phone, take(phone, memory, radio, profile, shelf, NOW, friend=friend), shelf)
    taken = take(phone, memory, radio, profile, shelf, NOW.replace(hour=23))
    assert ("own, stays", "Friend") in {(line.fate, line.name) for line in taken.merge.lines}
    with pytest.raises(WrongModelError):
        take(phone, memory, radio, profile, shelf, NOW.replace(hour=23), friend=AppList("beck-m5"))


def test_a_list_changed_on_the_phone_meanwhile_is_not_overwritten(served, given_plan):
    app, phone = served
    memory, radio, profile, shelf = given_plan
    taken = take(phone, memory, radio, profile, shelf, NOW)
    app.own = replace(app.own, access_list=())
    with pytest.raises(StaleError, match="changed since"):
        hand_over(phone, taken, shelf)
    assert app.own.access_list == ()


def test_a_phone_that_sleeps_says_what_to_do(served, given_plan):
    app, phone = served
    memory, radio, profile, shelf = given_plan
    taken = take(phone, memory, radio, profile, shelf, NOW)
    app.asleep = True
    with pytest.raises(AppAsleepError, match="Wake it"):
        hand_over(phone, taken, shelf)
    assert phone.front().link == "asleep"
    app.asleep = False
    app._left = 2
    with pytest.raises(AppAsleepError):
        hand_over(phone, taken, shelf)
    app.asleep = False
    hand_over(phone, take(phone, memory, radio, profile, shelf, NOW.replace(hour=1)), shelf)
    assert app.own == taken.merge.made


def test_an_app_whose_radio_did_not_take_it_is_not_proven(served, given_plan):
    class Deaf(PhoneApp):
        def answer(self, *, yes):
            self.own = self._pending

    app, phone = served
    app.__class__ = Deaf
    memory, radio, profile, shelf = given_plan
    with pytest.raises(NotProvenError, match="as the app mirrors it"):
        hand_over(phone, take(phone, memory, radio, profile, shelf, NOW), shelf)


def test_no_phone_another_radio_and_no_address(served, given_plan):
    _app, phone = served
    with pytest.raises(WrongModelError, match="beside a “fell-d2”"):
        phone.present("beck-m5")
    for address in ("http://127.0.0.1:9", "nonsense", "http://[", "ftp://x.test"):
        with pytest.raises(NoPhoneError, match="No app answers"):
            SimulatedPhone(address).present("fell-d2")


@pytest.mark.parametrize(
    ("answer", "error"),
    [
        (lambda _request: httpx.Response(200, content=b"not json"), AppFormError),
        (lambda _request: httpx.Response(200, json=["a"]), AppFormError),
        (lambda _request: httpx.Response(500, text="<b>broken"), AppFormError),
        (lambda _request: httpx.Response(200, content=b"x" * 5_000_000), AppFormError),
        (lambda _request: httpx.Response(302, headers={"location": "http://elsewhere.invalid"}), AppFormError),
    ],
)
def test_an_answer_of_any_kind_is_refused_in_words(answer, error):
    phone = SimulatedPhone("http://phone.test", httpx.MockTransport(answer))
    for ask in (phone.front, lambda: phone.present("fell-d2"), lambda: phone.replace(AppList("fell-d2"))):
        with pytest.raises(error):
            ask()


def test_what_an_app_does_not_carry_is_told_and_left_alone(given_plan):
    memory, radio, _profile, _shelf = given_plan
    wanted = replace(settings_for(memory, radio), units="knots")
    made = merged(AppList("fell-d2", call_signs=(CallSign(1, "Corin", "Q2COR"),)), memory, wanted, FELL, BIRCH)
    assert set(made.missing) >= {"call signs", "units"}
    assert made.made.call_signs == (CallSign(1, "Corin", "Q2COR"),)
    assert made.made.settings.units == ""
    assert merged(AppList("fell-d2"), memory, wanted, FELL, ALDER).missing == ()


def test_what_the_app_is_to_set_is_set_and_told(given_plan):
    memory, radio, _profile, _shelf = given_plan
    chosen = replace(
        radio,
        settings=replace(radio.settings, message="Wren here", data_by_itself=False, fast_data=True, units="knots"),
    )
    wanted = settings_for(memory, chosen)
    made = merged(AppList("fell-d2", settings=AppSettings("Q0OLD", message="Wren here")), memory, wanted, FELL, ALDER)
    assert made.made.settings == AppSettings("Q4WRN", "HAND", "Wren here", None, "key", True, "", "knots")
    told = {line.name: (line.fate, line.detail) for line in made.lines if line.table == "settings"}
    assert told["call sign"] == ("changed", "Q0OLD → Q4WRN")
    assert told["message"][0] == "same"
    assert told["fast data"] == ("changed", "– → on")


def test_handing_on_leaves_out_who_one_is():
    made = AppList("fell-d2", (OWN,), (), AppSettings("Q4WRN", "HAND", "Wren", position="gps", units="knots"))
    text = app_bytes(to_hand_on(made)).decode()
    assert "Q4WRN" not in text
    assert "Wren" not in text
    assert "gps" not in text
    assert parse_app(text.encode()).access_list == (OWN,)


CALLS = st.text("Q0123ABC", min_size=3, max_size=6)
ENTRIES = st.builds(
    lambda call, module, name, hz: AccessEntry(1, name, f"{call:<7}{module}", f"{call:<7}G", hz, hz),
    CALLS, st.sampled_from("ABC"), st.text("abcd ", max_size=8), st.sampled_from([438_450_000, 145_600_000]),
)  # fmt: skip
LISTS = st.lists(ENTRIES, max_size=6, unique_by=key_of).map(tuple)


@given(LISTS, LISTS, st.integers(0, 8))
def test_any_two_lists_merge_without_losing_anything_untold(have, wanted, room):
    profile = replace(FELL, limits=replace(FELL.limits, access_list=max(room, len(wanted))))
    made = merged(AppList("fell-d2", have), Memory("fell-d2", access_list=wanted), AppSettings(), profile, ALDER)
    kept = [key_of(row) for row in made.made.access_list]
    assert len(kept) == len(set(kept)) <= max(room, len(wanted))
    assert [key_of(row) for row in wanted] == kept[: len(wanted)]
    told = sum(line.fate in {"own, stays", "goes"} for line in made.lines)
    assert told == len({key_of(row) for row in have} - set(map(key_of, wanted)))
    assert [row.number for row in made.made.access_list] == list(range(1, len(kept) + 1))


@given(st.binary(max_size=300))
def test_noise_is_no_list(noise):
    with pytest.raises(AppFormError):
        parse_app(noise)


@pytest.mark.parametrize(
    ("spoil", "words"),
    [
        (lambda made: replace(made, version=9), "form 9"),
        (lambda made: replace(made, access_list=(replace(OWN, rx_hz=0),)), "no access point"),
        (lambda made: replace(made, access_list=(OWN,) * 10_001), "more than 10,000"),
    ],
)
def test_a_spoiled_list_is_refused_with_a_sentence(spoil, words):
    with pytest.raises(AppFormError, match=words):
        parse_app(app_bytes(spoil(AppList("fell-d2", (OWN,)))))


def test_another_rpt2_is_a_change_and_never_more_goes_in_than_there_is_room_for():
    row = AccessEntry(1, "SIG B", "Q0SIG  B", "Q0SIG  G", 439_500_000, 431_900_000)
    other = replace(row, rpt2="Q0SIG  B")
    app = ALDER
    small = replace(FELL, limits=replace(FELL.limits, access_list=2))

    def lines(have, wanted):
        made = merged(
            AppList(small.key, access_list=have), Memory(small.key, access_list=wanted), AppSettings(), small, app
        )
        return made.made.access_list, [
            (item.fate, item.name, item.detail) for item in made.lines if item.table == "access list"
        ]

    _rows, ((fate, _name, detail),) = lines((row,), (other,))
    assert (fate, detail) == ("changed", "was RPT2 Q0SIG··G")
    many = tuple(replace(row, number=at, name=f"N{at}", rx_hz=439_000_000 + at * 12_500) for at in range(1, 5))
    rows, told = lines((row,), many)
    assert len(rows) == 2
    assert [fate for fate, _name, _detail in told] == ["added", "added", "goes", "goes", "goes"]
    assert "no room" in told[2][2]
