"""Icons: one of its own for each stage and for a repair, drawn in the theme's ink, beside what they stand for."""

from itertools import combinations

from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from umbra_awl.desk.frame.full_menu import full_menu
from umbra_awl.desk.stages import STAGES, TITLES
from umbra_awl.desk.theme.icons import STROKES


def drawn(icons, name):
    return icons.of(name).pixmap(32, 32).toImage()


def test_each_stage_has_an_icon_unlike_any_other_in_the_ink_of_the_theme(demo_window):
    assert set(STAGES) | {"repair"} == set(STROKES)
    icons = demo_window.icons
    assert all(drawn(icons, one) != drawn(icons, other) for one, other in combinations(STROKES, 2))
    assert all(drawn(icons, "none of these") != drawn(icons, name) for name in STROKES)
    demo_window.theme.choose("light")
    light = drawn(icons, "routes")
    demo_window.theme.choose("dark")
    assert drawn(icons, "routes") != light


def test_they_stand_beside_what_is_found_and_in_the_menu_of_stages(demo_window):
    finder = demo_window.top.finder
    finder.begin()
    QTest.keyClicks(finder, "isles-wide")
    shown = finder._list.item(0).icon().pixmap(32, 32).toImage()
    assert shown in [drawn(demo_window.icons, name) for name in STROKES], finder._list.item(0).text()
    QTest.keyClick(finder, Qt.Key.Key_Escape)
    menu = full_menu(demo_window, demo_window.bench, demo_window.commands, demo_window.icons)
    (go,) = [action.menu() for action in menu.actions() if action.text() == "&Go"]
    under = {action.text(): action for action in go.actions() if action.menu() is not None}
    assert all(not under[title].icon().isNull() for title in TITLES.values() if title in under)
    assert set(under) == set(TITLES.values()) - {"Radios", "Transfer"}  # these have a menu of their own
