"""The house style of names, own abbreviations, and what stays as the operator wrote it."""

import pytest
from hypothesis import given

from tests.days import TODAY
from tests.strategies import plans
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import NameStyle, Short
from umbra_awl.core.radio.display import NameRules
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.routes.names import name_routes
from umbra_awl.core.routes.names_edit import set_style, shorts_from, shorts_text

WIDE = NameRules(16, shipped_profiles()["moor4k"].display.characters, False)
TEN = NameRules(10, shipped_profiles()["tarn16"].display.characters, True)
ISLES = "blackfell-dmr>isles-wide@2"


def named(plan, style, rules, route=ISLES):
    """The route's name on a radio of its mode that also does FM."""
    index = PlanIndex(set_style("Style", style).apply(plan), TODAY)
    mode = index.services[route.split(">")[0]][1].mode
    routes = [item for item in index.plan.routes if index.services[item.service][1].mode in {"fm", mode}]
    return name_routes(index, routes, rules)[route].name


@pytest.mark.parametrize(
    ("style", "wide", "ten"),
    [
        (NameStyle(), "BLK Isles", "BLK ISLES"),
        (NameStyle("call"), "Q0BLK Isles", "Q0BLK ISLE"),
        (NameStyle("destination"), "Isles BLK", "ISLES BLK"),
        (NameStyle(separator="-"), "BLK-Isles", "BLK-ISLES"),
        (NameStyle(capitals=True), "BLK ISLES", "BLK ISLES"),
        (NameStyle(numbers=True), "Blackfell 99900", "BLK 99900"),
        (NameStyle("call", "/", True, True), "Q0BLK/99900", "BLK/99900"),
        (NameStyle(shorts=(Short("Blackfell", "Bf"),)), "Bf Isles", "BF ISLES"),
        (NameStyle(shorts=(Short("isles-wide", "Iw"),)), "BLK Iw", "BLK IW"),
        (NameStyle(separator="~"), "BLK Isles", "BLK ISLES"),
    ],
)
def test_a_style_on_two_displays(plan, style, wide, ten):
    assert (named(plan, style, WIDE), named(plan, style, TEN)) == (wide, ten)


def test_a_name_of_ones_own_stays(plan):
    style = NameStyle("call", "-", True, True)
    assert named(plan, style, WIDE, "home-dmr>worldwide@2") == "HOME WORLDWIDE"
    assert named(plan, NameStyle("call"), WIDE, "home-dmr>worldwide@2") == "Home worldwide"


@pytest.mark.parametrize(
    ("route", "name"),
    [
        ("signal-b>vlr001-a@1", "SIG B +VLR001 A"),
        ("signal-b>vlr001-a@2", "SIG B VLR001 A"),
        ("home-dstar>vlr001-c@2", "Home VLR001 C"),
        ("torrick-fusion>local@0", "TRK Fusion"),
    ],
)
def test_links_modules_and_modes_are_told_apart(plan, route, name):
    assert named(plan, NameStyle(), WIDE, route) == name


@given(plans())
def test_whatever_the_style_names_fit_and_differ(plan):
    for rules in (WIDE, TEN):
        names = [item.name for item in name_routes(PlanIndex(plan, TODAY), plan.routes, rules).values()]
        assert len(set(names)) == len(names)
        assert all(len(name) <= rules.length for name in names)
        if plan.names.capitals:
            assert all(name == name.upper() for name in names)


def test_own_abbreviations_as_a_line():
    shorts = shorts_from("Velmar=Vm, Torrick = Tk,")
    assert shorts == (Short("Velmar", "Vm"), Short("Torrick", "Tk"))
    assert shorts_text(NameStyle(shorts=shorts)) == "Velmar=Vm, Torrick=Tk"
    assert shorts_from("") == ()


@pytest.mark.parametrize(
    ("text", "says"),
    [("Velmar", "Velmar=Vm"), ("=x", "not an abbreviation"), ("Ab=Abc", "not shorter"), ("a b=c", "one word")],
)
def test_a_wrong_abbreviation_says_what_to_write(text, says):
    with pytest.raises(ValueError, match=says):
        shorts_from(text)
