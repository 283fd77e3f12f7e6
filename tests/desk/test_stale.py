"""Nothing is written, printed or saved that was worked out from another plan, however late or broken the background is."""

import pytest

from tests.desk.faulty_jobs import FaultyJobs
from umbra_awl.core.plan.edit.edit_station import set_guard
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.routes.punch import set_route
from umbra_awl.core.transfer.image import decode
from umbra_awl.desk.app import build, set_demo_ports
from umbra_awl.desk.parts.saving import FilePlace
from umbra_awl.desk.settings import Settings
from umbra_awl.standins.launch import RadioProcess

SPEED = 60


@pytest.fixture
def jobs():
    return FaultyJobs()


@pytest.fixture
def window(qtbot, qapp, tmp_path, demo, jobs):
    made = build(qapp, Settings(), jobs=jobs, directory=tmp_path / "directory" / "directory.sqlite")
    qtbot.addWidget(made)
    made.show()
    made.plans.open(demo.plan)
    set_demo_ports(made, {key: str(port) for key, (_profile, _memory, port) in demo.radios.items()})
    settled(qtbot, made)
    yield made
    for event in jobs.held.values():
        event.set()
    jobs.late.clear()
    made.runner.cancel()
    qtbot.waitUntil(lambda: not made.runner.running, timeout=20_000)
    made.close()


def settled(qtbot, window):
    qtbot.waitUntil(lambda: window.bench.worked.fresh or bool(window.bench.worked.trouble), timeout=20_000)


def idle(qtbot, window):
    qtbot.waitUntil(lambda: not window.runner.running and not window.runner.difference.comparing, timeout=20_000)


@pytest.fixture
def page(qtbot, window, demo):
    """The change page with one change to write: the radio was read and compared."""
    profile, memory, port = demo.radios["tarn"]
    window.bench.choose_radio("tarn")
    window.stages.open("transfer")
    page = window.stages["transfer"].changes
    with RadioProcess(profile, memory, port, speed=SPEED):
        page.go()
        idle(qtbot, window)
        window.bench.do(set_route(window.bench.index, sending(window).route, "x", power="low"))
        settled(qtbot, window)
        idle(qtbot, window)
        assert page.main.text().startswith("Write ")
        yield page


def sending(window):
    """A channel that transmits now."""
    return next(item for item in window.bench.fit.memory.channels if item.mode == "dmr" and not item.receive_only)


def hold_to_listening(window):
    """Set a channel to listening only; its number."""
    channel = sending(window)
    window.bench.do(set_route(window.bench.index, channel.route, "Only listen", receive_only=True))
    return channel.number


def in_radio(window, demo, number):
    held = decode(demo.radios["tarn"][1].read_bytes(), window.bench.profiles["tarn16"])
    return next(item for item in held.channels if item.number == number)


def test_at_once_after_an_edit_no_write_is_offered_and_none_is_done(qtbot, window, page, demo, jobs):
    jobs.hold("results")
    before = demo.radios["tarn"][1].read_bytes()
    hold_to_listening(window)
    assert (page.main.text(), page.main.isEnabled()) == ("Comparing …", False)
    page.go()
    window.runner.write()
    assert not window.runner.running
    assert "being compared with the radio" in window.message.text()
    assert demo.radios["tarn"][1].read_bytes() == before


@pytest.mark.parametrize("hop", ["results", "compare"])
def test_with_any_hop_late_what_is_written_is_what_the_plan_says(qtbot, window, page, demo, jobs, hop):
    jobs.late[hop] = 0.4
    number = hold_to_listening(window)
    page.go()
    qtbot.wait(60)
    page.go()
    qtbot.waitUntil(page.main.isEnabled, timeout=20_000)
    page.go()
    idle(qtbot, window)
    qtbot.waitUntil(lambda: window.runner.stand == "proven", timeout=20_000)
    assert in_radio(window, demo, number).receive_only


def test_a_plan_that_cannot_be_worked_out_is_never_written(qtbot, window, page, demo, jobs):
    jobs.fails["results"] = RuntimeError("a fault")
    number = hold_to_listening(window)
    settled(qtbot, window)
    assert "could not be worked out" in window.message.text()
    assert (page.main.text(), page.main.isEnabled()) == ("Nothing to write", False)
    assert "could not be worked out" in page._state.text()
    window.runner.write()
    assert not window.runner.running
    assert not in_radio(window, demo, number).receive_only
    jobs.fails.clear()
    window.bench.do(rename_plan("Mended"))
    settled(qtbot, window)
    idle(qtbot, window)
    page.go()
    idle(qtbot, window)
    assert in_radio(window, demo, number).receive_only


def test_a_comparison_that_fails_offers_nothing(qtbot, window, page, jobs):
    jobs.fails["compare"] = RuntimeError("a fault")
    hold_to_listening(window)
    settled(qtbot, window)
    qtbot.waitUntil(lambda: bool(window.runner.fault), timeout=20_000)
    assert window.runner.difference.compared is None
    assert page.main.text() == "Read the Tarn 16"


def test_a_radio_whose_fit_fails_is_told_and_the_others_go_on(qtbot, window, page, monkeypatch):
    from umbra_awl.core.fit import fitting

    real = fitting.fit

    def broken(index, radio, profile):
        if radio.key == "tarn":
            raise ZeroDivisionError("in the fit")
        return real(index, radio, profile)

    monkeypatch.setattr(fitting, "fit", broken)
    hold_to_listening(window)
    settled(qtbot, window)
    assert window.bench.fit is None
    assert set(window.bench.worked.results.fits) == {"moor", "fell", "crag"}
    finding = next(item for item in window.bench.worked.results.findings if item.rule.name == "fit-failed")
    assert finding.text == "Tarn 16 could not be fitted: ZeroDivisionError in broken."
    assert not page.main.isEnabled()
    assert "a finding says why" in page._state.text()


def test_a_check_that_fails_fails_alone_and_says_so(qtbot, window, page, demo, monkeypatch):
    from umbra_awl.core.findings import on_people

    def broken(_index, _profiles):
        raise KeyError("a rule")

    broken.__name__ = "_check_my"
    before = {item.rule.name for item in window.bench.worked.results.findings}
    monkeypatch.setattr(on_people, "_check_my", broken)
    number = hold_to_listening(window)
    settled(qtbot, window)
    idle(qtbot, window)
    after = [item for item in window.bench.worked.results.findings if item.rule.name == "check-failed"]
    assert [item.text for item in after] == ["The check “check_my” broke off: KeyError in broken."]
    assert {item.rule.name for item in window.bench.worked.results.findings} >= before
    page.go()
    idle(qtbot, window)
    assert in_radio(window, demo, number).receive_only


def test_what_was_read_for_other_profiles_is_not_written(qtbot, window, page, jobs):
    window.bench.reload_profiles()
    assert window.runner.difference.compared is None
    assert window.runner.stand == "start"


def test_the_last_look_stops_what_everything_before_it_let_pass(qtbot, window, page, demo):
    """As if the comparison were believed to be of the present plan, and were not."""
    before = demo.radios["tarn"][1].read_bytes()
    made = window.runner.difference.newest
    hold_to_listening(window)
    settled(qtbot, window)
    idle(qtbot, window)
    window.runner.difference.newest = made._replace(basis=window.bench.worked.basis, held=window.runner.held)
    window.runner.write()
    idle(qtbot, window)
    assert window.runner.fault.startswith("Nothing was written: ")
    assert "holds it to listening" in window.runner.fault
    assert demo.radios["tarn"][1].read_bytes() == before


def save_keys(window, place):
    window.stages["transfer"].keys.save_pdf(place)


def save_card(window, place):
    window.stages["transfer"].card.out.save_pdf(place)


def save_files(window, place):
    window.stages["transfer"].files.write(place.path.parent)


@pytest.mark.parametrize(("page", "save"), [("keys", save_keys), ("card", save_card), ("files", save_files)])
def test_papers_and_files_of_an_earlier_plan_are_not_saved(qtbot, window, jobs, tmp_path, page, save):
    window.bench.choose_radio("tarn")
    window.stages.open("transfer")
    stage = window.stages["transfer"]
    stage.show_page(page)
    ready = {"keys": lambda: stage.keys.sheet, "card": lambda: stage.card.made, "files": lambda: stage.files.tried}[
        page
    ]
    qtbot.waitUntil(lambda: ready() is not None, timeout=20_000)
    out = tmp_path / "out"
    out.mkdir()
    event = jobs.hold("results")
    window.bench.do(set_guard(True))
    save(window, FilePlace(out / "x.pdf"))
    assert "just being worked out anew. Nothing was written" in window.message.text()
    assert list(out.iterdir()) == []
    before = ready()
    event.set()
    settled(qtbot, window)
    qtbot.waitUntil(lambda: ready() is not before, timeout=20_000)
    save(window, FilePlace(out / "x.pdf"))
    qtbot.waitUntil(lambda: any(out.iterdir()) and not jobs.kept_waiting, timeout=20_000)


def test_a_repair_waits_for_the_present_plan(qtbot, window, jobs):
    finding = window.bench.worked.results.findings[0]
    event = jobs.hold("results")
    window.bench.do(rename_plan("Other"))
    plan = window.bench.plan
    window.bench.repairs.one(finding)
    assert window.bench.plan is plan
    event.set()
    qtbot.waitUntil(lambda: window.bench.plan is not plan, timeout=20_000)
    assert window.bench.document.history.past[-1].sentence == finding.repair.edit.sentence


def test_a_repair_whose_finding_is_gone_meanwhile_is_not_done(qtbot, window, jobs):
    finding = window.bench.worked.results.findings[0]
    event = jobs.hold("results")
    window.bench.do(finding.repair.edit)
    plan = window.bench.plan
    window.bench.repairs.one(finding)
    event.set()
    qtbot.waitUntil(lambda: "gone already" in window.message.text(), timeout=20_000)
    assert window.bench.plan is plan


def test_reloading_profiles_while_results_are_worked_out_is_no_race(qtbot, window, jobs):
    for number in range(25):
        window.bench.do(rename_plan(f"Plan {number}"))
        qtbot.wait(41 + number % 7)
        window.bench.reload_profiles()
    settled(qtbot, window)
    assert not window.bench.worked.trouble
    assert window.bench.worked.results.plan is window.bench.plan
