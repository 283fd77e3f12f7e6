import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QAbstractButton, QLabel, QWidget

from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.parts import RADIOS
from umbra_awl.desk.frame.find.finding_words import FinderOffer, rank
from umbra_awl.desk.held.selection import Selection
from umbra_awl.desk.jobs import Jobs
from umbra_awl.desk.settings import Settings
from umbra_awl.desk.stages import STAGES

CTRL = Qt.KeyboardModifier.ControlModifier


def test_opening_shows_routes_with_the_findings_counted(window):
    assert window.stages.current == "routes"
    assert window.course._counts == {"routes": (5, "stop"), "hotspots": (1, "warn")}
    assert len(window.findings.cards()) == 6
    assert window.top._state.toolTip() == "May transmit: First licence, 2 m and 70 cm, 10 W"


@pytest.mark.parametrize(("number", "key"), [(at + 1, key) for at, key in enumerate(STAGES)])
def test_each_stage_opens_by_its_key(qtbot, window, number, key):
    qtbot.keyClick(window, Qt.Key(Qt.Key.Key_0 + number), CTRL)
    assert window.stages.current == key


def test_a_finding_shows_its_thing_and_repairs_it(qtbot, window):
    card = window.findings.cards()[2]  # the link command left in a talk memory
    card.head.click()
    show = next(made for made in card.findChildren(QAbstractButton) if made.text() == "Show")
    qtbot.mouseClick(show, Qt.MouseButton.LeftButton)
    assert window.stages.current == "routes"
    assert window.bench.route.key == card.finding.target.key
    qtbot.keyClick(window, Qt.Key.Key_R, CTRL)
    assert len(window.bench.worked.results.findings) == 5
    assert window.message.text().startswith("Repaired")


def test_f8_walks_through_all_findings(qtbot, window):
    seen = set()
    for _step in range(4):
        qtbot.keyClick(window, Qt.Key.Key_F8)
        seen.add(window.bench.selection.target)
    assert len(seen) == 4


def test_why_opens_the_reason(qtbot, window):
    card = window.findings.cards()[0]
    card.head.click()
    why = next(made for made in card.findChildren(QAbstractButton) if made.text() == "Why")
    qtbot.mouseClick(why, Qt.MouseButton.LeftButton)
    assert card._why.isVisible()


def test_find_or_do_by_keyboard(qtbot, window):
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    finder = window.top.finder
    assert finder.hasFocus()
    qtbot.keyClicks(finder, "q0har")
    qtbot.keyClick(finder, Qt.Key.Key_Return)
    assert window.bench.selection.service == "harrowquay-fm"
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(finder, "go to stat")
    qtbot.keyClick(finder, Qt.Key.Key_Return)
    assert window.stages.current == "station"
    qtbot.keyClick(window, Qt.Key.Key_K, CTRL)
    qtbot.keyClicks(finder, "xyzzy")
    qtbot.keyClick(finder, Qt.Key.Key_Return)
    qtbot.keyClick(finder, Qt.Key.Key_Escape)
    assert not finder.hasFocus()


def test_ranking_puts_beginnings_first():
    offers = [
        FinderOffer("The world", "", int),
        FinderOffer("Worldwide", "4299", int),
        FinderOffer("Other", "world", int),
    ]
    assert [offer.words for offer in rank(offers, "worldw")] == ["Worldwide"]
    assert [offer.words for offer in rank(offers, "world")] == ["The world", "Worldwide", "Other"]
    assert [offer.words for offer in rank(offers, "42")] == ["Worldwide"]


def test_undo_and_redo_say_what(qtbot, window):
    window.findings.repair_first()
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL)
    assert window.message.text() == "Undone: Swap the offset sign of Q0NES: transmit on 431.1875."
    qtbot.keyClick(window, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert window.message.text().startswith("Done again: Swap")
    assert window.top._saved.text() == "unsaved changes (safe)"
    qtbot.keyClick(window, Qt.Key.Key_S, CTRL)
    assert window.top._saved.text() == "saved"


def test_a_plan_that_cannot_be_opened_leaves_the_present_one(window, tmp_path):
    bad = tmp_path / "bad.awl.json"
    bad.write_bytes(b"{")
    before = window.bench.plan
    window.plans.open(bad)
    assert "was not opened" in window.message.text()
    assert window.bench.plan is before


def test_an_older_save_comes_back_and_can_be_undone(window):
    window.bench.save()
    first = window.bench.plan
    window.findings.repair_first()
    save = window.bench.document.saves()[0]
    window.plans.open_older(save.path, save.when)
    assert window.bench.plan == first
    window.bench.steps.back()
    assert window.bench.plan != first


def test_unsaved_edits_come_back(qtbot, window, demo):
    window.findings.repair_first()
    edited = window.bench.plan
    window.bench.document.close()
    window.bench.document = None
    window.plans.open(demo.plan)
    assert window.bench.plan == edited
    assert "came back from the journal" in window.message.text()


def test_without_a_plan_the_first_step_is_offered(qtbot, empty_window, tmp_path):
    assert empty_window.canvas.currentWidget() is empty_window.welcome
    empty_window.stages.open("routes")
    assert "Open a plan first" in empty_window.message.text()
    empty_window.plans.new(tmp_path / "mine.awl.json")
    assert empty_window.stages.current == "station"
    for key in STAGES:
        empty_window.stages.open(key)
    assert "Add a radio at Radios" in empty_window.ribbon._nothing
    assert not empty_window.agenda.steps[0].done


def test_a_newcomer_stays_receive_only_until_the_licence_is_granted(qtbot, window):
    from umbra_awl.core.plan.edit.edit_station import set_granted, set_guard

    window.bench.do(set_granted(False))
    assert window.top._state.toolTip() == "Receive-only until the licence is granted"
    window.bench.do(set_guard(False))
    assert "stays on until the licence is granted" in window.message.text()
    assert all(channel.receive_only for channel in window.bench.worked.results.fits["tarn"].memory.channels)


def test_ids_are_masked_until_asked_for(qtbot, window):
    window.stages.open("station", "who")
    texts = [item.text() for item in window.findChildren(QAbstractButton)] + [
        item.text() for item in window.findChildren(QLabel)
    ]
    assert "999••••  handhelds" in texts
    assert not [text for text in texts if "9994217" in text]
    window.bench.show_ids(True)
    assert "9994217  handhelds" in [item.text() for item in window.findChildren(QAbstractButton)]


def test_station_fields(qtbot, window):
    window.stages.open("station")
    card = window.stages["station"]._cards["wren"]
    card.edit("Call sign")
    card._editing.setText("nonsense")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert "is not formed like a call sign" in card._fault.text()
    card._editing.setText("q9odl")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert window.top.call.text() == "Q9ODL"
    card.edit("DMR ID")
    card._editing.setText("999421")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert "has 6 digits" in card._fault.text()


def test_radios_stage_follows_the_selection_and_switches(qtbot, window):
    window.stages.open("radios")
    stage = window.stages["radios"].memory
    window.bench.select(Selection("home-dmr", "echo", 2))
    assert stage.knob.channel().name == "HOME ECHO"
    qtbot.keyClick(stage.knob, Qt.Key.Key_Right)
    assert window.bench.route.key == "home-dmr>dialled@1"
    window.bench.choose_radio("moor")
    assert stage.knob.channel().name == "Home Dial Refl"
    assert window.stages["radios"].report.report.count() > 5


def test_adding_and_removing_a_radio(window):
    window.stages.open("radios")
    stage = window.stages["radios"]
    stage.add(window.bench.profiles["tarn16"])
    assert window.bench.radio.name == "Tarn 16 (2)"
    stage.report.remove()
    assert len(window.bench.plan.radios) == 4


def test_everything_that_takes_keys_has_a_name(window):
    for key in STAGES:
        window.stages.open(key)
    nameless = []
    for widget in window.findChildren(QWidget):
        takes = widget.focusPolicy() & Qt.FocusPolicy.TabFocus and widget.isVisible()
        named = widget.accessibleName() or (isinstance(widget, QAbstractButton) and widget.text())
        if takes and not named and not widget.objectName().startswith("qt_"):
            nameless.append(type(widget).__name__)
    assert set(nameless) <= {"QScrollArea"}


def test_f6_walks_through_the_panes(qtbot, window):
    window.bench.select(Selection("cairnlow-dmr", "nessa-torrick", 1))
    QTest.qWait(1)
    seen, panes = [], {"canvas": window.canvas, "side": window.beside.side, "findings": window.findings}
    for _step in range(4):
        qtbot.keyClick(window, Qt.Key.Key_F6)
        focused = window.focusWidget()
        seen.append(
            next(
                (name for name, pane in panes.items() if pane.isAncestorOf(focused)),
                "course",
            )
        )
    assert set(seen) == {"canvas", "side", "findings", "course"}


def test_the_smallest_window_still_shows_every_stage(window):
    window.resize(1024, 700)
    for key in STAGES:
        window.stages.open(key)
        QTest.qWait(1)
        assert window.width() == 1024


def test_latest_results_win(qtbot):
    import threading

    jobs, gate, got = Jobs(), threading.Event(), []
    jobs.latest("x", gate.wait, lambda _done: got.append("first"))
    jobs.latest("x", lambda: "second", got.append)
    gate.set()
    qtbot.waitUntil(lambda: bool(got))
    assert got == ["second"]
    jobs.close()


def test_settings_survive_damage(tmp_path):
    path = tmp_path / "deep" / "window.json"
    settings = Settings(path)
    settings.keep(theme="dark")
    settings.add_recent(tmp_path / "a.awl.json")
    assert Settings(path).kept.theme == "dark"
    path.write_bytes(b"{ broken")
    assert Settings(path).kept.theme == "system"


def test_a_plan_with_an_unknown_profile_opens(window, tmp_path, plan):
    odd = replace(plan, radios=(replace(plan.radios[0], profile="unheard-of"), plan.radios[1]))
    path = tmp_path / "odd.awl.json"
    path.write_bytes(plan_bytes(odd))
    window.plans.open(path)
    for key in STAGES:
        window.stages.open(key)
    assert "unknown-profile" in [item.rule.name for item in window.bench.worked.results.findings]


def test_every_table_of_a_change_sheet_has_a_heading(window):
    """Settings of the whole radio among them: free tuning is told there whenever the guard holds it."""
    from umbra_awl.core.transfer.compared import TABLES
    from umbra_awl.core.transfer.difference import ChangeSheet, MemoryChange
    from umbra_awl.desk.transfer.cable.change_model import ChangeModel

    model = ChangeModel(window.theme)
    model.show_sheet(ChangeSheet(tuple(MemoryChange("changed", table, "x") for table in TABLES), {}))
    heads = [model.data(model.index(row, 0)) for row in range(model.rowCount()) if model.is_head(row)]
    assert len(heads) == len(TABLES)
    assert "Settings: 1 change" in heads


def test_the_change_sheet_is_a_sound_model(qtmodeltester, window, demo):
    from umbra_awl.core.transfer.difference import ChangeSheet, MemoryChange
    from umbra_awl.desk.transfer.cable.change_model import ChangeModel

    model = ChangeModel(window.theme)
    model.show_sheet(
        ChangeSheet(
            (MemoryChange("added", "channel", "BLK WW", "x"), MemoryChange("removed", "zone", "OLD")), {"channel": 3}
        )
    )
    qtmodeltester.check(model)
    assert [change.name for change in model.changes()] == ["BLK WW", "OLD"]
    assert model.data(model.index(1, 0)) == "+ added"


def commit(qtbot, card, label, text):
    card.edit(label)
    card._editing.setText(text)
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)


def test_own_band_edges_and_back_to_the_usual_ones(qtbot, window):
    window.stages.open("station")
    window.stages["station"].show_page("bands")
    card = window.stages["station"].bands.table.cards["70 cm"]
    commit(qtbot, card, "In force", "430 - 432,5")
    assert window.bench.index.bands[1].high_hz == 432_500_000
    assert "out-of-band" in [
        item.rule.name for item in window.bench.worked.results.findings if item.target.key == "home-dmr"
    ]
    commit(qtbot, card, "In force", "440 - 430")
    assert "before it begins" in card._fault.text()
    card._editing.setText("430")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert "both edges" in card._fault.text()
    card._editing.setText("usual")
    qtbot.keyClick(card._editing, Qt.Key.Key_Return)
    assert window.bench.plan.station.bands == ()


def test_a_networks_numbers_can_be_changed(qtbot, window):
    window.stages.open("station")
    card = window.stages["station"].networks.cards["net:lattice"]
    commit(qtbot, card, "Echo test", "999098 group")
    assert window.bench.plan.networks[0].echo.number == 999098
    commit(qtbot, card, "Dialled", "8001 to 8050")
    assert window.bench.plan.networks[0].dial_high == 8050
    commit(qtbot, card, "Dialled", "none")
    assert window.bench.plan.networks[0].dial_low is None
    commit(qtbot, card, "Disconnect", "12 sideways")
    assert "neither “group” nor “private”" in card._fault.text()


def test_the_transmit_state_is_that_of_the_chosen_radios_owner(window):
    from umbra_awl.core.plan.edit.edits import set_fields

    window.bench.do(set_fields(RADIOS, "tarn", "x", identity="odile"))
    assert window.top._state.toolTip() == "Tarn 16 for Q9ODL: Receive-only until the licence is granted"
    window.bench.choose_radio("moor")
    assert window.top._state.toolTip() == "May transmit: First licence, 2 m and 70 cm, 10 W"
