"""Slips of pairs, numbers, people and hotspot settings, and what the directory says today: found, and put right."""

import pytest
from msgspec.structs import replace

from tests.days import TODAY
from tests.slips import PROFILES, sound_plan
from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.known import known_of
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.store import Store
from umbra_awl.core.directory.taking import take_entries
from umbra_awl.core.findings.evaluate import Evaluator, findings_of
from umbra_awl.core.fit.position import spoken_position_words
from umbra_awl.core.plan.edit.edit_access import set_service
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.known import Known
from umbra_awl.core.plan.model import Identity, OwnedRadio, PinnedName, Plan, RadioId, RadioSettings
from umbra_awl.core.tables.table import open_table


def found_in(plan, rule):
    return [item for item in findings_of(PlanIndex(plan, TODAY), PROFILES) if item.rule.name == rule]


def with_service(plan, key, **fields):
    access = tuple(
        replace(item, services=tuple(replace(one, **fields) if one.key == key else one for one in item.services))
        for item in plan.access
    )
    return replace(plan, access=access)


def with_destination(plan, key, **fields):
    return replace(
        plan, destinations=tuple(replace(item, **fields) if item.key == key else item for item in plan.destinations)
    )


def with_me(plan, **fields):
    identities = plan.station.identities
    return replace(plan, station=replace(plan.station, identities=(replace(identities[0], **fields), *identities[1:])))


def with_hotspot(plan, **fields):
    return replace(plan, hotspots=(replace(plan.hotspots[0], **fields), *plan.hotspots[1:]))


def with_route(plan, key, **fields):
    return replace(plan, routes=tuple(replace(item, **fields) if item.key == key else item for item in plan.routes))


def telling(plan, source, privacy="none", **more):
    """The plan with a D-STAR radio that knows where it is."""
    radio = OwnedRadio("teller", "Teller", "fell-d2", settings=RadioSettings(position=source, **more))
    return replace(plan, station=replace(plan.station, privacy=privacy), radios=(*plan.radios, radio))


CASES = [
    ("offset-unusual", lambda plan: with_service(plan, "blackfell-dmr", tx_hz=433_612_500), "4 others on 70 cm have −7.6000"),
    ("offset-unusual", lambda plan: with_service(plan, "blackfell-fm", tx_hz=145_712_500 - 700_000), "usual on 2 m are 0.6 MHz"),
    ("pair-swapped", lambda plan: with_service(plan, "blackfell-dmr", rx_hz=431_012_500, tx_hz=438_612_500), "Q0BLK has +7.6000"),
    ("private-number", lambda plan: with_destination(plan, "great-velmar", call="private"), "99901, of 5 digits"),
    ("number-twice", lambda plan: with_destination(plan, "great-velmar", number=99_900), "are both 99900"),
    ("my-differs", lambda plan: with_me(plan, dstar_call="Q1VRC"), "MY is Q1VRC, the call sign Q4WRN"),
    ("my-note", lambda plan: with_me(plan, dstar_note="HANDY"), "at most four"),
    ("my-differs", lambda plan: with_me(plan, dstar_call="Q4WRN/P"), "MY is Q4WRN/P"),
    ("id-suffix", lambda plan: with_me(plan, ids=(RadioId(9_994_217), RadioId(9_994_217, "spot", "1"))), "the suffix “1”"),
    ("id-suffix", lambda plan: with_me(plan, ids=(RadioId(9_994_217), RadioId(9_994_217, "spot", "123"))), "the suffix “123”"),
    ("hotspot-id-missing", lambda plan: with_hotspot(plan, id_label="gone"), "no ID has that label"),
    ("hotspot-duplex", lambda plan: with_hotspot(plan, duplex=not plan.hotspots[0].duplex), "is set to"),
    ("hotspot-public-place", lambda plan: with_hotspot(plan, public_place="Harrowquay, old quay"), "tells everybody"),
    ("hotspot-public-place", lambda plan: with_hotspot(plan, public_place="46.4701, -31.1101"), "the square HN46"),
    ("position-with-speech", lambda plan: telling(plan, 'gps'), "sends its position with every over"),
    ("hotspot-admit", lambda plan: with_route(plan, "travel-dmr>worldwide@2", admit="color"), "waits for “color free”"),
]  # fmt: skip


@pytest.mark.parametrize(("rule", "slip", "says"), CASES)
def test_a_slip_is_told_with_its_figures_and_its_repair_clears_it(rule, slip, says):
    sound = sound_plan()
    assert not found_in(sound, rule)
    plan = slip(sound)
    found = found_in(plan, rule)
    assert found
    assert says in found[0].text
    if found[0].repair is not None:
        mended = found[0].repair.edit.apply(plan)
        assert found[0].key not in {item.key for item in found_in(mended, rule)}


def test_a_private_call_to_a_whole_id_is_none_of_them_and_a_person_is_not_made_a_group():
    sound = sound_plan()
    whole = with_destination(sound, "great-velmar", number=9_990_001, call="private")
    assert not found_in(whole, "private-number")
    short = with_destination(sound, "great-velmar", kind="private", number=999_421, call="private")
    found = found_in(short, "private-number")
    assert "999421, of 6 digits" in found[0].text
    assert found[0].repair is None


def test_a_position_that_may_be_told_or_is_not_sent_by_itself_is_no_finding():
    sound = sound_plan()
    by_key = telling(sound, "gps", data_by_itself=False)
    for plan in (telling(sound, "gps", "locator"), telling(sound, "none"), telling(sound, None), by_key):
        assert not found_in(plan, "position-with-speech")
    dmr = telling(sound, "gps")
    dmr = replace(dmr, radios=(*dmr.radios[:-1], replace(dmr.radios[-1], profile="moor4k")))
    assert not found_in(dmr, "position-with-speech")
    assert "Teller" in spoken_position_words(telling(sound, "gps").radios[-1], PROFILES["fell-d2"])
    assert spoken_position_words(dmr.radios[-1], PROFILES["moor4k"]) == ""


def test_a_wrong_suffix_is_mended_among_the_other_ids():
    ids = (RadioId(9_994_217), RadioId(9_994_217, "spot", "1"), RadioId(9_994_217, "travel", "02"))
    plan = with_me(sound_plan(), ids=ids)
    mended = found_in(plan, "id-suffix")[0].repair.edit.apply(plan)
    assert [item.suffix for item in mended.station.identities[0].ids] == ["", "01", "02"]
    three = with_me(sound_plan(), ids=(RadioId(9_994_217, "spot", "123"),))
    assert found_in(three, "id-suffix")[0].repair is None, "which of the three digits is wrong, nobody knows"


def test_two_repeaters_make_no_custom():
    sound = sound_plan()
    fewer = replace(
        sound,
        access=tuple(item for item in sound.access if item.call in {"Q0BLK", "Q0SIG"}),
        routes=(),
        zones=(),
        scans=(),
    )
    moved = with_service(fewer, "blackfell-dmr", tx_hz=433_612_500)
    assert not found_in(moved, "offset-unusual"), "5 MHz is usual somewhere, and one other repeater is no custom"


def test_a_hotspot_beside_a_calling_frequency_is_left_alone():
    sound = sound_plan()
    home = next(item for item in sound.access if item.key == sound.hotspots[0].access)
    moved = replace(home, services=tuple(replace(one, rx_hz=433_462_500, tx_hz=433_462_500) for one in home.services))
    plan = replace(sound, access=tuple(moved if item is home else item for item in sound.access))
    assert not found_in(plan, "hotspot-on-calling")


def test_an_entry_that_was_not_looked_up_says_nothing(store, tmp_path):
    imported(store, tmp_path, FIRST)
    plan = taken(store)
    other = Known({"isles/Q0XXX/elsewhere": None})
    assert not [
        item
        for item in Evaluator(PROFILES).evaluate(PlanIndex(plan, TODAY), other)
        if item.rule.name.startswith("entry")
    ]


def test_two_people_with_one_id():
    sound = sound_plan()
    other = Identity("odile", "Q9ODL", "Odile", ids=(RadioId(9_994_217),))
    station = replace(sound.station, identities=(*sound.station.identities, other))
    found = found_in(replace(sound, station=station), "id-shared")
    assert found[0].text == "Q4WRN and Q9ODL both have 999••••."


def test_a_hotspot_on_a_calling_frequency_is_told_and_moved():
    sound = sound_plan()
    access = next(item for item in sound.access if item.key == sound.hotspots[1].access)
    plan = replace(
        sound,
        access=tuple(
            replace(item, services=tuple(replace(one, rx_hz=433_450_000, tx_hz=433_450_000) for one in item.services))
            if item is access
            else item
            for item in sound.access
        ),
        hotspots=(
            sound.hotspots[0],
            replace(sound.hotspots[1], transmit_hz=433_450_000, receive_hz=433_450_000, duplex=False),
        ),
    )
    found = found_in(plan, "hotspot-on-calling")
    assert "433.4500 is Digital voice calling, 70 cm" in found[0].text
    assert not found_in(found[0].repair.edit.apply(plan), "hotspot-on-calling")


def test_the_satellite_finding_says_which_half_of_a_pair_lies_there():
    sound = sound_plan()
    home = next(item for item in sound.access if item.key == sound.hotspots[0].access)
    for rx, tx, says in [
        (435_500_000, 433_900_000, "Home spot: 435.5000 MHz"),
        (433_900_000, 435_500_000, "What radios send to Home spot: 435.5000 MHz"),
    ]:
        moved = replace(home, services=tuple(replace(one, rx_hz=rx, tx_hz=tx) for one in home.services))
        plan = replace(sound, access=tuple(moved if item is home else item for item in sound.access))
        assert says in found_in(plan, "hotspot-in-satellite-segment")[0].text


def test_names_by_hand_that_meet_on_one_radio():
    sound = sound_plan()
    keys = [route.key for route in sound.routes if route.service == "blackfell-dmr"][:2]
    radio = replace(sound.radios[0], names=tuple(PinnedName(key, "CLUB") for key in keys))
    plan = replace(sound, radios=(radio, *sound.radios[1:]))
    found = found_in(plan, "names-meet")
    assert "are both CLUB" in found[0].text
    assert not found_in(found[0].repair.edit.apply(plan), "names-meet")


LAYOUT = TableLayout(
    "access",
    {"call": "Call", "site": "Site", "rx": "Output", "tx": "Input", "mode": "Mode", "color_code": "CC", "tone": "Tone"},
    source="isles",
)
HEAD = "Call,Site,Output,Input,Mode,CC,Tone\n"
FIRST = f"{HEAD}Q0BLK,Blackfell,438.6125,431.0125,DMR,6,\nQ0OSS,Little Oss,145.65,145.05,FM,,88.5\n"


@pytest.fixture
def store(tmp_path):
    made = Store(tmp_path / "directory.sqlite")
    yield made
    made.close()


def imported(store, tmp_path, text, now="2026-11-01T10:00"):
    path = tmp_path / "isles.csv"
    path.write_text(text)
    incoming = read_incoming(store, open_table(path), LAYOUT)
    take(store, incoming, now)
    return incoming


def taken(store):
    edit, _haul, _keys = take_entries(Plan(), list(store.all_entries()))
    return edit.apply(Plan())


def against(store, plan):
    found = Evaluator(PROFILES).evaluate(PlanIndex(plan, TODAY), known_of(store, plan))
    return [item for item in found if item.rule.name in {"entry-changed", "entry-gone", "number-not-listed"}]


def test_what_changed_in_the_directory_since_it_was_taken_is_told_and_taken(store, tmp_path):
    imported(store, tmp_path, FIRST)
    plan = taken(store)
    assert not against(store, plan)
    imported(
        store,
        tmp_path,
        FIRST.replace("DMR,6", "DMR,7").replace("88.5", "103.5").replace("438.6125,431.0125", "438.65,431.05"),
    )
    found = against(store, plan)
    assert [item.text for item in found] == [
        "The directory has Q0BLK DMR with output 438.6500, input 431.0500, color code 7 now.",
        "The directory has Q0OSS FM with tone 103.5 now.",
    ]
    for item in found:
        plan = item.repair.edit.apply(plan)
    assert not against(store, plan)
    assert [item.services[0].air.color_code for item in plan.access if item.call == "Q0BLK"] == [7]


def test_an_own_correction_stays_while_the_directory_says_the_same_as_before(store, tmp_path):
    imported(store, tmp_path, FIRST)
    plan = taken(store)
    blackfell = next(item for item in plan.access if item.call == "Q0BLK")
    own = with_service(plan, blackfell.services[0].key, tx_hz=446_212_500)
    assert not against(store, own)


def test_an_entry_that_vanished_is_told(store, tmp_path):
    imported(store, tmp_path, FIRST)
    plan = taken(store)
    imported(store, tmp_path, f"{HEAD}Q0OSS,Little Oss,145.65,145.05,FM,,88.5\n")
    assert [item.rule.name for item in against(store, plan)] == ["entry-gone"]


def test_a_talk_group_that_is_on_no_list():
    sound = sound_plan()
    groups = {item.number for item in sound.destinations if item.network == "lattice" and item.kind == "group"}

    def told(listed):
        known = Known({}, {"lattice": frozenset(listed)})
        found = Evaluator(PROFILES).evaluate(PlanIndex(sound, TODAY), known)
        return [item.text for item in found if item.rule.name == "number-not-listed"]

    assert told(groups - {99_905}) == ["Exercise is 99905; the directory's list of Lattice does not have it."]
    assert told(groups) == []
    assert told({99_900, 99_901}) == [], "a list that lacks most of them is no list of this network"


def test_an_older_file_over_a_newer_one_is_noticed(store, tmp_path):
    layout = replace(LAYOUT, columns={**LAYOUT.columns, "confirmed": "Seen"})
    for day, older in (("2026-10-02", False), ("2025-03-01", True)):
        path = tmp_path / "isles.csv"
        path.write_text(f"Call,Site,Output,Input,Mode,CC,Tone,Seen\nQ0BLK,Blackfell,438.6125,431.0125,DMR,6,,{day}\n")
        incoming = read_incoming(store, open_table(path), layout)
        assert bool(incoming.older) == older
        take(store, incoming, "2026-11-01T10:00")
    assert "2025-03-01" in incoming.older


def test_radios_are_not_needed_for_any_of_it():
    assert found_in(replace(sound_plan(), radios=(OwnedRadio("x", "X", "tarn16"),)), "id-shared") == []


@pytest.mark.parametrize(
    ("key", "hz"),
    [("blackfell-dmr", 760_000), ("blackfell-dmr", -760_000), ("blackfell-fm", 60_000), ("blackfell-fm", -60_000)],
)
def test_a_shift_ten_times_too_small_is_told_whatever_its_sign(key, hz):
    plan = sound_plan()
    rx_hz = PlanIndex(plan, TODAY).services[key][1].rx_hz
    found = found_in(set_service(key, "x", tx_hz=rx_hz + hz).apply(plan), "offset-short")
    assert [item.target.key for item in found] == [key]
    mended = found[0].repair.edit.apply(plan)
    assert PlanIndex(mended, TODAY).services[key][1].tx_hz == rx_hz - 10 * abs(hz)


@pytest.mark.parametrize("rx_hz", [147_240_000, 145_200_000, 146_700_000, 439_000_000])
def test_a_swapped_pair_is_told_where_repeaters_send_without_any_others_around(rx_hz):
    shift = {147: 600_000, 145: -600_000, 146: -600_000, 439: -5_000_000}[rx_hz // 1_000_000]
    plan = sound_plan()
    one = next(item for item in plan.access if item.key == "blackfell")
    alone = replace(plan, access=(replace(one, services=(next(item for item in one.services if item.mode == "fm"),)),))
    alone = replace(alone, station=replace(alone.station, region=2, bands=()), routes=(), hotspots=())
    good = set_service("blackfell-fm", "x", rx_hz=rx_hz, tx_hz=rx_hz + shift).apply(alone)
    assert not found_in(good, "pair-swapped")
    swapped = set_service("blackfell-fm", "x", rx_hz=rx_hz + shift, tx_hz=rx_hz).apply(alone)
    assert [item.target.key for item in found_in(swapped, "pair-swapped")] == ["blackfell-fm"]
