"""Every page at several sizes of window and text, in both themes: nothing cut, nothing overlapping, nothing scrolled sideways."""

from datetime import timedelta

import pytest
from PyQt6.QtTest import QTest

from tests.days import MOMENT
from tests.desk.layout import faults
from umbra_awl.core.keep.clock import Clock
from umbra_awl.desk.held.workbench import Selection
from umbra_awl.desk.stages import STAGES

USUAL, LOW, LARGE, WIDE = (
    ((1280, 800), 1.0, "light"), ((1024, 700), 1.0, "dark"), ((1024, 700), 1.5, "light"), ((1920, 1080), 1.5, "dark"),
)  # fmt: skip
BY_NIGHT = [
    pytest.param(*case, marks=pytest.mark.night)
    for case in (
        ((1280, 800), 1.5, "light"), ((1280, 800), 0.9, "light"), ((1024, 700), 1.3, "dark"), ((1024, 700), 1.15, "light"),
        ((1920, 1080), 0.9, "light"),
    )
]  # fmt: skip
CASES = [USUAL, LARGE, *(pytest.param(*case, marks=pytest.mark.night) for case in (LOW, WIDE)), *BY_NIGHT]


@pytest.mark.parametrize(("size", "scale", "theme"), CASES)
def test_every_page_fits(window, demo, size, scale, theme):
    window._directory_path = demo.directory
    window.theme.choose(theme)
    window.theme.scale = scale
    window.theme.rescale(0)
    window.resize(*size)
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    found = []
    for key, entry in STAGES.items():
        for page in entry.pages:
            window.stages.open(key, page)
            QTest.qWait(40)
            found += [f"{key} {page}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


@pytest.mark.parametrize(
    ("size", "scale", "theme"), [LARGE, pytest.param(*USUAL, marks=pytest.mark.night), *BY_NIGHT[:1]]
)
@pytest.mark.parametrize("radio", ["fell", "moor"])
def test_the_ways_into_other_radios_fit_too(window, demo, size, scale, theme, radio):
    from umbra_awl.core.plan.edit.edits import set_fields
    from umbra_awl.core.plan.model import PeopleChoice
    from umbra_awl.core.plan.parts import RADIOS

    window._directory_path = demo.directory
    window.theme.choose(theme)
    window.theme.scale = scale
    window.theme.rescale(0)
    window.resize(*size)
    window.bench.do(set_fields(RADIOS, "moor", "x", people=PeopleChoice(everybody=True)))
    window.bench.choose_radio(radio)
    window.runner.ways.set_card(str(demo.plan.parent / "none"))
    found = []
    for page in STAGES["transfer"].pages:
        window.stages.open("transfer", page)
        QTest.qWait(60)
        found += [f"{radio} {page}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


@pytest.mark.parametrize(
    ("size", "scale", "theme"), [LARGE, pytest.param(*USUAL, marks=pytest.mark.night), BY_NIGHT[2]]
)
def test_every_way_to_practise_fits(window, size, scale, theme):
    from umbra_awl.desk.log.drills_page import WAYS

    window.theme.choose(theme)
    window.theme.scale = scale
    window.theme.rescale(0)
    window.resize(*size)
    window.stages.open("log", "drills")
    page, found = window.stages["log"].drills, []
    for way in WAYS:
        page.show_way(way)
        QTest.qWait(40)
        found += [f"{way}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


def fitted_to(window, size, scale, theme):
    window.theme.choose(theme)
    window.theme.scale = scale
    window.theme.rescale(0)
    window.resize(*size)


@pytest.mark.parametrize(("size", "scale", "theme"), [LARGE, pytest.param(*LOW, marks=pytest.mark.night)])
def test_every_question_fits_and_so_does_its_answer(window, size, scale, theme):
    """Which ones are asked differs from day to day, so all of them are looked at."""
    fitted_to(window, size, scale, theme)
    window.stages.open("log", "drills")
    page, found = window.stages["log"].drills, []
    page.show_way("questions")
    panel = page.questions
    asked = panel._coach.questions()
    assert len(asked) > 60
    for question in asked.values():
        panel.left, panel.count = [question], 1
        panel._next()
        QTest.qWait(1)
        found += [f"{question.key}: {fault}" for fault in faults(panel)]
        panel.go_on()
        QTest.qWait(1)
        found += [f"{question.key} answered: {fault}" for fault in faults(panel)]
    assert not found, "\n".join(found)


@pytest.mark.parametrize(
    ("size", "scale", "theme"), [LARGE, pytest.param(*USUAL, marks=pytest.mark.night), *BY_NIGHT[2:4]]
)
@pytest.mark.parametrize("days", [7, 11])
def test_on_the_first_and_last_day_of_the_trip_the_log_fits(window, size, scale, theme, days):
    """Where one is on the way, the line to log says from where one speaks, and the week has its clock."""
    window.bench.clock = Clock(MOMENT + timedelta(days=days))
    fitted_to(window, size, scale, theme)
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    found = []
    for page in STAGES["log"].pages:
        window.stages.open("log", page)
        QTest.qWait(40)
        found += [f"{page}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


def test_the_walk_sees_what_is_wrong(window):
    from PyQt6.QtWidgets import QLabel, QPushButton

    window.stages.open("station", "who")
    QTest.qWait(20)
    assert faults(window) == []
    label = QLabel("A text that is far too long for the little room it has", window)
    label.setGeometry(300, 300, 60, 20)
    label.show()
    button = QPushButton("Over it", window)
    button.setGeometry(310, 300, 80, 26)
    button.show()
    told = " ".join(faults(window))
    assert "cut: QLabel" in told
    assert "overlap: " in told
