"""Every page at several sizes of window and text, in both themes: nothing cut, nothing overlapping, nothing scrolled sideways."""

import pytest
from PyQt6.QtTest import QTest

from tests.desk.layout import faults
from umbra_awl.desk.stages import STAGES
from umbra_awl.desk.workbench import Selection

CASES = [
    ((1280, 800), 1.0, "light"),
    ((1024, 700), 1.0, "dark"),
    ((1280, 800), 1.5, "light"),
    ((1920, 1080), 1.5, "dark"),
    ((1280, 800), 0.9, "light"),
    ((1024, 700), 1.3, "dark"),
    ((1024, 700), 1.5, "light"),
    ((1024, 700), 1.15, "light"),
    ((1920, 1080), 0.9, "light"),
]


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
            window.open_stage(key, page)
            QTest.qWait(40)
            found += [f"{key} {page}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


@pytest.mark.parametrize(("size", "scale", "theme"), CASES[:3] + CASES[6:7])
@pytest.mark.parametrize("radio", ["fell", "moor"])
def test_the_ways_into_other_radios_fit_too(window, demo, size, scale, theme, radio):
    from umbra_awl.core.plan.edits import set_fields
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
        window.open_stage("transfer", page)
        QTest.qWait(60)
        found += [f"{radio} {page}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


@pytest.mark.parametrize(("size", "scale", "theme"), [CASES[0], CASES[1], CASES[5], CASES[6]])
def test_every_way_to_practise_fits(window, size, scale, theme):
    from umbra_awl.desk.log.drills_page import WAYS

    window.theme.choose(theme)
    window.theme.scale = scale
    window.theme.rescale(0)
    window.resize(*size)
    window.open_stage("log", "drills")
    page, found = window.stages["log"].drills, []
    for way in WAYS:
        page.show_way(way)
        for at in range(8 if way == "questions" else 1):
            if at:
                page.questions.go_on()
                page.questions.go_on()
            QTest.qWait(40)
            found += [f"{way} {at}: {fault}" for fault in faults(window)]
    assert not found, "\n".join(found)


def test_the_walk_sees_what_is_wrong(window):
    from PyQt6.QtWidgets import QLabel, QPushButton

    window.open_stage("station", "who")
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
