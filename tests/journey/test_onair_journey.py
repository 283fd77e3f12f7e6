"""On air in the real window by keyboard: four scenes, a text, a picture with losses and a break, missed calls before, after."""

import pytest
from PIL import Image, ImageDraw
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from umbra_awl.desk.onair import evening_page
from umbra_awl.desk.onair.messages import air_job

pytestmark = pytest.mark.journey
KEY = Qt.Key


def onair(window, name):
    window.stages.open("onair", name)
    return getattr(window.stages["onair"], name)


def walk_to(lanes, key):
    """Go down the list of scenes by its keys."""
    lanes.list.setFocus()
    QTest.keyClick(lanes.list, KEY.Key_Home)
    while lanes.stand.scene.key != key:
        QTest.keyClick(lanes.list, KEY.Key_Down)
    lanes.take_focus()


def go_to(lanes, moment):
    while lanes.stand.now < moment:
        QTest.keyClick(lanes.picture, KEY.Key_Right)


@pytest.mark.parametrize(
    ("scene", "moment", "told"),
    [
        ("echo", 20, lambda play: any(bar.tone == "echo" for bar in play.book.bars)),
        ("busy-simplex", 30, lambda play: any("deaf" in cut.reason for cut in play.book.cuts)),
        ("link-left", 15, lambda play: any("again" in cut.reason for cut in play.book.cuts)),
        ("wrong-dgid", 15, lambda play: any("wants DG-ID" in cut.reason for cut in play.book.cuts)),
    ],
)
def test_a_scene_is_played_by_keyboard_and_shows_what_it_is_about(demo_window, qtbot, scene, moment, told):
    lanes = onair(demo_window, "lanes")
    walk_to(lanes, scene)
    go_to(lanes, moment)
    assert told(lanes.stand.play)
    assert not lanes.picture.grab().isNull()
    QTest.keyClick(lanes.picture, KEY.Key_Return)
    begun = lanes.stand.now
    qtbot.waitUntil(lambda: lanes.stand.now > begun + 0.3, timeout=5_000)  # time goes on by itself
    QTest.keyPress(lanes.picture, KEY.Key_Space)
    qtbot.waitUntil(lambda: lanes.stand.play.keyer.now_keyed is not None, timeout=2_000)
    QTest.keyRelease(lanes.picture, KEY.Key_Space)
    qtbot.waitUntil(lambda: lanes.stand.play.keyer.now_keyed is None, timeout=2_000)


@pytest.fixture
def bench(demo_window, qtbot, monkeypatch):
    """The two radios on, the air much faster than life."""
    monkeypatch.setattr(air_job, "BENCH_SPEED", 60.0)
    demo_window.bench.choose_radio("fell")
    messages = onair(demo_window, "messages")
    messages.far.switch.setFocus()
    QTest.keyClick(messages.far.switch, KEY.Key_Space)
    qtbot.waitUntil(lambda: messages.air.on, timeout=20_000)
    return messages.air


def test_a_text_goes_out_after_a_last_yes_and_is_proven_by_the_answer(demo_window, qtbot, bench):
    messages = onair(demo_window, "messages")
    messages.take_focus()
    QTest.keyClicks(messages.texts.text, "Where are you now?")
    QTest.keyClick(messages.texts.text, KEY.Key_Return)
    assert bench.kept.said == ()
    QTest.keyClick(messages.texts.text, KEY.Key_Return)
    qtbot.waitUntil(lambda: len(bench.kept.said) == 2, timeout=20_000)
    assert bench.kept.said[0].position
    assert bench.kept.said[1].call == "Q3AMB"
    assert bench.kept.proven == {0}


def test_a_picture_with_losses_and_a_break_in_the_middle_arrives_equal(demo_window, qtbot, bench, tmp_path):
    image = Image.effect_noise((640, 480), 60).convert("RGB")
    ImageDraw.Draw(image).text((40, 40), "Harrowquay", "black", font_size=40)
    image.save(tmp_path / "map.png")
    talk = onair(demo_window, "messages")
    talk.show_kind("picture")
    pictures = talk.pictures
    pictures.hand.open(tmp_path / "map.png")
    qtbot.waitUntil(lambda: pictures.hand.seen is not None, timeout=10_000)
    bench.order("loss", share=0.2)
    bench.order("break_at", blocks=40)
    pictures.yes.setFocus()
    QTest.keyClick(pictures.yes, KEY.Key_Space)
    assert bench.sending == ""  # a last yes is asked for
    QTest.keyClick(pictures.yes, KEY.Key_Space)
    qtbot.waitUntil(lambda: bench.outgoing is not None and bench.outgoing.state == "broken", timeout=40_000)
    qtbot.waitUntil(lambda: not bench.sending, timeout=5_000)
    assert "goes on from here" in pictures.fault.text()
    assert pictures.yes.text() == "Go on"
    bench.order("away", on=False)
    QTest.keyClick(pictures.yes, KEY.Key_Space)
    qtbot.waitUntil(lambda: bench.outgoing.state == "done", timeout=60_000)
    qtbot.waitUntil(lambda: bool(bench.kept.said), timeout=5_000)
    there = next((bench.kept.history.folder / "far").glob("far-*.jpg"))
    assert there.read_bytes() == pictures.hand.seen.small.data
    assert (bench.kept.history.folder / bench.kept.said[-1].file).read_bytes() == there.read_bytes()


def test_missed_calls_before_and_after_the_change_that_helps(demo_window, qtbot, monkeypatch):
    monkeypatch.setattr(evening_page, "EVENINGS", 120)
    monkeypatch.setattr(evening_page, "TRIED", 40)
    page = onair(demo_window, "evening")
    names = [page.what.itemText(at) for at in range(page.what.count())]
    page.what.setCurrentIndex(next(at for at, name in enumerate(names) if "TRAV" in name.upper()))
    page.take_focus()
    QTest.keyClick(page.go, KEY.Key_Space)
    qtbot.waitUntil(lambda: not page.running, timeout=30_000)
    before = page.result.missed
    page.helps.setFocus()
    QTest.keyClick(page.helps, KEY.Key_Space)
    qtbot.waitUntil(lambda: not page.running, timeout=60_000)
    at = next(at for at, item in enumerate(page.helping.found) if item.change.edit is not None and item.sure)
    page.helping.table.choose(at)
    page.helping.do_it.setFocus()
    QTest.keyClick(page.helping.do_it, KEY.Key_Space)
    qtbot.waitUntil(lambda: demo_window.bench.worked.fresh and demo_window.bench.fit is not None, timeout=10_000)
    page.go.setFocus()
    QTest.keyClick(page.go, KEY.Key_Space)
    qtbot.waitUntil(lambda: not page.running, timeout=30_000)
    after = page.result.missed
    assert before.value - after.value > before.off + after.off
    assert page.kept is not None
