"""A table of ten radios by keyboard alone: plugged in one after another, each recognised, written, proven, ticked off."""

import pytest
from msgspec.structs import replace
from PyQt6.QtCore import Qt
from PyQt6.QtPrintSupport import QPrintDialog
from PyQt6.QtTest import QTest

from tests.days import LOCAL, TODAY
from tests.journey.hands import CTRL, SHIFT, Keys
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer.image import decode
from umbra_awl.core.transfer.table.roster import read_roster, roster_file
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.demo.furnish import club_plan
from umbra_awl.desk.app import set_demo_ports
from umbra_awl.standins.launch import RadioProcess
from umbra_awl.standins.radio.device import factory_image

pytestmark = pytest.mark.journey
TARN = shipped_profiles()["tarn16"]
RADIOS = 10


def big_club():
    plan = club_plan(demo_plan(TODAY), TODAY)
    first = plan.station.identities[1]
    more = tuple(
        replace(first, key=f"m{at}", call=f"Q3M{chr(65 + at)}", name=f"Member {at}", ids=()) for at in range(RADIOS - 6)
    )
    radios = tuple(OwnedRadio(f"tarn-{who.key}", f"Tarn 16 {who.call}", "tarn16", who.key) for who in more)
    station = replace(plan.station, identities=(*plan.station.identities, *more))
    return replace(plan, station=station, radios=(*plan.radios, *radios))


@pytest.fixture
def club(window, tmp_path):
    path = tmp_path / "club.awl.json"
    path.write_bytes(plan_bytes(big_club()))
    window.plans.open(path)
    set_demo_ports(window, {radio.key: str(tmp_path / "table.port") for radio in window.bench.plan.radios})
    window.bench.choose_radio(window.bench.plan.radios[0].key)
    window.stages.open("transfer", "table")
    return window, window.stages["transfer"].table, tmp_path, path


def settle(qtbot, job):
    qtbot.waitUntil(lambda: not job.running, timeout=20_000)


def test_ten_radios_in_a_row_without_the_mouse(club, qtbot):
    _window, page, place, plan_file = club
    job = page.job
    begun = LOCAL
    for at in range(RADIOS):
        memory = place / f"radio{at}.bin"
        memory.write_bytes(factory_image(TARN, f"unit {at}"))
        with RadioProcess("tarn16", memory, place / "table.port", speed=100):
            qtbot.waitUntil(lambda: job.plugged is not None and not job.running, timeout=20_000)
            seat = job.seat
            page.take_focus()
            assert page.main.text() == f"Write for {seat.call} and prove"
            QTest.keyClick(page.main, Qt.Key.Key_Space)
            settle(qtbot, job)
            assert job.proven_now, job.fault
        assert decode(memory.read_bytes(), TARN).call == seat.call
        qtbot.waitUntil(lambda: job.plugged is None, timeout=5_000)
    assert len({item.unit for item in job.roster.done}) == RADIOS
    assert [item.state for item in job.seats] == ["done"] * RADIOS
    calls = [decode((place / f"radio{at}.bin").read_bytes(), TARN).call for at in range(RADIOS)]
    assert calls == [seat.call for seat in job.seats]
    assert len(page.label_rows()) == RADIOS
    print(f"\nten radios in {(LOCAL - begun).total_seconds():.0f} s")  # noqa: T201
    assert len(read_roster(roster_file(plan_file)).done) == RADIOS
    job.begin()
    assert [item.state for item in job.seats] == ["done"] * RADIOS, "the list survives a restart"


def test_the_same_radio_twice_and_another_owner_by_the_arrows(club, qtbot):
    window, page, place, _plan = club
    job = page.job
    memory = place / "radio.bin"
    memory.write_bytes(factory_image(TARN, "one"))
    with RadioProcess("tarn16", memory, place / "table.port", speed=100):
        qtbot.waitUntil(lambda: job.plugged is not None and not job.running, timeout=20_000)
        page.picture.setFocus()
        QTest.keyClick(page.picture, Qt.Key.Key_Right)
        chosen = job.seat
        assert chosen.radio == window.bench.plan.radios[1].key
        assert f"You chose {chosen.call}" in page._told.text()
        page.take_focus()
        QTest.keyClick(page.main, Qt.Key.Key_Space)
        settle(qtbot, job)
        assert decode(memory.read_bytes(), TARN).call == chosen.call
        QTest.keyClick(page.main, Qt.Key.Key_Space)
        settle(qtbot, job)
        assert job.plugged.found.how == "unit"
        assert "it is done" in page._told.text()


def test_what_is_written_is_the_plan_of_this_moment_and_no_earlier_one(club, qtbot):
    """Memories that were worked out for an earlier plan, and are still shown, are never written."""
    _window, page, place, _plan = club
    job = page.job
    memory = place / "radio.bin"
    memory.write_bytes(factory_image(TARN, "late"))
    with RadioProcess("tarn16", memory, place / "table.port", speed=100):
        qtbot.waitUntil(lambda: job.plugged is not None and not job.running, timeout=20_000)
        seat, right = job.seat, job.memories[job.chosen]
        job.memories = {**job.memories, seat.radio: replace(right, call="Q0OLD", channels=right.channels[:1])}
        job.transfer.write()
        settle(qtbot, job)
        assert job.proven_now, job.fault
    held = decode(memory.read_bytes(), TARN)
    assert (held.call, len(held.channels)) == (seat.call, len(right.channels))


def test_nothing_is_worked_out_for_a_table_that_nobody_sees(club, qtbot):
    window, page, _place, _plan = club
    window.stages.open("routes", "sheet")
    qtbot.waitUntil(lambda: not page.isVisible())
    page.job.memories = {}
    page.job.refresh()
    assert page.job.memories == {}
    window.stages.open("transfer", "table")
    qtbot.waitUntil(lambda: bool(page.job.memories))


def test_a_club_evening_of_six_radios_and_their_cards_takes_few_presses(club, qtbot, monkeypatch):
    """Six radios written and proven, each plugged in once, then six field cards to the printer: every press is counted."""
    window, page, place, _plan = club
    hands = Keys(window)
    printed = []
    monkeypatch.setattr(QPrintDialog, "exec", lambda _dialog: 1)
    window.stages.open("routes", "sheet")
    hands.key(Qt.Key.Key_K, CTRL)
    hands.type("table day")
    hands.key(Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.stages["transfer"].pages.name == "table")
    page.take_focus()
    for at in range(6):
        memory = place / f"club{at}.bin"
        memory.write_bytes(factory_image(TARN, f"club {at}"))
        with RadioProcess("tarn16", memory, place / "table.port", speed=100):
            qtbot.waitUntil(lambda: page.job.plugged is not None and not page.job.running, timeout=20_000)
            page.take_focus()
            hands.key(Qt.Key.Key_Space)
            settle(qtbot, page.job)
            assert page.job.proven_now, page.job.fault
        qtbot.waitUntil(lambda: page.job.plugged is None, timeout=5_000)
    done = [seat.radio for seat in page.job.seats if seat.state == "done"]
    assert len(done) == 6
    while hands.focus() is not page.cards and hands.presses < 25:
        hands.key(Qt.Key.Key_Backtab, SHIFT)
    hands.key(Qt.Key.Key_Return)
    card = window.stages["transfer"].card
    qtbot.waitUntil(lambda: card.made is not None and card.made.radios == tuple(done), timeout=20_000)
    monkeypatch.setattr(card.out, "print_to", lambda _printer: printed.append(card.made.bundle.pages))
    hands.key(Qt.Key.Key_Return)
    assert printed
    assert printed[0] >= 6
    hands.tell("The club helper, six radios and six cards")
    assert hands.presses <= 25
