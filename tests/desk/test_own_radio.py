"""A radio that nothing shipped resembles, described from nothing: values typed, keys taught by doing, its sheet printed."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QApplication, QLineEdit

from tests.core.lessons.odd_radio import person
from tests.core.lessons.test_learning import typed_into
from umbra_awl.core.lessons.menu_photo import photo_path
from umbra_awl.core.lessons.trials import TRIALS
from umbra_awl.core.paper.keysheet import key_sheet
from umbra_awl.core.radio.profile_edit import from_nothing
from umbra_awl.desk.radios.own.menu_photo import MenuPhoto

VALUES = (
    ("name", "Lidd 7"), ("summary", "A handheld"), ("modes", "fm"), ("modes", "dmr"), ("receive", "144-148, 430-450"),
    ("transmit", "144-148, 430-450"), ("power_watts", "5"), ("display.length", "12"),
    ("display.characters", "ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-/+."), ("display.upper", "yes"), ("knob_positions", "16"),
    ("limits.channels", "200"), ("limits.zones", "10"), ("limits.zone_channels", "20"), ("limits.contacts", "100"),
)  # fmt: skip


@pytest.fixture
def page(demo_window, qtbot):
    demo_window.stages.open("radios", "own")
    made = demo_window.stages["radios"].profile
    made.set_draft(from_nothing(demo_window.bench.profiles))
    for field, text in VALUES:
        assert made.values.change(field, text) == ""
    made.show_view("keys")
    qtbot.waitUntil(lambda: made.lessons.part is not None)
    return made


def places(lessons):
    """Where each part stands in the list."""
    return {lessons.list.item(at).data(Qt.ItemDataRole.UserRole).key: at for at in range(lessons.list.count())}


def typed(qtbot, table, lines):
    """Lines typed as a person types them: Enter goes on from cell to cell, and from line to line."""
    table.begin_typing()
    for keys, shows, _said in lines:
        at = table.currentRow()
        for text in (keys, shows):
            editor = next(item for item in table.findChildren(QLineEdit) if item.isVisible())
            qtbot.keyClicks(editor, text)
            qtbot.keyClick(editor, Qt.Key.Key_Return)
            QApplication.processEvents()
        assert (table.item(at, 0).text(), table.item(at, 1).text()) == (keys, shows)


def test_a_lesson_is_typed_foretold_and_noted(qtbot, page):
    lessons = page.lessons
    assert lessons.part.key == "begin"
    typed(qtbot, lessons.table, person("begin", lessons.item.channel, lessons.memory.contacts))
    qtbot.mouseClick(lessons.keep, Qt.MouseButton.LeftButton)
    lessons.list.setCurrentRow(places(lessons)["frequency"])
    lines = person("frequency", lessons.item.channel, lessons.memory.contacts)
    typed(qtbot, lessons.table, lines)
    assert lessons.table.item(1, 2).text() == "frequency, 7 digits"
    qtbot.mouseClick(lessons.keep, Qt.MouseButton.LeftButton)
    assert lessons.trying is not None
    assert lessons.same.hasFocus()
    shown = lessons.table.item(1, 0).text().replace(" ", "")
    assert shown == str(lessons.trying.channel.rx_hz // 100)
    qtbot.keyClick(lessons.same, Qt.Key.Key_Return)
    assert lessons.list.item(2).text().startswith("Frequency\ntried 20")
    assert page.draft.taught.lessons


def taught_all(page, most=60):
    lessons = page.lessons
    for _turn in range(most):
        if lessons.trying is not None:
            lessons.same.click()
            continue
        if lessons.found.text().startswith("Every memory"):
            return
        lessons.table.begin(
            lessons.part.fields, person(lessons.part.key, lessons.item.channel, lessons.memory.contacts)
        )
        lessons.understand()
        assert lessons.keep.isEnabled(), (lessons.part, lessons.found.text())
        lessons.keep.click()
    raise AssertionError(lessons.found.text())


def test_taught_to_the_end_its_sheet_typed_into_the_radio_gives_the_plans_memories(qtbot, demo_window, page):
    taught_all(page)
    page.files.keep()
    profile = demo_window.bench.profiles[page.draft.key]
    assert "keypad" in profile.ways_in
    demo_window.stages["radios"].add(profile)
    qtbot.waitUntil(lambda: demo_window.bench.fit is not None)
    memory = demo_window.bench.fit.memory
    radio = typed_into(key_sheet(memory, profile))
    assert {channel.number for channel in memory.channels} == radio.memories.keys()
    demo_window.stages.open("transfer", "keys")
    keys = demo_window.stages["transfer"].keys
    qtbot.waitUntil(lambda: keys.sheet is not None)
    assert keys.list.count() == len(memory.channels) + 1
    assert "cannot be entered" not in keys.list.item(1).text()


def test_what_came_out_otherwise_is_corrected_and_kept_beside(qtbot, page):
    lessons = page.lessons
    lessons.list.setCurrentRow(places(lessons)["shift"])
    lessons.table.begin(lessons.part.fields, person("shift", lessons.item.channel, lessons.memory.contacts))
    lessons.understand()
    lessons.keep.click()
    if lessons.trying is not None:
        other = lessons.trying
        lessons.other.click()
        assert lessons.item == other
        assert lessons.table.lines()
        assert lessons.keep.isVisible()
    lessons.open(lessons.part)
    lessons.drop.click()
    assert not [item for item in page.draft.taught.lessons if item.part == lessons.part.key]


def test_nothing_is_pressed_for_none_and_letters_are_told(qtbot, page):
    lessons = page.lessons
    lessons.list.setCurrentRow(places(lessons)["tone"])
    lessons.none.click()
    assert any(item.part == "tone" and not item.steps for item in page.draft.taught.lessons)
    lessons.list.setCurrentRow(places(lessons)["name"])
    lessons.letters.setText("2 ABC2, 3")
    lessons.letters.editingFinished.emit()
    assert "no key with its letters" in lessons.found.text()
    lessons.letters.setText("2 ABC2, 3 DEF3")
    lessons.letters.editingFinished.emit()
    assert [item.key for item in page.draft.taught.letters] == ["2", "3"]


def test_limits_are_noted_by_trying(qtbot, page):
    page.show_view("trying")
    first = page.trials._commit(TRIALS[0])
    assert "whole number" in first("many")
    assert first("8") == ""
    assert page.draft.display.length == 8
    assert page.draft.taught.trials[0].answer == "8"


def test_before_it_is_said_what_it_is_nothing_can_be_taught(demo_window, qtbot):
    demo_window.stages.open("radios", "own")
    page = demo_window.stages["radios"].profile
    page.set_draft(from_nothing(demo_window.bench.profiles))
    page.show_view("keys")
    assert "First say what it is" in page.lessons.title.text()
    assert not page.lessons.table.isVisible()


def test_a_photograph_of_its_menus_lies_beside_without_its_place(qtbot, page, tmp_path):
    from PIL import Image

    window = page.window()
    source = tmp_path / "menus.jpg"
    exif = Image.Exif()
    exif[0x010E] = "at home"
    Image.effect_noise((3_000, 900), 60).convert("RGB").save(source, exif=exif)
    photo = MenuPhoto(page, window.bench, page.files.folder, page.draft.key, page.draft.name)
    qtbot.addWidget(photo)
    photo.show()
    assert photo.told.isVisible(), "it teaches what is photographed"
    photo.take(source)
    qtbot.waitUntil(lambda: not photo.picture.pixmap().isNull(), timeout=10_000)
    assert not photo.isModal()
    kept = photo_path(page.files.folder, page.draft.key)
    with Image.open(kept) as made:
        assert max(made.size) <= 2_400
        assert not made.getexif()
    (tmp_path / "no.jpg").write_bytes(b"no picture")
    told = []
    window.bench.said.connect(lambda text, _kind: told.append(text))
    photo.take(tmp_path / "no.jpg")
    qtbot.waitUntil(lambda: bool(told), timeout=10_000)
    assert kept.exists(), "the one that was there stays"
