"""D-STAR's routing fields, against tables made by hand.

The rules: eight characters, the module in position 8 of RPT1, G in position 8 of RPT2, and in UR the module in 7 with L in 8
for a link, a slash before a routed repeater, and U, E or I alone in 8.
"""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.facts.dstar import (
    CQ,
    Fields,
    Rpt,
    Ur,
    module_fault,
    note_fault,
    parse_fields,
    print_fields,
    read_rpt,
    read_ur,
    shown,
    target_of,
    ur_field,
)
from umbra_awl.core.modes.dstar import Dstar
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, Identity, Plan, Route, Service, Station
from umbra_awl.core.routes.fields import fields_of

SOUND = [
    ("CQCQCQ  ", Ur("cq")),
    ("CQCQCQ", Ur("cq")),
    ("Q9ODL   ", Ur("station", "Q9ODL")),
    ("Q9ODL", Ur("station", "Q9ODL")),
    ("Q4WRN  P", Ur("station", "Q4WRN", "P")),
    ("Q1VRC  A", Ur("station", "Q1VRC", "A")),
    ("Q12ABCD ", Ur("station", "Q12ABCD")),
    ("/Q0SIG C", Ur("repeater", "Q0SIG", "C")),
    ("/Q0SIG B", Ur("repeater", "Q0SIG", "B")),
    ("/Q12ABCA", Ur("repeater", "Q12ABC", "A")),
    ("/Q0OS  B", Ur("repeater", "Q0OS", "B")),
    ("VLR001CL", Ur("link", "VLR001", "C")),
    ("VLR001AL", Ur("link", "VLR001", "A")),
    ("VLR999FL", Ur("link", "VLR999", "F")),
    ("VLR001EL", Ur("link", "VLR001", "E")),
    ("VLR001IL", Ur("link", "VLR001", "I")),
    ("Q0SIG BL", Ur("link", "Q0SIG", "B")),
    ("Q0OS  CL", Ur("link", "Q0OS", "C")),
    ("Q12ABCAL", Ur("link", "Q12ABC", "A")),
    ("       U", Ur("unlink")),
    ("       E", Ur("echo")),
    ("       I", Ur("info")),
]
WRONG = [
    ("        ", "blank", "UR is blank"),
    ("", "blank", "UR is blank"),
    (" CQCQCQ ", "wrong", "begins in position 2"),
    ("  CQCQCQ", "wrong", "begins in position 3"),
    ("U       ", "wrong", "U stands in position 1"),
    ("      U ", "wrong", "U stands in position 7"),
    ("E", "wrong", "E stands in position 1"),
    ("   I    ", "wrong", "I stands in position 4"),
    ("VLR001 L", "wrong", "a letter, in position 7; there is a blank"),
    ("VLR001L ", "wrong", "L stands in position 7"),
    ("VLR001L", "wrong", "L stands in position 7"),
    ("VLR001 C", "wrong", "carries no command"),
    ("VLR0011L", "wrong", "a letter, in position 7; there is “1”"),
    ("VL R01CL", "wrong", "is not the name of a reflector"),
    ("Q0SIG  G", "wrong", "belongs in RPT2"),
    ("Q9ODL  U", "wrong", "U in position 8 is a command"),
    ("Q9ODL  E", "wrong", "positions 1 to 7 stay blank"),
    ("/       ", "wrong", "Behind the slash comes"),
    ("/Q0SIG  ", "wrong", "Position 8 carries the far repeater's module"),
    ("/Q0SIGC ", "wrong", "Position 8 carries the far repeater's module"),
    ("/ Q0SIGC", "wrong", "Behind the slash comes"),
    ("/Q0SIG L", "wrong", "L is used by commands"),
    ("/VLR001C", "wrong", "not a repeater's call sign"),
    ("Q9 ODL  ", "wrong", "L stands in position 6"),
    ("Q9 ODX  ", "wrong", "no call sign"),
    ("cqcqcq", "wrong", "capitals"),
    ("CQCQCQCQC", "wrong", "9 characters"),
    ("Q9ODL*  ", "wrong", "characters a field cannot carry"),
]


@pytest.mark.parametrize(("text", "ur"), SOUND)
def test_what_a_sound_ur_asks_for(text, ur):
    assert read_ur(text) == ur


@pytest.mark.parametrize(("text", "kind", "fault"), WRONG)
def test_what_a_wrong_ur_lacks(text, kind, fault):
    found = read_ur(text)
    assert found.kind == kind
    assert fault in found.fault


@pytest.mark.parametrize(
    ("text", "rpt"),
    [
        ("Q0SIG  B", Rpt("Q0SIG", "B")),
        ("Q0SIG  G", Rpt("Q0SIG", "G")),
        ("Q12ABCDC", Rpt("Q12ABCD", "C")),
        ("Q4WRN  K", Rpt("Q4WRN", "K")),
    ],
)
def test_what_a_sound_rpt_names(text, rpt):
    assert read_rpt(text) == rpt


@pytest.mark.parametrize(
    ("text", "fault"),
    [
        ("        ", "RPT1 is blank"),
        ("", "RPT1 is blank"),
        ("Q0SIG B ", "begins in position 1 and has its letter in position 8"),
        (" Q0SIG B", "begins in position 1"),
        ("Q0SIG", "lacks the letter in position 8"),
        ("Q0SIG  BG", "9 characters"),
    ],
)
def test_what_a_wrong_rpt_lacks(text, fault):
    assert fault in read_rpt(text).fault


@pytest.mark.parametrize("letter", ["G", "L", "U", "E", "I", "S", "7", "", "BB", "b"])
def test_letters_that_are_no_module(letter):
    assert module_fault(letter)


def memory(kind, text="", *, slot=0, module="B", gateway=True, call="Q0SIG", site="repeater", **own):
    access = AccessPoint("a", call, "Site", site, services=(Service("s", 1, 1, DstarAir(module, gateway)),))
    plan = Plan(
        station=Station((Identity("me", "Q4WRN", dstar_note="HAND"),)),
        access=(access,),
        destinations=(Destination("d", "Name", kind, text=text),),
        routes=(Route("s", "d", slot, **own),),
    )
    return fields_of(PlanIndex(plan, TODAY), plan.routes[0])


COMPUTED = [
    (("local",), {}, "CQCQCQ  ", "Q0SIG  B", "Q0SIG  G"),
    (("local",), {"gateway": False}, "CQCQCQ  ", "Q0SIG  B", "Q0SIG  B"),
    (("local",), {"module": "C"}, "CQCQCQ  ", "Q0SIG  C", "Q0SIG  G"),
    (("reflector", "VLR001 C"), {"slot": 1}, "VLR001CL", "Q0SIG  B", "Q0SIG  G"),
    (("reflector", "VLR001C"), {"slot": 1}, "VLR001CL", "Q0SIG  B", "Q0SIG  G"),
    (("reflector", "VLR001 C"), {"slot": 2}, "CQCQCQ  ", "Q0SIG  B", "Q0SIG  G"),
    (("direct", "Q0SIG C"), {"slot": 1, "call": "Q4WRN", "module": "D"}, "Q0SIG CL", "Q4WRN  D", "Q4WRN  G"),
    (("direct", "Q0SIG C"), {"slot": 2}, "CQCQCQ  ", "Q0SIG  B", "Q0SIG  G"),
    (("repeater", "Q0SIG C"), {"call": "Q4WRN", "module": "K"}, "/Q0SIG C", "Q4WRN  K", "Q4WRN  G"),
    (("repeater", "Q12ABC A"), {}, "/Q12ABCA", "Q0SIG  B", "Q0SIG  G"),
    (("station", "Q9ODL"), {}, "Q9ODL   ", "Q0SIG  B", "Q0SIG  G"),
    (("station", "q9odl"), {}, "Q9ODL   ", "Q0SIG  B", "Q0SIG  G"),
    (("echo",), {}, "       E", "Q0SIG  B", "Q0SIG  G"),
    (("info",), {}, "       I", "Q0SIG  B", "Q0SIG  G"),
    (("disconnect",), {}, "       U", "Q0SIG  B", "Q0SIG  G"),
    (("local",), {"call": "Q12ABCD", "module": "A"}, "CQCQCQ  ", "Q12ABCDA", "Q12ABCDG"),
    (("local",), {"ur": "VLR001CL"}, "VLR001CL", "Q0SIG  B", "Q0SIG  G"),
    (("local",), {"rpt1": "", "rpt2": ""}, "CQCQCQ  ", "        ", "        "),
]


@pytest.mark.parametrize(("to", "how", "ur", "rpt1", "rpt2"), COMPUTED)
def test_the_fields_of_a_memory(to, how, ur, rpt1, rpt2):
    fields = memory(*to, **how)
    assert (fields.ur, fields.rpt1, fields.rpt2) == (ur, rpt1, rpt2)
    assert (fields.my, fields.note) == ("Q4WRN   ", "HAND")


def test_there_are_many_cases_by_hand():
    assert len(SOUND) + len(WRONG) + len(COMPUTED) >= 40


CALLS = st.sampled_from(["Q0SIG", "Q9ODL", "Q4WRN", "Q12ABC", "Q0OS"])
LETTERS = st.sampled_from("ABCDEFGHIJKLMNOPQRSTUVWXYZ")
MODULES = st.sampled_from("ABCDFHJKMNOPQRTVWXYZ")
URS = st.one_of(
    st.sampled_from([Ur("cq"), Ur("unlink"), Ur("echo"), Ur("info")]),
    st.builds(Ur, st.just("link"), st.sampled_from(["VLR001", "VLR123", "Q0SIG"]), LETTERS, st.just("")),
    st.builds(Ur, st.just("repeater"), CALLS, MODULES, st.just("")),
    st.builds(Ur, st.just("station"), CALLS, st.sampled_from(["", "A", "P", "M"]), st.just("")),
)
FIELD = st.text(st.sampled_from("ABCQVL01 /"), min_size=1, max_size=8).filter(lambda text: text.strip())


@given(URS)
def test_a_printed_ur_has_the_same_meaning_back(ur):
    field = ur_field(ur)
    assert len(field) == 8
    assert read_ur(field) == ur
    assert read_ur(parse_fields(shown(field))["ur"]) == ur


@given(FIELD, FIELD, FIELD, FIELD, st.sampled_from(["", "HAND", "M5"]))
def test_printed_fields_come_back_character_by_character(ur, rpt1, rpt2, my, note):
    fields = Fields(my.ljust(8), note, ur.ljust(8), rpt1.ljust(8), rpt2.ljust(8))
    if "/" in fields.my:
        return
    back = parse_fields(print_fields(fields))
    assert (back["ur"], back["rpt1"], back["rpt2"], back["my"]) == (fields.ur, fields.rpt1, fields.rpt2, fields.my)
    assert back.get("note", "") == note


@given(st.text(max_size=40))
def test_any_text_can_be_pasted(text):
    for name, value in parse_fields(text).items():
        assert name in {"ur", "rpt1", "rpt2", "my", "note"}
        read_ur(value)
        read_rpt(value)


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("vlr001cl", {"ur": "VLR001CL"}),
        ("UR: CQCQCQ RPT1: Q0SIG__B RPT2: Q0SIG__G", {"ur": CQ, "rpt1": "Q0SIG  B", "rpt2": "Q0SIG  G"}),
        ("MY=Q4WRN···/HAND UR=·······U", {"my": "Q4WRN   ", "note": "HAND", "ur": "       U"}),
        ("   ", {}),
    ],
)
def test_pasted_fields(text, found):
    assert parse_fields(text) == found


def test_targets_notes_and_the_order_of_use():
    assert target_of("vlr001 c") == ("VLR001", "C")
    assert target_of("Q0SIGB") == ("Q0SIG", "B")
    assert target_of("no such thing") == ("", "")
    assert target_of("Q0SIG") == target_of("qq1abc") == target_of("2Q0ABC") == ("", ""), (
        "a call sign without its module"
    )
    assert target_of("Q0SI G") == ("Q0SI", "G")
    assert note_fault("HANDS")
    index, service = PlanIndex(Plan(), TODAY), Service("s", 438_612_500, 438_612_500, DstarAir())
    steps = Dstar().order_of_use(index, service, Destination("d", "VLR001 C", "reflector", text="VLR001 C"))
    assert [word in step for word, step in zip(("link", "confirms", "CQCQCQ", "unlink"), steps, strict=True)] == [
        True
    ] * 4
    assert Dstar().order_of_use(index, service, Destination("d", "Local", "local")) == ()


def test_a_simplex_memory_for_a_radio_that_needs_duplex(plan, profiles):
    from umbra_awl.core.fit.fitting import fit

    fell = next(radio for radio in plan.radios if radio.key == "fell")
    result = fit(PlanIndex(plan, TODAY), fell, profiles["fell-d2"])
    simplex = [item for item in result.memory.channels if item.mode == "dstar" and item.rx_hz == item.tx_hz]
    assert simplex
    assert all(item.zero_offset for item in simplex)
    assert {line.key for line in result.report.of_kind("made duplex")} == {item.route for item in simplex}
    plain = replace_needs(profiles["fell-d2"])
    assert not any(item.zero_offset for item in fit(PlanIndex(plan, TODAY), fell, plain).memory.channels)


def replace_needs(profile):
    import msgspec

    return msgspec.structs.replace(profile, needs=replace(profile.needs, zero_offset=False))
