"""Transfer beside the cable: key sheet, field card, files, layouts of one's own, bringing a radio in."""

from pathlib import Path

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor
from PyQt6.QtPrintSupport import QPrinter
from PyQt6.QtTest import QTest

from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.fit.choices import set_people
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.edit.edits import Edit
from umbra_awl.core.radio.memory import memory_bytes
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.desk.parts.radio_picker import RadioPicker
from umbra_awl.desk.parts.radio_tabs import RadioTabs
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.desk.stages import STAGES
from umbra_awl.desk.transfer.files import files_page
from umbra_awl.desk.transfer.paper.pdf_pages import pictures_of

MINE = (
    "made by hand\r\n"
    "Ch;Label;Type;Output freq;Shift dir;Shift size;Encode;Power;CC;TS;TG;Folder\r\n"
    "1;BLK FM;Analog;145712,5;minus;600;103,5;Low;;;;Town\r\n"
    "2;BLK ISLES;Digital;438612,5;minus;7600;off;High;6;2;99900;Town\r\n"
    "3;FAR ISLES;Digital;439012,5;minus;7600;off;High;3;2;99900;Away\r\n"
    "4;FAR CLUB;Digital;439012,5;minus;7600;off;High;3;1;99931;Away\r\n"
)


@pytest.fixture
def stage(window):
    window.stages.open("transfer")
    return window.stages["transfer"]


@pytest.fixture
def sample(tmp_path):
    path = tmp_path / "old-radio.csv"
    path.write_bytes(MINE.encode())
    return path


def texts(items):
    return [items.item(at).text() for at in range(items.count())]


# key sheet


def test_the_key_sheet_counts_and_offers_the_cheapest(qtbot, window, stage, tmp_path):
    stage.show_page("keys")
    page = stage.keys
    plain = page.sheet.presses
    qtbot.mouseClick(page.cheapest, Qt.MouseButton.LeftButton)
    ordered = page.sheet.presses
    page.short.setFocus()
    qtbot.keyClick(page.short, Qt.Key.Key_Space)
    assert page.sheet.presses < ordered < plain
    assert "fewer than in the plan's order" in page._count.text()
    assert page._title.text() == "Before the first memory"
    assert "LIST 2 4" in page.view.accessibleName() or "PLACE until OPEN" in page.view.accessibleName()
    assert "Free tuning still sends" in page._lead.text()
    qtbot.keyClick(page.list, Qt.Key.Key_Down)
    assert page._title.text().endswith(page.sheet.memories[0].name)
    assert "From whatever the radio holds" in page._lead.text()
    qtbot.keyClick(page.list, Qt.Key.Key_Down)
    assert f"right after {page.sheet.memories[0].channel.number}" in page._lead.text()
    page.alone.setFocus()
    qtbot.keyClick(page.alone, Qt.Key.Key_Space)
    assert page.sheet.alone
    assert not page.cheapest.isEnabled()
    page.list.setCurrentRow(2)
    assert "From whatever the radio holds" in page._lead.text()
    page.save_pdf(FilePlace(tmp_path / "keys.pdf"))
    page.save_html(FilePlace(tmp_path / "keys.html"))
    assert (tmp_path / "keys.pdf").read_bytes().startswith(b"%PDF")
    assert page.sheet.memories[0].name in (tmp_path / "keys.html").read_text()


def test_a_radio_without_such_keys_says_how_it_goes_in(window, stage):
    stage.show_page("keys")
    window.bench.choose_radio("crag")
    assert "goes in by memory card. Radios that are: Tarn 16, Fell D2, Syke F1, Gill P." in stage.keys._lead.text()
    assert not stage.keys._pdf.isEnabled()


# field card


def test_the_picture_of_the_card_is_what_is_printed(window, stage, tmp_path):
    stage.show_page("card")
    page = stage.card
    assert len(page.labels) == page.made.bundle.pages == 2
    shown = page.made.bundle.data
    page.out.save_pdf(FilePlace(tmp_path / "card.pdf"))
    data = (tmp_path / "card.pdf").read_bytes()
    assert data == shown
    pictures = pictures_of(data, 600)
    colors = {QColor(pictures[0].pixel(x, y)).lightness() // 32 for x in range(0, 600, 3) for y in range(0, 840, 3)}
    assert len(colors) > 4, "letters are on it, and they are not all one grey"
    corner = QColor(pictures[1].pixel(3, 3))
    assert corner == QColor("white")
    page.out.save_html(FilePlace(tmp_path / "card.html"))
    assert "BLK ISLES" in (tmp_path / "card.html").read_text("utf-8")


def test_the_card_follows_the_radio_and_a_full_disk_is_said(window, stage):
    stage.show_page("card")
    window.bench.choose_radio("crag")
    assert stage.card.made.radios == ("crag",)
    stage.card.out.save_pdf(FilePlace(Path("/proc/none/card.pdf")))
    assert "cannot be written" in window.message.text()


def test_paper_for_several_radios_is_picked_by_typing_and_printed(window, stage, tmp_path):
    stage.show_page("card")
    page = stage.card
    page.pick()
    (picker,) = page.findChildren(RadioPicker)
    QTest.keyClicks(picker.typed, "q4w")
    shown = [picker.list.item(at).text() for at in range(picker.list.count()) if not picker.list.item(at).isHidden()]
    assert len(shown) == 3
    picker.tick_all()
    QTest.keyClick(picker.typed, Qt.Key.Key_Return)
    assert page.made.radios == ("tarn", "moor", "fell")
    assert page.made.bundle.pages > 4
    assert not page.html.isEnabled()
    page.take_kind("label")
    assert page.made.bundle.pages == 1
    page.take_form("A5")
    printer = QPrinter()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    told = []
    window.bench.said.connect(lambda text, _kind: told.append(text))
    page.out.print_to(printer)
    assert any("1 page went to the printer" in text for text in told)
    assert len(pictures_of((tmp_path / "printed.pdf").read_bytes(), 200)) == 1
    page.take_kind("keys")
    assert "Moor 4K is left out" in page._words.text()
    window.bench.choose_radio("moor")
    assert page.made.radios == ("tarn", "moor", "fell")
    page.take_radios(("crag",))
    assert (page.made.radios, window.bench.radio_key) == (("crag",), "crag") or not page.made.bundle.pages
    assert window.bench.radio_key == "crag"


def test_many_radios_fold_into_a_picker_that_is_typed_in(window, stage):
    bench = window.bench
    bench.do(Edit("x", lambda plan: replace(plan, radios=tuple(
        replace(plan.radios[at % 4], key=f"r{at}", name=f"Set {at}") for at in range(60)
    ))))  # fmt: skip
    tabs = window.stages["transfer"].changes.findChild(RadioTabs)
    QTest.keyClick(tabs.folded, Qt.Key.Key_Space)
    (picker,) = tabs.findChildren(RadioPicker)
    assert picker.list.count() == 60
    QTest.keyClicks(picker.typed, "set 47")
    QTest.keyClick(picker.typed, Qt.Key.Key_Return)
    assert bench.radio_key == "r47"
    assert tabs.folded.text().startswith("Set 47")


def test_choosing_a_radio_leaves_the_pressed_word_where_it_is(window, stage):
    tabs = window.stages["transfer"].changes.findChild(RadioTabs)
    moor = tabs._made["moor"]
    moor.setFocus()
    QTest.keyClick(moor, Qt.Key.Key_Space)
    assert window.bench.radio_key == "moor"
    assert tabs._made["moor"] is moor
    assert moor.isChecked()


# files


def test_a_memory_is_shown_as_files_and_written(window, stage, tmp_path):
    stage.show_page("files")
    page = stage.files
    assert texts(page.lost) == ["Nothing is lost: every value comes back as it was."]
    page.show_sheet(3)
    assert page.table.text(0, 1) == "BLACKFELL"
    page.write(tmp_path)
    assert {path.name for path in tmp_path.glob("*.csv")} == {
        "channels.csv", "contacts.csv", "group-lists.csv", "zones.csv", "scan-lists.csv",
    }  # fmt: skip
    page.list.setCurrentRow(1)
    assert any(text.startswith("Receive group list") for text in texts(page.lost))
    page.write(tmp_path / "none")
    assert "cannot be written" in window.message.text()


def test_the_people_of_a_radio_go_along_with_its_files(window, stage, tmp_path):
    table = Table("p.csv", "csv", ["id", "call"], lambda: iter([Row(2, ["9990001", "Q1AAA"])]))
    import_people(
        window.directory.store,
        table,
        TableLayout("people", {"id": "id", "call": "call"}, source="x"),
        "2026-11-25T10:00:00",
    )
    window.bench.choose_radio("moor")
    window.bench.do(set_people(window.bench.radio, "x", everybody=True))
    stage.show_page("files")
    stage.files.write(tmp_path)
    assert (tmp_path / "people.csv").read_text().splitlines()[1] == "9990001,Q1AAA,,,"


def test_a_layout_is_made_from_a_sample_corrected_and_kept(qtbot, window, stage, sample):
    stage.show_page("files")
    page = stage.files
    page.making.make_from([sample])
    maker = page.maker
    fields = [column.field for column in maker.columns.sheet.column]
    known = "number name mode rx shift offset_size tone_tx power color_code slot contact_number zone"
    assert fields == known.split()
    assert maker.preview.text(0, 1) == "BLK FM"
    box = maker.columns.grid.cellWidget(11, 1)
    box.setCurrentIndex(box.findData("rx"))
    assert "two columns are chosen for Receive frequency" in maker._fault.text()
    assert not maker.keep_button.isEnabled()
    box.setCurrentIndex(box.findData("zone"))
    maker.columns.grid.item(3, 2).setText("MHz, 5 decimals")
    assert maker.preview.text(0, 3) == "145,71250"
    maker.columns.grid.item(3, 2).setText("furlongs")
    assert "“furlongs” is not understood" in window.message.text()
    assert maker.columns.sheet.column[3].unit == "MHz"
    assert "channels that must not transmit are left out" in maker._say.text()
    maker.name.setText("Old program")
    qtbot.mouseClick(maker.keep_button, Qt.MouseButton.LeftButton)
    assert page.layout_chosen.name == "Old program"
    assert (window.bench.profiles.folder / "columns" / "old-program.toml").exists()


def test_a_large_sample_is_read_only_as_far_as_needed(window, stage, tmp_path):
    lines = MINE.splitlines(keepends=True)
    large = tmp_path / "large.csv"
    large.write_bytes("".join([*lines[:2], *lines[2:] * 20_000]).encode() + b"\xff\xfe half a line")
    stage.show_page("files")
    stage.files.making.make_from([large])
    assert stage.files.currentIndex() == 1
    assert stage.files.maker.columns.samples[0].encoding == "utf-8"
    assert len(stage.files.maker.columns.samples[0].rows) == 199


def test_several_samples_make_one_layout_and_each_is_worked_on(window, stage, sample, tmp_path):
    people = tmp_path / "contacts.csv"
    people.write_text("Name;Call ID;Call Type\nISLES;99900;Group Call\nECHO;999097;Private Call\n")
    stage.show_page("files")
    stage.files.making.make_from([sample, people])
    maker = stage.files.maker
    assert [sheet.what for sheet in maker.columns.layout_now.sheet] == ["channels", "contacts"]
    maker.columns.sheets.setCurrentIndex(1)
    assert maker.columns.sheet.column[2].words == {"group": "Group Call", "private": "Private Call"}
    maker.columns.what.setCurrentIndex(maker.columns.what.findData("people"))
    assert maker.columns.sheet.what == "people"
    assert "no column is chosen for DMR ID" in maker._fault.text()


def test_what_is_no_table_is_refused_and_nothing_is_begun(window, stage, tmp_path):
    stage.show_page("files")
    bad = tmp_path / "bad.csv"
    bad.write_bytes(b"\x00\x01\x02")
    stage.files.making.make_from([bad])
    assert "is not text" in window.message.text()
    assert stage.files.currentIndex() == 0
    stage.files.bring_in(bad)
    assert "“bad.csv”" in window.message.text()
    assert len(stage.files.layouts) == 3


# bring in


def test_files_of_an_old_radio_are_understood_and_brought_into_the_plan(window, stage, sample):
    stage.show_page("bring")
    page = stage.bring
    page.sources.take_files([sample])
    rows = [[page.table.text(at, column) for column in range(1, 5)] for at in range(len(page.table.texts.rows))]
    assert rows[0] == ["BLK FM", "Blackfell", "Local", "in the plan"]
    assert rows[2] == ["FAR ISLES", "FAR", "Isles-wide, slot 2", "new"]
    assert any("taken to be on Lattice" in text for text in texts(page.notes))
    before = len(window.bench.plan.routes)
    page.bring()
    assert len(window.bench.plan.routes) == before + 2
    assert window.bench.plan.zones[-1].name == "Away"
    assert "0 new routes" in page._where.text()
    window.bench.steps.back()
    assert len(window.bench.plan.routes) == before


def test_each_column_is_shown_and_corrected_on_the_spot_and_the_likeliest_radio_comes_along(window, stage, sample):
    stage.show_page("bring")
    page = stage.bring
    page.sources.take_files([sample])
    assert not any(text.startswith("Not used") for text in texts(page.notes))
    assert page.radio.currentText() == "Tarn 16 (all of it fits)"
    page.views.buttons[1].click()
    assert page.columns.isVisible()
    fields = [column.field for column in page.columns.layout_now.sheet[0].column]
    at = fields.index("slot")
    box = page.columns.grid.cellWidget(at, 1)
    box.setCurrentIndex(box.findData(""))
    assert page.columns.isVisible(), "correcting goes on where it is"
    assert "Corrected by hand" in page.source.files.how
    assert any("TS" in text for text in texts(page.notes) if text.startswith("Not used"))
    assert "slot 2" not in page.table.text(2, 3)
    page.radio.setCurrentIndex(page.radio.findData("moor4k"))
    box.setCurrentIndex(box.findData("slot"))
    assert page.table.text(2, 3) == "Isles-wide, slot 2"
    assert page.radio.currentData() == "moor4k", "a choice stays while columns are corrected"
    radios = len(window.bench.plan.radios)
    page.bring()
    assert [radio.profile for radio in window.bench.plan.radios[radios:]] == ["moor4k"]
    assert "with a Moor 4K" in window.message.text()
    assert page.radio.currentData() == "", "it is not added twice"


def test_a_plan_is_made_of_a_radio_alone(window, stage, sample, tmp_path):
    stage.show_page("bring")
    stage.bring.sources.take_files([sample])
    path = tmp_path / "mine.awl.json"
    stage.bring.make_plan(path)
    assert window.bench.document.path == path
    plan = read_plan(path)
    assert [(access.site, len(access.services)) for access in plan.access] == [("BLK", 2), ("FAR", 1)]
    assert [zone.name for zone in plan.zones] == ["Town", "Away"]
    assert window.bench.worked.results.findings
    assert "Receive-only" in window.top._state.toolTip()


def test_a_memory_file_and_faulty_sources(window, stage, tmp_path):
    stage.show_page("bring")
    path = tmp_path / "tarn.memory.json"
    path.write_bytes(memory_bytes(window.bench.fit.memory))
    stage.bring.sources.take_memory(path)
    assert stage.bring.found.brought.fresh == ()
    assert stage.bring.radio.currentData() == "", "the plan has such a radio already"
    assert not stage.bring.into.isEnabled()
    path.write_text("{}")
    stage.bring.sources.take_memory(path)
    assert window.message.text()
    short = tmp_path / "short.csv"
    short.write_text("Name,Colour\nA,green\n")
    stage.bring.sources.take_files([short])
    assert "short.csv" in window.message.text()
    bad = tmp_path / "channels.csv"
    bad.write_text("Name,Mode,Hears MHz,Slot\nA,FM,145.5,\nB,Morse,145.5,\nC,FM,never,\n")
    stage.bring.sources.take_files([bad])
    said = texts(stage.bring.notes)
    assert any("line 4" in text and "is not a frequency" in text for text in said)
    assert len(stage.bring.table.texts.rows) == 1
    assert any("Morse" in text and "left out" in text for text in said)


@pytest.mark.parametrize("page", STAGES["transfer"].pages)
@pytest.mark.parametrize("choice", ["light", "dark"])
def test_every_page_paints_without_radios_too(empty_window, tmp_path, page, choice):
    empty_window.theme.choose(choice)
    empty_window.plans.new(tmp_path / "new.awl.json")
    empty_window.stages.open("transfer")
    empty_window.stages["transfer"].show_page(page)
    assert empty_window.grab().width() > 0


def test_what_another_program_holds_in_columns_of_its_own_stays_with_its_channel(demo_window, tmp_path, monkeypatch):
    demo_window.bench.choose_radio("tarn")
    demo_window.stages.open("transfer", "files")
    page = demo_window.stages["transfer"].files
    page.write(tmp_path)
    path = tmp_path / page.layout_chosen.sheet[0].file
    head, first, second, *rest = path.read_text("utf-8").splitlines()
    path.write_text("\n".join([f"{head},Squelch", f"{first},3", f"{second},5"]) + "\n", "utf-8")
    asked = []

    def answer(_parent, _title, question, answers):
        asked.append(question)
        return answers[0]

    monkeypatch.setattr(files_page, "ask", answer)
    monkeypatch.setattr(files_page.QFileDialog, "getExistingDirectory", lambda *_given: str(tmp_path))
    page.ask_write()
    made = path.read_text("utf-8").splitlines()
    assert made[0].endswith(",Squelch")
    assert (made[1].rsplit(",", 1)[1], made[2].rsplit(",", 1)[1]) == ("3", "5")
    assert len(made) == 3 + len(rest)
    assert "stays with its channel" in asked[0]
    assert f"What do the {len(rest)} new ones get" in asked[1]
    assert len(asked) == 2
