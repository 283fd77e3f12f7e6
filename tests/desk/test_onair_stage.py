"""The On air pages in the window: lanes by keyboard, figures, texts and pictures; wrong input; what is refused and why."""

import threading

import pytest
from msgspec.structs import replace
from PIL import Image
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtGui import QFocusEvent, QGuiApplication, QImage
from PyQt6.QtTest import QTest

from umbra_awl.core.messages.history import MessageHistory, Said
from umbra_awl.core.messages.picture import Crop
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.simulation.parameters import figures
from umbra_awl.desk.onair import evening_page
from umbra_awl.desk.onair.lanes_words import moment_words
from umbra_awl.desk.onair.messages import in_hand, messages_page
from umbra_awl.desk.onair.stand import FREE
from umbra_awl.desk.parts.saving import FilePlace


@pytest.fixture
def said(demo_window):
    told = []
    demo_window.bench.said.connect(lambda text, _kind: told.append(text))
    return told


def page(window, name):
    window.stages.open("onair", name)
    return getattr(window.stages["onair"], name)


def showing(window, kind):
    """The talk with what is written or shown next."""
    made = page(window, "messages")
    made.show_kind(kind)
    return made.texts if kind == "text" else made.pictures


def choose_scene(lanes, key):
    lanes.list.setCurrentRow([scene.key for scene in lanes.stand.scenes].index(key))


def guarded(plan):
    return replace(plan, station=replace(plan.station, licence=replace(plan.station.licence, guard=True)))


# lanes


def test_the_lanes_are_played_by_keyboard(demo_window, qtbot):
    lanes = page(demo_window, "lanes")
    choose_scene(lanes, "echo")
    picture, stand = lanes.picture, lanes.stand
    lanes.take_focus()
    QTest.keyClick(picture, Qt.Key.Key_Home)
    QTest.keyClick(picture, Qt.Key.Key_Right)
    assert stand.now == 5
    QTest.keyPress(picture, Qt.Key.Key_Space)
    assert stand.holding
    assert stand.time.running
    assert stand.play.keyer.now_keyed is not None
    QTest.keyRelease(picture, Qt.Key.Key_Space)
    QTest.keyPress(picture, Qt.Key.Key_Space)  # a held key that repeats as release and press is one over
    QTest.qWait(80)
    assert stand.holding
    QTest.keyRelease(picture, Qt.Key.Key_Space)
    QTest.qWait(80)
    assert not stand.holding
    assert stand.play.keyer.now_keyed is None
    QTest.keyClick(picture, Qt.Key.Key_Return)
    assert not stand.time.running
    QTest.keyClick(picture, Qt.Key.Key_Home)
    assert stand.now == 0
    channel = stand.play.controls.channel.name
    QTest.keyClick(picture, Qt.Key.Key_Down)
    assert stand.play.controls.channel.name != channel
    QTest.keyClick(picture, Qt.Key.Key_Up)
    assert stand.play.controls.channel.name == channel
    assert lanes.front.display.lines[0] == channel
    span = picture.span_s
    QTest.keyClicks(picture, "-")
    assert picture.span_s > span
    QTest.keyClicks(picture, "+")
    assert picture.span_s == span
    assert channel in picture.accessibleName() or "display" in picture.accessibleName()


def test_stepping_back_undoes_and_ones_own_hands_replace_the_shown_ones(demo_window):
    stand = page(demo_window, "lanes").stand
    stand.choose("busy-simplex")
    stand.play.advance(30)
    assert stand.play.keyer.done
    for _ in range(6):
        stand.time.back()
    assert stand.now == 0
    assert stand.play.keyer.done == []
    stand.press()
    stand.release()
    stand.time.pause()
    stand.play.advance(100)
    assert len(stand.play.keyer.done) == 1  # what would have been shown is left out


def test_whoever_looks_elsewhere_no_longer_holds_the_key(demo_window):
    lanes = page(demo_window, "lanes")
    lanes.stand.press()
    lanes.picture.focusOutEvent(QFocusEvent(QFocusEvent.Type.FocusOut))
    assert not lanes.stand.holding
    lanes.stand.press()
    demo_window.stages.open("routes", "sheet")
    assert not lanes.stand.holding
    assert not lanes.stand.time.running


def test_a_scene_on_ones_own_plan_and_one_that_it_lacks(demo_window, said):
    lanes = page(demo_window, "lanes")
    choose_scene(lanes, "echo")
    lanes.on_own.click()
    assert lanes.stand.laid.setting.index is demo_window.bench.index
    choose_scene(lanes, "wrong-dgid")
    demo_window.bench.do(Edit("No Fusion radio", lambda plan: replace(plan, radios=plan.radios[:1])))
    assert "wanted is" in lanes.story.text()
    assert not lanes.run.isEnabled()
    lanes.picture.repaint()
    lanes.on_practice.click()
    assert lanes.run.isEnabled()


def test_free_play_takes_the_route_in_hand(demo_window):
    stand = page(demo_window, "lanes").stand
    stand.choose(FREE)
    assert stand.laid.setting.radio == demo_window.bench.radio_key
    stand.play.advance(120)
    assert stand.play.book.bars
    lanes = stand.lanes
    stand.do("zone", "1")
    assert stand.lanes != lanes  # they follow the knob
    demo_window.bench.choose_radio("fell")
    assert stand.laid.setting.radio == "fell"


def test_advice_that_is_known_is_not_said_again(demo_window):
    lanes = page(demo_window, "lanes")
    stand = lanes.stand
    stand.choose("busy-simplex")
    stand.play.advance(1)
    stand.do("press")
    stand.do("release")
    keys = [item.key for item in stand.advice.said]
    assert "listen" in keys
    stand.advice.know("listen")
    stand.restart()
    stand.play.advance(1)
    stand.do("press")
    assert "listen" not in [item.key for item in stand.advice.said]
    stand.advice.forget_known()
    stand.do("release")
    assert "listen" in [item.key for item in stand.advice.said]


def test_every_key_that_the_owner_set_is_on_the_front(demo_window):
    lanes = page(demo_window, "lanes")
    demo_window.bench.choose_radio("moor")
    lanes.stand.choose(FREE)
    texts = [made.text() for made in lanes.front.findChildren(type(lanes.front.up))]
    assert "Heel: zone up" in texts
    assert "Heel held: one-touch" in texts
    assert any(text.endswith("not set") for text in texts)


def test_moments_are_told_in_seconds_or_minutes():
    assert (moment_words(75.4, 80), moment_words(75.4, 900)) == ("75 s", "1:15")


def test_the_lanes_paint_at_every_moment_of_every_scene(demo_window):
    lanes = page(demo_window, "lanes")
    for scene in lanes.stand.scenes:
        lanes.stand.choose(scene.key)
        for part in (0.3, 0.7, 1.0):
            lanes.stand.play.advance(60 * scene.minutes * part)
            assert not lanes.picture.grab().isNull()


# figures


@pytest.fixture
def evening(demo_window, monkeypatch):
    monkeypatch.setattr(evening_page, "EVENINGS", 25)
    monkeypatch.setattr(evening_page, "TRIED", 6)
    made = page(demo_window, "evening")
    names = [made.what.itemText(at) for at in range(made.what.count())]
    made.what.setCurrentIndex(next(at for at, name in enumerate(names) if "TRAV" in name.upper()))
    return made


def test_figures_are_played_shown_and_go_stale_with_the_plan(evening, demo_window, qtbot):
    evening.play()
    assert evening.running
    qtbot.waitUntil(lambda: not evening.running, timeout=20_000)
    assert evening.result.number == 25
    assert "I miss" in evening.told.text()
    assert "missed" in evening.picture.accessibleName()
    assert not evening.picture.stale
    assert not evening.picture.grab().isNull()
    demo_window.bench.do(Edit("Rename", lambda plan: replace(plan, name="Other")))
    assert evening.picture.stale
    assert "play again" in evening.told.text()


def test_playing_can_be_stopped(evening, qtbot, monkeypatch):
    monkeypatch.setattr(evening_page, "EVENINGS", 100_000)
    evening.play()
    evening.go.click()
    qtbot.waitUntil(lambda: not evening.running, timeout=20_000)
    assert evening.told.text() == "Stopped."
    assert evening.result is None


def test_what_helps_is_tried_told_and_done(evening, demo_window, qtbot):
    evening.look_for_help()
    qtbot.waitUntil(lambda: not evening.running, timeout=30_000)
    table = evening.helping
    assert [item.gain for item in table.found] == sorted((item.gain for item in table.found), reverse=True)
    board = next(at for at, item in enumerate(table.found) if item.change.words.startswith("A duplex board"))
    table.table.choose(board)
    assert not table.do_it.isEnabled()  # a board is bought, no edit makes one
    assert "Frequency" in table.why.text()
    lists = next(at for at, item in enumerate(table.found) if item.change.edit is not None)
    table.table.choose(lists)
    before = demo_window.bench.plan
    table.do_chosen()
    assert demo_window.bench.plan != before
    assert evening.kept is not None
    demo_window.bench.steps.back()
    assert demo_window.bench.plan == before


def test_a_figure_is_set_refused_and_set_back(evening, demo_window, said):
    demo_window.show()
    evening.show_side(1)
    table = evening.assumed
    table.table.choose(0)
    name = "hang_repeater_s"
    for text in ("7,5", "x", "99999"):
        table.value.setText(text)
        table.set_figure()
    assert figures(demo_window.bench.plan.evening)[name] == 7.5
    assert any("not a number" in text for text in said)
    assert any("outside" in text for text in said)
    table.reset_figure()
    assert demo_window.bench.plan.evening.assumed == ()


def test_traffic_is_set_by_kind_and_by_hand(evening, demo_window, said):
    demo_window.show()
    evening.show_side(2)
    table = evening.traffic
    table.refresh()
    table.table.choose(1)
    key = table.chosen().key
    table.kind.setCurrentIndex(table.kind.findData("wide"))
    table.kind.activated.emit(table.kind.currentIndex())
    table.fields["over_s"].setText("9")
    table.fields["over_s"].editingFinished.emit()
    own = demo_window.bench.plan.evening.traffic[0]
    assert (own.destination, own.kind, own.over_s) == (key, "wide", 9.0)
    table.fields["overs"].setText("many")
    table.fields["overs"].editingFinished.emit()
    assert any("not a number" in text for text in said)
    table.reset()
    assert demo_window.bench.plan.evening.traffic[0].over_s is None


def test_two_channels_and_a_scan_are_asked_for_as_they_are_chosen(evening):
    evening._stand("watch")
    assert evening.make_choice().stance == "watch"
    evening._stand("scan")
    choice = evening.make_choice()
    assert choice.stance == "scan"
    assert not evening.first.isVisible()


# texts


def test_a_text_is_asked_once_more_and_what_is_wrong_is_said(demo_window, said):
    demo_window.bench.choose_radio("fell")
    messages = showing(demo_window, "text")
    messages.text.setText("Plese come")
    assert "please" in messages.spelling.text()
    messages.send()
    assert "bench is off" in said[-1]
    messages.air.on = True
    messages.refresh()
    messages.send()
    assert messages.asked is not None
    assert messages.yes.text() == "Yes, send to all"
    assert "only an answer" in messages.fault.text()
    messages.to.setText("Q9ODL")
    assert messages.asked is None  # it is another text now
    messages.to.setText("nobody")
    messages.send()
    assert messages.asked is None
    messages.to.clear()
    messages.text.setText("x" * 300)
    assert "too long" in messages.fault.text()
    messages.air.on = False


def test_quick_texts_are_the_radios_own_where_it_has_some(demo_window):
    messages = showing(demo_window, "text")
    demo_window.bench.choose_radio("moor")
    texts = [messages.quick.itemText(at) for at in range(messages.quick.count())]
    assert "QRX five minutes" in texts
    messages._take_quick(texts.index("On my way"))
    assert messages.text.text() == "On my way"


def test_the_guard_holds_for_texts_and_pictures(demo_window, said):
    demo_window.bench.choose_radio("fell")
    messages, pictures = showing(demo_window, "text"), showing(demo_window, "picture")
    demo_window.bench.do(Edit("Guard on", guarded))
    messages.text.setText("hello")
    messages.air.on = True
    messages.send()
    assert "receive-only" in said[-1].lower()
    assert messages.asked is None
    pictures.send()
    assert "receive-only" in said[-1].lower()
    messages.air.on = False


def test_fusion_pictures_are_told_what_they_need(demo_window):
    demo_window.bench.choose_radio("crag")
    pictures = showing(demo_window, "picture")
    fusion = next(at for at in range(pictures.way.channel.count()) if "torrick" in pictures.way.channel.itemData(at))
    pictures.way.channel.setCurrentIndex(fusion)
    assert "camera microphone" in pictures.way.verdict.text()
    assert "camera microphone" in pictures.fault.text()


def test_what_was_said_is_shown_with_its_proof(demo_window):
    messages = page(demo_window, "messages")
    messages.air.kept.take(
        (
            Said("2026-11-27T10:00:00Z", "mine", "Q4WRN", "Q3AMB", "one"),
            Said("2026-11-27T10:01:00Z", "theirs", "Q3AMB", "", "two"),
        )
    )
    assert messages.air.kept.proven == {0}
    assert "2. Latest: Q3AMB, two" in messages.talk.accessibleName()
    assert not messages.talk.grab().isNull()
    QTest.keyClick(messages.talk, Qt.Key.Key_Up)
    assert messages.talk.back == 1


def test_what_comes_in_for_another_plan_is_not_shown_here_and_its_bench_stops(demo_window, tmp_path):
    air = page(demo_window, "messages").air
    demo_window.bench.document_changed.emit()
    assert not air._closing.is_set()
    air.kept.arrived(MessageHistory(tmp_path / "elsewhere"), Said("2026-11-27T10:01:00Z", "theirs", "Q3AMB", "", "two"))
    assert air.kept.said == ()
    air.kept.there = MessageHistory(tmp_path / "elsewhere")
    demo_window.bench.document_changed.emit()
    assert air._closing.is_set()


# pictures


@pytest.fixture
def pictures(demo_window, tmp_path):
    demo_window.bench.choose_radio("fell")
    made = showing(demo_window, "picture")
    exif = Image.Exif()
    exif.get_ifd(0x8825)[1] = "N"
    Image.effect_noise((400, 300), 40).convert("RGB").save(tmp_path / "noise.jpg", exif=exif)
    made.hand.open(tmp_path / "noise.jpg")
    return made


def test_what_arrives_is_seen_with_its_price_before_sending(pictures):
    assert pictures.hand.seen is not None
    assert not pictures.hand.arrives.isNull()
    assert all(
        word in pictures.price.price.text() for word in ("bytes", "blocks", "on the air", "somebody speaks", "losses")
    )
    assert "Least power" in pictures.price.more.text()
    assert "where it was taken" in pictures.price.told.text()
    before = len(pictures.hand.seen.small.data)
    pictures.sizes[640, 480].click()
    pictures.qualities["fine"].click()
    assert len(pictures.hand.seen.small.data) > before * 1.5


def test_the_part_is_chosen_with_mouse_or_keys(pictures):
    picture = pictures.picture
    picture.resize(700, 400)
    box = picture._fitted(picture.pixmap, picture._boxes()[0])
    start, end = box.topLeft().toPoint() + QPoint(20, 20), box.center().toPoint()
    QTest.mousePress(picture, Qt.MouseButton.LeftButton, pos=start)
    QTest.mouseMove(picture, end)
    QTest.mouseRelease(picture, Qt.MouseButton.LeftButton, pos=end)
    crop = pictures.hand.crop
    assert 0 < crop.left < crop.right < 0.6
    QTest.keyClick(picture, Qt.Key.Key_Right)
    assert pictures.hand.crop.left > crop.left
    QTest.keyClick(picture, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert pictures.hand.crop.right - pictures.hand.crop.left > crop.right - crop.left
    QTest.keyClick(picture, Qt.Key.Key_Home)
    assert pictures.hand.crop == Crop()
    assert not picture.grab().isNull()


def test_a_file_that_is_no_picture_is_refused_and_the_picture_in_hand_stays(pictures, tmp_path, said):
    seen = pictures.hand.seen
    (tmp_path / "no.jpg").write_bytes(b"not a picture")
    pictures.hand.open(tmp_path / "no.jpg")
    assert "no picture" in said[-1]
    pictures.hand.open(tmp_path / "missing.jpg")
    assert "missing.jpg" in said[-1]
    assert pictures.hand.seen is seen


def test_nothing_readable_is_said_and_the_smallest_that_is_is_taken(pictures, tmp_path, said):
    pictures.hand._take_least(None)
    assert "Crop closer" in said[-1]
    Image.new("RGB", (400, 300), "white").save(tmp_path / "white.png")
    pictures.hand.open(tmp_path / "white.png")
    pictures.least.click()
    assert (pictures.hand.within, pictures.hand.quality) == ((160, 120), "coarse")


def test_a_picture_comes_from_the_clipboard_or_is_a_map_that_tells_no_more_than_the_plan(pictures, demo_window, said):
    board = QGuiApplication.clipboard()
    board.setText("no picture")
    pictures.sources.paste_it.click()
    assert "No picture was copied" in said[-1]
    image = QImage(300, 200, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.darkGreen)
    board.setImage(image)
    pictures.sources.paste_it.click()
    assert pictures.hand.opened.size == (300, 200)
    pictures.sources.map_it.click()
    assert pictures.hand.opened.size == (640, 480)
    hidden = lambda plan: replace(plan, station=replace(plan.station, privacy="none"))  # noqa: E731
    demo_window.bench.do(Edit("Tell no position", hidden))
    pictures.sources.map_it.click()
    assert "a map would tell it" in said[-1]


def test_what_came_in_is_answered_with_the_same_kind_and_saved_by_hand(demo_window, tmp_path, monkeypatch):
    messages = page(demo_window, "messages")
    folder = messages.air.kept.history.folder
    folder.mkdir(exist_ok=True)
    Image.new("RGB", (60, 40), "green").save(folder / "came.jpg")
    came = Said("2026-11-27T10:02:00Z", "theirs", "Q3AMB", "", "60 × 40", "picture", "arrived", "came.jpg")
    said = (
        Said("2026-11-27T10:00:00Z", "mine", "Q4WRN", "", "one"),
        Said("2026-11-27T10:01:00Z", "theirs", "Q9ODL", "", "two"),
        came,
    )
    messages.air.kept.take(said)
    messages.talk.grab()
    assert [act.words for act in messages.talk.acts_at(QPoint(5, messages.talk.height() - 20))] == [
        "Answer Q3AMB",
        "Save this picture",
    ]
    tops = [top for top, _said in messages.talk._lines]
    assert [act.words for act in messages.talk.acts_at(QPoint(5, int(tops[1]) + 3))] == ["Answer Q9ODL"]
    assert messages.talk.acts_at(QPoint(5, int(tops[2]) + 3)) == []
    QTest.keyClick(messages.talk, Qt.Key.Key_Return)
    assert (messages.to.text(), messages.kind) == ("Q3AMB", "picture")
    monkeypatch.setattr(messages_page, "ask_place", lambda *_asked: FilePlace(tmp_path / "kept.jpg"))
    messages.save(came)
    assert (tmp_path / "kept.jpg").read_bytes() == (folder / "came.jpg").read_bytes()


def test_a_size_chosen_by_hand_stands_however_late_the_proposal_comes(pictures, demo_window, qtbot, monkeypatch):
    go, over = threading.Event(), []
    monkeypatch.setattr(in_hand, "smallest_readable", lambda *_asked: go.wait(10) and ((160, 120), "coarse", 1.0))
    monkeypatch.setattr(demo_window.bench.jobs, "_synchronous", False)
    pictures.least.click()
    pictures.sizes[640, 480].click()
    go.set()
    demo_window.bench.jobs.latest("after it", lambda: None, over.append)
    qtbot.waitUntil(lambda: over == [None], timeout=10_000)
    assert pictures.hand.within == (640, 480)


def test_the_bench_ends_with_the_window(demo_window, qtbot):
    air = page(demo_window, "messages").air
    air.start()
    qtbot.waitUntil(lambda: air.on, timeout=20_000)
    process = air._process
    demo_window.close()
    assert process._process.poll() is not None


def test_traffic_is_measured_from_a_log(evening, demo_window, said, tmp_path):
    line = "2026-11-26 20:{:02d}:{:02d} dmr slot 2: network Q9ODL (9990077) to 4299, 8.0 s, loss 1 %"
    (tmp_path / "spot.log").write_text("\n".join(line.format(at // 5, at % 5 * 12) for at in range(25)))
    evening.traffic.measure(tmp_path / "spot.log")
    (own,) = demo_window.bench.plan.evening.traffic
    assert (own.destination, own.over_s, own.gap_s) == ("worldwide", 8.0, 4.0)
    assert "Measured: Worldwide" in said[-1]
    (tmp_path / "spot.log").write_text(line.format(1, 1))
    evening.traffic.measure(tmp_path / "spot.log")
    assert "often enough" in said[-1]
    evening.traffic.measure(tmp_path / "missing.log")
    assert "cannot be read" in said[-1]


def test_the_lanes_open_at_twenty_seconds_and_tell_at_the_end_what_was_seen(demo_window):
    lanes = page(demo_window, "lanes")
    stand, picture = lanes.stand, lanes.picture
    assert (stand.now, picture.span_s, stand.time.running) == (20.0, 20.0, False)
    at = picture.geometry_now()
    assert any(at.begin_s < (bar.end or 99) for bar in stand.play.book.bars)
    assert lanes.look_head.text() == "Look at this"
    stand.stand_at(60 * stand.scene.minutes)
    stand.time.pause()
    lanes.refresh()
    assert lanes.look_head.text() == "What was seen"
    assert "1 over went through" in lanes.look.text()
    assert lanes.right.text().startswith("Do it right: ")
    assert picture.geometry_now().begin_s < 10
    QTest.keyClick(lanes.by_hand, Qt.Key.Key_Space)
    assert stand.time.running
    assert picture.hasFocus()
    stand.time.pause()
    stand.stand_at(12)
    assert not stand.play.keyer.done
