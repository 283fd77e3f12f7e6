"""The Radios stage: memory with search and choices, settings, people, comparison, a profile of one's own."""

from pathlib import Path

import pytest
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QPushButton

from tests.desk.test_routes_stage import choose, edit_field
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.core.radio.profile_check import profile_faults
from umbra_awl.core.radio.profile_file import read_profile
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.desk.radios.candidate_sheet import CandidateSheet
from umbra_awl.desk.stages import STAGES

HEADERS = ["id", "call", "name", "place", "country"]
FOLK = [(str(9_990_001 + at), f"Q{at % 10}AB{chr(65 + at % 26)}", f"Name {at}", "Stenby", "Velmar") for at in range(40)]
FOLK += [("9980001", "Q7OST", "Ost", "Far Haven", "Ostrand")]


@pytest.fixture
def stage(window):
    window.stages.open("radios")
    return window.stages["radios"]


@pytest.fixture
def people(window, stage):
    table = Table("people.csv", "csv", HEADERS, lambda: (Row(at, list(row)) for at, row in enumerate(FOLK, 2)))
    layout = TableLayout("people", {name: name for name in HEADERS}, source="registry")
    import_people(window.directory.store, table, layout, "2026-11-25T10:00:00")
    window.bench.choose_radio("moor")
    stage.show_page("people")
    return stage.people


def radio(window, key="tarn"):
    return window.bench.index.radios[key]


def texts(items):
    return [items.item(at).text() for at in range(items.count())]


# memory


def test_search_turns_to_the_next_match_and_says_when_there_is_none(qtbot, window, stage):
    page = stage.memory
    page.search.setFocus()
    qtbot.keyClicks(page.search, "echo")
    first = page.knob.channel().name
    assert "ECHO" in first
    qtbot.keyClick(page.search, Qt.Key.Key_Return)
    assert "ECHO" in page.knob.channel().name != first
    page.search.clear()
    qtbot.keyClicks(page.search, "145.5000")
    assert page.knob.channel().name == "CALLING FM"
    page.search.clear()
    qtbot.keyClicks(page.search, "zebra")
    assert "No memory of this radio has “zebra”" in window.message.text()


def test_from_a_memory_back_to_its_route(qtbot, window, stage):
    window.bench.select(Selection("home-dmr", "echo", 2))
    qtbot.keyClick(stage.memory.knob, Qt.Key.Key_Return)
    assert window.stages.current == "routes"
    assert window.bench.route.key == "home-dmr>echo@2"


def test_the_other_tables_of_a_radio_are_shown_beside_its_zones(window, stage):
    window.bench.choose_radio("fell")
    page = stage.memory
    names = texts(page.zones)
    page.zones.setCurrentRow(names.index("Access list  (4)"))
    assert [page.table.text(0, at) for at in (1, 2)] == ["Signal Down B", "Q0SIG··B"]
    page.zones.setCurrentRow(names.index("Call signs  (7)"))
    assert page.table.text(2, 2) == "·······U"
    window.bench.choose_radio("crag")
    page.zones.setCurrentRow(texts(page.zones).index("Rooms  (3)"))
    assert page.table.text(0, 2) == "40010"


def line_of(side, word):
    return next(at for at, line in side._lines.items() if word in line.title)


def test_a_line_of_the_report_is_decided_and_the_decision_remembered(qtbot, window, stage):
    side = stage.report
    side.report.setCurrentRow(line_of(side, "BLK ENG"))
    edit_field(qtbot, side.decide, "Name here", "Atlantic")
    assert radio(window).names[0].name == "ATLANTIC"
    assert window.bench.fit.channel_of(radio(window).names[0].route).name == "ATLANTIC"
    edit_field(qtbot, side.decide, "Name here", "A name that is far too long")
    assert "Tarn 16 shows 10" in side.decide._fault.text()
    qtbot.keyClick(side.decide._editing, Qt.Key.Key_Escape)
    side.report.setCurrentRow(line_of(side, "BLK NESSA"))
    QTest.qWait(10)
    buttons = side.decide.findChildren(type(side._remove))
    out = next(button for button in buttons if button.text() == "Leave it out" and button.isVisible())
    qtbot.mouseClick(out, Qt.MouseButton.LeftButton)
    assert radio(window).leave == ("blackfell-dmr>nessa-torrick@2",)
    window.bench.steps.back()
    assert radio(window).leave == ()


def press(qtbot, widget, text):
    QTest.qWait(10)
    made = next(item for item in widget.findChildren(QPushButton) if item.text() == text and item.isVisible())
    qtbot.mouseClick(made, Qt.MouseButton.LeftButton)


def test_all_of_a_kind_are_left_out_with_one_press(qtbot, window, stage):
    side = stage.report
    held = [line for line in side._lines.values() if line.kind == "receive-only"]
    side.report.setCurrentRow(line_of(side, held[0].title))
    press(qtbot, side.decide, f"Leave all {len(held)} out")
    assert set(radio(window).leave) == {line.key for line in held}
    side.report.setCurrentRow(line_of(side, side._lines[1].title))
    press(qtbot, side.decide, "Take it along again")
    assert len(radio(window).leave) == len(held) - 1


def test_a_radio_of_an_unknown_profile_says_what_to_do(window, stage):
    window.bench.do(set_fields(RADIOS, "tarn", "x", profile="unheard-of"))
    QTest.qWait(10)
    said = [label.text() for label in stage.report.card.findChildren(QLabel) if label.isVisible()]
    assert any("no profile “unheard-of” here" in text for text in said)


# settings


def test_settings_of_the_whole_radio(qtbot, window, stage):
    window.bench.choose_radio("moor")
    stage.show_page("settings")
    page = stage.settings
    choose(page.radio_card, "Firmware", "Plain")
    assert radio(window, "moor").firmware == "plain"
    edit_field(qtbot, page.radio_card, "Start-up text", "Good day")
    choose(page.radio_card, "Time-out", "240 s")
    choose(page.radio_card, "Position", "GPS")
    choose(page.keys_card, "Palm, long", "monitor")
    settings = window.bench.fit.memory.settings
    assert (settings.startup, settings.time_out_s, settings.position) == ("Good day", 240, "gps")
    assert {(item.key, item.press): item.action for item in settings.keys}["Palm", "long"] == "monitor"
    page.texts.quick.setPlainText("On my way\n\nQRX five\n")
    page.texts.keep_texts()
    assert window.bench.fit.memory.settings.quick_texts == ("On my way", "QRX five")
    edit_field(qtbot, page.radio_card, "Start-up text", "x" * 40)
    assert "this radio shows 32" in page.radio_card._fault.text()


def test_choices_of_the_plan_for_one_radio(window, stage):
    stage.show_page("settings")
    page = stage.settings
    choose(page.plan_card, "Zones", "FM")
    assert "fm" not in radio(window).zones
    choose(page.plan_card, "Zones", "FM")
    assert radio(window).zones is None
    choose(page.plan_card, "School", "dial the rest")
    assert radio(window).school == "dial"
    choose(page.plan_card, "Names", "call sign first")
    assert any(channel.name.startswith("Q0BLK") for channel in window.bench.fit.memory.channels)
    choose(page.plan_card, "Names", "as the plan")
    assert radio(window).style is None


# people


def test_people_are_chosen_shown_masked_and_saved(qtbot, window, people, tmp_path):
    choose(people.side.card, "Countries", "Velmar")
    assert people.chosen.wanted == 40
    assert people.table.text(0, 0) == "999••••"
    window.bench.show_ids(True)
    assert people.table.text(0, 0) == "9990001"
    edit_field(qtbot, people.side.card, "By hand", "q7ost")
    assert people.chosen.picked == 1
    people.save(FilePlace(tmp_path / "people.csv"))
    assert len((tmp_path / "people.csv").read_text().splitlines()) == 42
    edit_field(qtbot, people.side.card, "By hand", "Q0NOBODY")
    assert "Nobody in the directory" in people.side.card._fault.text()


def test_wrong_distances_and_logs_are_said(qtbot, window, people, tmp_path):
    edit_field(qtbot, people.side.card, "Within, km", "far")
    assert "is not a distance" in people.side.card._fault.text()
    qtbot.keyClick(people.side.card._editing, Qt.Key.Key_Escape)
    empty = tmp_path / "empty.adi"
    empty.write_text("nothing")
    people.side.read_log(empty)
    assert "holds no call signs" in window.message.text()
    people.side.read_log(tmp_path / "none.adi")
    assert "cannot be read" in window.message.text()
    log = tmp_path / "log.adi"
    log.write_text("<call:5>Q7OST<eor>")
    people.side.read_log(log)
    assert [person.call for person in people.chosen.rows] == ["Q7OST"]


def test_regions_everybody_talk_groups_and_nobody(qtbot, window, people):
    card = people.side.card
    edit_field(qtbot, card, "Regions", "stenby, haven")
    assert people.chosen.wanted == 41
    edit_field(qtbot, card, "Regions", "haven")
    assert [person.call for person in people.chosen.rows] == ["Q7OST"]
    choose(card, "Talk groups", "yes")
    assert people.chosen.wanted == 41
    press(qtbot, card, "Nobody")
    assert radio(window, "moor").people is None
    choose(card, "Everybody", "yes")
    choose(card, "If too many", "call sign")
    assert radio(window, "moor").people.sort == "call"
    assert "About" not in people._count.text()
    assert "41 people go over" in people._count.text()


def test_a_list_that_cannot_be_written_is_said(window, people):
    choose(people.side.card, "Everybody", "yes")
    people.save(FilePlace(Path("/proc/none/people.csv")))
    assert "cannot be written" in window.message.text()


def test_a_radio_that_keeps_no_people_says_so_in_place_of_an_empty_table(window, stage, people):
    window.bench.choose_radio("tarn")
    assert stage.pages.is_blank
    assert stage.pages._blank.shown.title == "Tarn 16 keeps no people list"
    assert "Moor 4K do" in stage.pages._blank.shown.text
    assert not window.beside.side.isVisible(), "nothing stands beside it"
    window.bench.choose_radio("moor")
    assert not stage.pages.is_blank
    assert people.isVisible()


# which radio


def test_the_picture_is_as_high_as_its_rows_at_any_size_of_text_and_leaves_the_reasons_their_room(window, stage):
    stage.show_page("which")
    page = stage.compare
    for steps in (0, 2, -2):
        window.theme.rescale(steps)
        area = page.sheet.parentWidget().parentWidget()
        assert area.maximumHeight() == page.sheet.sizeHint().height()
        assert page.why.height() >= 128
    alone, heights = CandidateSheet(window.theme), []
    alone.show_candidates(page.sheet.candidates)
    for width in (60, 200):  # of a column
        alone.resize(132 + width * len(alone.candidates), 600)
        heights.append(alone.sizeHint().height())
    assert heights[0] > heights[1]  # a name takes a second line


def test_three_radios_are_compared_explained_and_weighed(qtbot, window, stage):
    stage.show_page("which")
    page = stage.compare
    for name in ("Beck", "Syke", "Gill", "Crag"):
        choose(page.card, "Radios", name)
    sheet = page.sheet
    assert {item.profile.name for item in sheet.candidates} == {"Tarn 16", "Moor 4K", "Fell D2"}
    choose(page.card, "Position", "wanted")
    edit_field(qtbot, page.card, "People", "100,000")
    assert sheet.candidates[0].profile.name == "Moor 4K"
    assert "It holds 150,000 people, with the firmware “Crowd”" in " ".join(texts(page.why))
    row = next(at for at, point in enumerate(sheet.candidates[0].points) if point.name == "people")
    sheet.choose(0, row)
    before = sheet.candidates[0].share
    qtbot.keyClicks(sheet, "3")
    assert page.needs.weight == {"people": 3}
    assert sheet.candidates[0].share != before
    qtbot.keyClick(sheet, Qt.Key.Key_Right)
    assert page._why_title.text() == f"{sheet.candidates[1].profile.name}: why"
    qtbot.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(sheet.width() - 20, 70))
    assert sheet.at == (2, 0)


def test_prices_are_typed_and_wrong_ones_said(qtbot, stage):
    stage.show_page("which")
    page = stage.compare
    edit_field(qtbot, page.card, "At most, price", "100")
    edit_field(qtbot, page.card, "Prices", "Tarn 16=89, Moor 4K=199")
    assert page.needs.price == {"tarn16": 89.0, "moor4k": 199.0}
    edit_field(qtbot, page.card, "Prices", "Something=3")
    assert "is not a price" in page.card._fault.text()


def test_hotspots_are_compared_too(stage):
    stage.show_page("which")
    stage.compare.show_table(1)
    table = stage.compare.hotspots
    choose(table.card, "Busy groups", "change away")
    assert table.text(0, 4) == "duplex"
    last = len(table.texts.rows) - 1
    table.choose(last)
    assert texts(table.why)[0].startswith("It does not work:")


def test_a_must_shuts_a_radio_out_and_says_so(qtbot, window, stage):
    stage.show_page("which")
    page = stage.compare
    choose(page.card, "Head apart", "must be")
    sheet = page.sheet
    out = [item for item in sheet.candidates if item.out]
    assert out
    assert sheet.candidates[-1] in out
    sheet.choose(len(sheet.candidates) - 1, 0)
    assert "left out, it must have head apart" in page._why_title.text()
    choose(page.card, "Antenna", "ends in N socket")
    row = next(at for at, point in enumerate(sheet.candidates[0].points) if point.name == "antenna")
    sheet.choose(0, row)
    qtbot.keyClicks(sheet, "4")
    assert page.needs.weight["antenna"] == 4
    choose(page.card, "Head apart", "no matter")
    assert page.needs.head_apart is False


def test_who_has_which_radio_is_said_at_the_person_and_counted(qtbot, window, stage):
    window.stages.open("routes")
    window.bench.select(Selection("", "odile"))
    card = window.stages["routes"].inspector.card
    edit_field(qtbot, card, "Their radio", "Fell D2")
    assert window.bench.index.destinations["odile"].radio == "Fell D2"
    window.stages.open("radios", "which")
    page = stage.compare
    choose(page.card, "Like my friends'", "wanted")
    fell = next(item for item in page.sheet.candidates if item.profile.key == "fell-d2")
    assert "Odile" in next(item for item in fell.points if item.name == "friends").why


def test_the_modes_are_shown_side_by_side(qtbot, window, stage):
    stage.show_page("which")
    page = stage.compare
    page.show_table(2)
    qtbot.waitUntil(lambda: bool(page.modes.sheet.rows), timeout=5_000)
    page.take_focus()
    qtbot.keyClick(page.modes.sheet, Qt.Key.Key_Right)
    qtbot.keyClick(page.modes.sheet, Qt.Key.Key_Down)
    assert page.modes.cell.text().startswith(f"{page.modes.sheet.rows[1].name}, DMR")
    assert page.modes.reads.text() == page.modes.sheet.rows[1].reads
    assert page.side.currentWidget() is page.modes.side


# own profile


def test_a_profile_in_the_making_is_there_again_next_time(qtbot, qapp, window, stage, demo):
    from umbra_awl.core.radio.draft import drafts_in
    from umbra_awl.desk.radios.profile_page import ProfilePage

    stage.show_page("own")
    page = stage.profile
    page.begin(window.bench.profiles["moor4k"])
    edit_field(qtbot, page.card, "Name", "Club Radio")
    edit_field(qtbot, page.card, "Transmits, MHz", "50-54")
    assert not page._keep.isEnabled(), "a draft need not be free of faults"
    told = " ".join(label.text() for label in page.card.findChildren(QLabel))
    assert "it is here again next time" in told
    again = ProfilePage(window.bench, window.theme)
    qtbot.addWidget(again)
    assert again.draft == page.draft
    assert not again.kept
    again._fill_own()
    assert "Go on with the draft Club Radio" in [act.text() for act in again._own_menu.actions()]
    again.drop_draft(again.draft.key)
    assert drafts_in(window.bench.profiles.folder / "profiles") == []
    (window.bench.profiles.folder / "profiles" / "noise.draft").write_bytes(b"\xff\x00")
    assert drafts_in(window.bench.profiles.folder / "profiles") == []


def test_a_radio_of_ones_own_is_described_checked_kept_and_used(qtbot, window, stage, tmp_path):
    stage.show_page("own")
    page = stage.profile
    page.begin(window.bench.profiles["moor4k"])
    edit_field(qtbot, page.card, "Name", "Club Radio")
    edit_field(qtbot, page.card, "Name length", "8")
    assert page._summary.text() == "It carries 29 of 55 routes."
    assert any("Shortened" in text for text in texts(page.lost))
    edit_field(qtbot, page.card, "Transmits, MHz", "50-54")
    assert "where it does not receive" in page._fault.text()
    assert not page._keep.isEnabled()
    edit_field(qtbot, page.card, "Transmits, MHz", "144-146, 430-440")
    edit_field(qtbot, page.card, "Channels", "lots")
    assert "is not a whole number" in page.card._fault.text()
    qtbot.keyClick(page.card._editing, Qt.Key.Key_Escape)
    page.files.keep()
    assert not list((window.bench.profiles.folder / "profiles").glob("*.draft"))
    assert "my-moor-4k" in window.bench.profiles
    stage.add(window.bench.profiles["my-moor-4k"])
    assert window.bench.radio.name == "Club Radio"
    assert window.bench.fit.memory.channels[0].name == "BLK FM"
    page.files.export(FilePlace(tmp_path / "club.toml"))
    assert read_profile(tmp_path / "club.toml").name == "Club Radio"
    page.files.throw_away(window.bench.profiles["my-moor-4k"])
    assert "Remove the radio first" in window.message.text()
    stage.report.remove()
    page.files.throw_away(window.bench.profiles["my-moor-4k"])
    assert "my-moor-4k" not in window.bench.profiles


def test_a_profiles_file_is_brought_in_or_refused(window, stage, tmp_path):
    stage.show_page("own")
    (tmp_path / "broken.toml").write_text("key = 3")
    stage.profile.files.bring_in(tmp_path / "broken.toml")
    assert "“broken.toml” cannot be used" in window.message.text()
    assert stage.profile.draft is None
    from umbra_awl.core.radio.profile_file import SHIPPED

    stage.profile.files.bring_in(SHIPPED / "1-tarn16.toml")
    assert stage.profile.draft.key == "tarn16-2", "a shipped profile is not put away by one's own"


def test_an_own_file_that_breaks_later_is_said_and_does_no_harm(window, stage):
    folder = window.bench.profiles.folder / "profiles"
    folder.mkdir(parents=True)
    (folder / "broken.toml").write_text("=")
    window.bench.reload_profiles()
    assert "“broken.toml” is not readable TOML" in window.message.text()
    assert window.bench.fit is not None


@pytest.mark.parametrize("page", STAGES["radios"].pages)
@pytest.mark.parametrize("choice", ["light", "dark"])
def test_every_page_paints_without_radios_too(empty_window, tmp_path, page, choice):
    empty_window.theme.choose(choice)
    empty_window.plans.new(tmp_path / "new.awl.json")
    empty_window.stages.open("radios")
    empty_window.stages["radios"].show_page(page)
    assert empty_window.grab().width() > 0


def test_a_radio_that_nothing_resembles_is_described_from_nothing(window, stage):
    """Each value is asked for and none is guessed; what is not told yet is said; then the plan is fitted to it."""
    window.stages.open("radios", "own")
    page = stage.profile
    page.similar.table.choose(len(window.bench.profiles))
    QTest.keyClick(page.similar.take_it, Qt.Key.Key_Space)
    assert profile_faults(page.draft)
    assert not page._keep.isEnabled()
    told = {
        "name": "Marsh 12", "summary": "FM handheld, twelve letters", "modes": "fm", "receive": "136-174, 400-480",
        "transmit": "144-146, 430-440", "power_watts": "1, 4", "display.length": "12",
        "display.characters": " ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-", "limits.channels": "200", "limits.zones": "5",
        "limits.zone_channels": "40",
    }  # fmt: skip
    for field, text in told.items():
        assert page.values.change(field, text) == "", field
    assert profile_faults(page.draft) == []
    assert page.draft.keypad is None, "nothing of another radio's keys came along"
    assert "It carries" in page._summary.text()
    page.files.keep()
    assert window.bench.profiles[page.draft.key].limits.channels == 200
