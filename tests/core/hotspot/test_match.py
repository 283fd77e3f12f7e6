"""What must match: rows joined or cut, settings in anybody's keys, tried by writing and reading back; taking values over."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.days import TODAY
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.hotspot.match.fields import BY_KEY, FIELDS, plain, same, shown
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.forms import form_of, read_pairs, write_pairs
from umbra_awl.core.hotspot.match.layout import (
    SettingsLayoutError,
    guessed,
    layout_text,
    parse_layout,
    read_settings,
    shipped_layouts,
    tried,
    write_settings,
)
from umbra_awl.core.hotspot.match.says import plan_says, radio_says
from umbra_awl.core.hotspot.match.sheet import match_sheet, tally
from umbra_awl.core.hotspot.match.take import take_value
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.demo.hotspots import settings_text

BEGIN = {"ini": "", "env": "", "json": "{}"}
FOREIGN_INI = '; kept\r\n[air]\r\nsends = "434000000"\r\nstrange=äöü\r\n\r\n[other]\r\nsends=7\r\n'
SAMPLE = (
    "[Self]\nOwnCall=Q4WRN\nRadio_ID=999421701\nTZ=Etc/GMT+2\n[Air]\nTxFreq=434.6125\nRxFreq=433.0125\nRxOffset=-120\n"
    "[DigitalOne]\nDmrEnable=1\nColor_Code=1\n[Net]\nServer=velmar.lattice.invalid\nPasswd=hush\n[DigitalTwo]\nFusionEnabled=0\n"
)


@pytest.fixture
def home(plan):
    index = PlanIndex(plan, TODAY)
    return index, index.access["home-spot"], plan.hotspots[0]


def row(rows, key):
    return next(item for item in rows if item.field.key == key)


def test_the_plan_says_what_each_mode_needs(home):
    said = plan_says(*home)
    assert said["id"] == "999421701"
    assert (said["rpt1"], said["rpt2"], said["module"]) == ("Q4WRN  D", "Q4WRN  G", "D")
    assert (said["tx_hz"], said["rx_hz"], said["duplex"]) == ("434612500", "433012500", "yes")
    assert said["modes"] == "dmr dstar fusion"
    assert said["startup"] == "99900"
    assert said["master"] == "velmar.lattice.invalid"


def test_a_thread_where_they_agree_a_cut_with_what_one_notices(home, profiles):
    index, access, hotspot = home
    routes = [item.key for item in index.plan.routes if item.service.startswith("home-")]
    radio = next(item for item in index.plan.radios if item.profile == "moor4k")
    held = radio_says(fit(index, radio, profiles["moor4k"]).memory, access, routes)
    values = plan_says(index, access, hotspot)
    rows = match_sheet(values, held, {**values, "color_code": "7", "password": "default", "tx_hz": "434.6125"})
    assert row(rows, "tx_hz").to_radio == row(rows, "tx_hz").to_hotspot == "joined"
    assert row(rows, "color_code").to_hotspot == "cut"
    assert "speaker stays shut" in row(rows, "color_code").notice
    assert row(rows, "password").hotspot == "the default"
    assert row(rows, "modem").to_radio == "open"
    assert tally(rows).startswith("2 differ: color code, own password")


def test_a_radio_without_its_routing_fields_or_on_another_frequency_is_cut(home, profiles):
    from msgspec.structs import replace

    index, access, hotspot = home
    routes = [item.key for item in index.plan.routes if item.service == "home-dstar"]
    radio = next(item for item in index.plan.radios if item.profile == "fell-d2")
    memory = fit(index, radio, profiles["fell-d2"]).memory
    blank = replace(memory, channels=tuple(replace(item, rpt1="", rx_hz=item.rx_hz + 500) for item in memory.channels))
    rows = match_sheet(plan_says(index, access, hotspot), radio_says(blank, access, routes), {})
    assert row(rows, "rpt1").radio.startswith("blank") or "none" in row(rows, "module").radio
    assert row(rows, "rpt1").to_radio == row(rows, "tx_hz").to_radio == "cut"


def test_nothing_known_is_open_and_not_agreement(home):
    rows = match_sheet(plan_says(*home), {}, {})
    assert {item.to_hotspot for item in rows} == {"open"}
    assert tally(rows).endswith("the rest is not known yet")


@pytest.mark.parametrize("layout", shipped_layouts(), ids=lambda item: item.form)
@pytest.mark.parametrize("key", ["home", "travel"])
def test_every_form_comes_back_as_it_went_out(plan, layout, key):
    index = PlanIndex(plan, TODAY)
    hotspot = next(item for item in plan.hotspots if item.key == key)
    values = plan_says(index, index.access[hotspot.access], hotspot)
    assert tried(BEGIN[layout.form], layout, values) == ()
    text = write_settings(BEGIN[layout.form], layout, values)
    assert form_of(text) == layout.form
    back = read_settings(text, layout)
    assert all(
        same(BY_KEY[name], value, back[name]) for name, value in values.items() if name in back and name != "password"
    )


def test_a_password_is_never_written_and_only_told_as_set_or_default():
    layout = shipped_layouts()[0]
    assert "secret" not in write_settings("", layout, {"password": "secret", "call": "Q4WRN"})
    assert read_settings("[page]\nkey=awl-bench\n[station]\ncall=x\n", layout)["password"] == "default"
    assert read_settings("[page]\nkey=hush-hush\n[station]\ncall=x\n", layout)["password"] == "set"


def test_foreign_lines_quotes_and_line_ends_stay():
    made = write_pairs(FOREIGN_INI, "ini", {"air.sends": "434512500", "air.hears": "1", "new.key": "x"})
    assert made == (
        '; kept\r\n[air]\r\nsends = "434512500"\r\nstrange=äöü\r\n\r\nhears=1\r\n[other]\r\nsends=7\r\n[new]\r\nkey=x\r\n'
    )
    assert read_pairs(made, "ini")["other.sends"] == "7"


def test_json_keeps_kinds_and_everything_else():
    text = json.dumps({"air": {"tx": 434_000_000, "on": True, "slots": [1, 2]}, "else": [1, {"a": None}]})
    made = json.loads(write_pairs(text, "json", {"air.tx": "434512500", "air.on": "no", "air.slots": "2", "x.y": "z"}))
    assert made == {"air": {"tx": 434_512_500, "on": False, "slots": [2]}, "else": [1, {"a": None}], "x": {"y": "z"}}
    with pytest.raises(FormError):
        write_pairs('{"air": 1}', "json", {"air.tx": "2"})


@pytest.mark.parametrize("text", ["", "no settings here", "[only]\n[sections]\n"])
def test_what_holds_no_setting_is_refused(text):
    with pytest.raises(FormError):
        read_pairs(text, "ini")


@pytest.mark.parametrize(
    "text", ["[]", "{", '{"a":' * 4_000 + "1" + "}" * 4_000, "{" + ",".join(f'"k{at}":1' for at in range(6_000)) + "}"]
)
def test_hostile_json_is_refused(text):
    with pytest.raises(FormError):
        read_pairs(text, "json")


@given(
    st.text(max_size=300),
    st.sampled_from(["ini", "env"]),
    st.dictionaries(
        st.sampled_from(["air.tx", "call", "a.b.c"]),
        st.text(st.characters(categories=["L", "N"]), min_size=1, max_size=9),
        max_size=3,
    ),
)
def test_written_values_are_read_back_and_no_line_break_gets_in(text, form, values):
    made = write_pairs(text, form, values)
    if values:
        back = read_pairs(made, form)
        for name, value in values.items():
            assert back.get(name) == value or form == "ini"
    with pytest.raises(FormError):
        write_pairs(text, form, {"x": "a\nb=c"})


def test_a_layout_is_made_from_a_sample_by_names_and_values():
    layout = guessed(SAMPLE)
    found = {key.field: key.at for key in layout.key if not key.mode}
    assert found["call"] == "Self.OwnCall"
    assert found["id"] == "Self.Radio_ID"
    assert (found["tx_hz"], found["rx_hz"]) == ("Air.TxFreq", "Air.RxFreq")
    assert found["rx_correction"] == "Air.RxOffset"
    assert found["color_code"] == "DigitalOne.Color_Code"
    assert {key.mode: key.at for key in layout.key if key.mode} == {
        "dmr": "DigitalOne.DmrEnable",
        "fusion": "DigitalTwo.FusionEnabled",
    }
    values = read_settings(SAMPLE, layout)
    assert (values["tx_hz"], values["modes"], values["password"]) == ("434612500", "dmr", "set")
    assert parse_layout(layout_text(layout)) == layout


def test_layouts_are_checked():
    head = 'format = "umbra-awl settings layout"\nversion = 1\nname = "x"\nform = "ini"\n'
    for keys in ('[{ field = "nonsense", at = "a" }]', '[{ field = "call", at = "a" }, { field = "id", at = "a" }]'):
        with pytest.raises(SettingsLayoutError):
            parse_layout(f"{head}key = {keys}\n")


def test_the_plan_can_follow_what_the_hotspot_says(home):
    index, access, hotspot = home
    moved = take_value(index, access, hotspot, "tx_hz", "434.7125").apply(index.plan)
    assert moved.hotspots[0].transmit_hz == 434_712_500
    assert {item.rx_hz for item in moved.access if False} == set()
    assert PlanIndex(moved, TODAY).services["home-dmr"][1].rx_hz == 434_712_500
    assert (
        take_value(index, access, hotspot, "startup", "99901").apply(index.plan).hotspots[0].startup == "great-velmar"
    )
    assert take_value(index, access, hotspot, "password", "set").apply(index.plan).hotspots[0].locked
    for key, value in (("startup", "77777"), ("tx_hz", "nonsense"), ("call", "Q9ODL"), ("color_code", "x")):
        assert take_value(index, access, hotspot, key, value) is None


@given(st.sampled_from(FIELDS), st.text(max_size=30))
def test_any_value_is_compared_and_shown(field, text):
    assert same(field, text, text)
    assert plain(field, plain(field, text)) == plain(field, text) or field.kind in {"hz", "offset", "number"}
    assert isinstance(shown(field, text), str)


def test_the_demos_hotspots_differ_where_only_sheet_and_log_tell(plan):
    index = PlanIndex(plan, TODAY)
    layout = shipped_layouts()[0]
    for hotspot, key in zip(plan.hotspots, ("slot", "id"), strict=True):
        held = read_settings(
            settings_text(plan, hotspot.key, {"slot": "2"} if key == "slot" else {"id": "999421701"}), layout
        )
        rows = match_sheet(plan_says(index, index.access[hotspot.access], hotspot), {}, held)
        assert [item.field.key for item in rows if item.cut] == [key]


def test_a_hotspot_is_not_set_to_send_where_its_owner_may_not(plan):
    from msgspec.structs import replace

    from umbra_awl.core.hotspot.match.sending import sending_refusal

    def refusal(licence=None, **fields):
        index = PlanIndex(replace(plan, station=replace(plan.station, licence=licence or plan.station.licence)), TODAY)
        return sending_refusal(index, index.access["home-spot"], replace(plan.hotspots[0], **fields))

    licence = plan.station.licence
    assert refusal() == ""
    assert "until the licence is granted" in refusal(replace(licence, granted=False))
    assert "guard is on" in refusal(replace(licence, guard=True))
    assert "licence allows" in refusal(replace(licence, bands=("2 m",)))
    assert "counts from" in refusal(replace(licence, granted_on="2099-01-01"))
    assert "outside the amateur bands" in refusal(transmit_hz=446_000_000)
    assert "over the edge" in refusal(receive_hz=430_000_000)
    assert "satellite" in refusal(receive_hz=435_500_000)
    bare = PlanIndex(plan, TODAY)
    assert "no service" in sending_refusal(bare, replace(bare.access["home-spot"], services=()), plan.hotspots[0])


def test_a_field_that_only_one_side_tells_has_a_row_and_is_open():
    for told in (({"host": "x"}, {}, {}), ({}, {"call": "x"}, {}), ({}, {}, {"display": "x"})):
        (only,) = match_sheet(*told)
        assert (only.to_radio, only.to_hotspot) == ("open", "open")
    (slots,) = match_sheet({}, {"slot": "2"}, {})
    assert slots.to_radio == "open"
    both = match_sheet({"slot": "1 2"}, {"slot": "2"}, {"slot": "1 2"})[0]
    assert (both.to_radio, both.to_hotspot) == ("joined", "joined")
    assert match_sheet({"slot": "2"}, {"slot": "1"}, {"slot": "1 2"})[0].cut


def test_everything_agrees_only_when_everything_is_known():
    values = {"call": "Q4WRN", "color_code": "1"}
    assert tally(match_sheet(values, values, values)) == "Everything agrees"
    assert tally(match_sheet(values, values, {"call": "Q4WRN"})) == "Everything agrees"
    assert tally(match_sheet(values, {}, {"call": "Q4WRN"})).startswith("1 of 2 agree")
    assert tally(match_sheet(values, {}, {"call": "Q9ODL"})).startswith("1 differs: call sign")


def test_json_nested_too_deeply_and_numbers_with_a_point():
    deep = json.loads('{"a":' * 20 + "1" + "}" * 20)
    with pytest.raises(FormError, match="nested too deeply"):
        read_pairs(json.dumps(deep), "json")
    assert json.loads(write_pairs('{"mhz": 434.5, "n": 1}', "json", {"mhz": "434.6125", "n": "x"})) == {
        "mhz": 434.6125,
        "n": "x",
    }
    assert json.loads(write_pairs('{"mhz": 434.5}', "json", {"mhz": "none"})) == {"mhz": "none"}
