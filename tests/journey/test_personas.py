"""The people of the field at the window, each with the keyboard alone and with the mouse: what it takes is counted."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton

from tests.days import TODAY
from tests.journey.hands import CTRL, SHIFT, Keys, Mouse
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.transfer import serial_line
from umbra_awl.core.transfer.image import decode
from umbra_awl.core.transfer.serial_line import PortFound
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.demo.furnish import club_plan
from umbra_awl.desk.frame.plans import plan_menu
from umbra_awl.standins.launch import RadioProcess

pytestmark = pytest.mark.journey
MOST_DECISIONS = 10


@pytest.fixture(params=[Keys, Mouse], ids=["keys", "mouse"])
def hands_of(request):
    return request.param


@pytest.fixture
def cable(monkeypatch):
    """Ports that are there, as the machine would list them."""
    found = []
    monkeypatch.setattr(
        serial_line, "ports", lambda: [PortFound(str(path), "a programming cable", True) for path in found]
    )
    return found


def button_of(window, words):
    """The button with these words that is seen."""
    return next(made for made in window.findChildren(QPushButton) if made.text() == words and made.isVisible())


def channels(memory, profile="tarn16"):
    return decode(memory.read_bytes(), shipped_profiles()[profile]).channels


def carry(qtbot, window, hands):
    """Press the one action until the radio is proven."""
    page = window.stages["transfer"].changes
    for _time in range(4):
        hands.press(page.main)
        qtbot.waitUntil(lambda: not window.runner.running and not window.runner.difference.comparing, timeout=30_000)
        if window.runner.stand == "proven":
            return
    raise AssertionError(page.main.text())


def test_the_newcomer_from_nothing_to_proven(qtbot, empty_window, tmp_path, monkeypatch, cable, hands_of):
    """Exam passed, licence on its way, one inexpensive handheld: it listens at the end, and cannot transmit by accident."""
    monkeypatch.setattr(plan_menu, "own_plans", lambda: tmp_path / "plans")
    window = empty_window
    hands = hands_of(window)
    memory, port = tmp_path / "new.radio", tmp_path / "new.port"
    if hands_of is Keys:
        window.welcome.take_focus()
    hands.decides("I begin")
    hands.press(window.welcome.doors["I begin"])
    assert window.foot.step.words == "Give your call sign"
    hands.next()
    hands.decides("my call sign")
    hands.give("Call sign", "q9odl")
    hands.next()
    hands.decides("where I am")
    hands.give("Position", "HN46kl")
    hands.next()
    hands.decides("which licence I wait for")
    hands.pick("Class", "First")
    hands.decides("the repeater of my town")
    adding = {"Call sign": "Q0BLK", "Site": "Blackfell", "Receive": "145.7125", "Offset": "-0.6", "Tone": "103.5"}
    with hands.answering(lambda sheet: hands.fill(sheet, adding)):
        if hands_of is Keys:
            hands.key(Qt.Key.Key_A, CTRL | SHIFT)
        else:
            hands.next()
            hands.press(button_of(window, "Add one by hand"))
    assert window.foot.step.words == "Add whom you want to reach"
    hands.decides("whoever listens there")
    with hands.answering(lambda sheet: hands.fill(sheet, {})):
        hands.next()
    assert [item.kind for item in window.bench.plan.destinations] == ["local"], (
        "it is offered, since nothing digital is there"
    )
    hands.decides("this one through that one")
    hands.next()
    hands.punch("blackfell-fm", "local")
    assert [route.key for route in window.bench.plan.routes] == ["blackfell-fm>local@0"]
    hands.decides("which radio I have")
    with hands.answering(lambda sheet: hands.fill(sheet, {"Radio": "Tarn 16"})):
        hands.next()
    assert window.foot.step.words == "Write Tarn 16, and prove it"
    hands.next()
    with RadioProcess("tarn16", memory, port, speed=30):
        cable.append(port)
        hands.decides("which cable")
        hands.press(window.stages["transfer"].changes.port)
        hands.choose_in_menu(str(port))
        hands.decides("write it")
        carry(qtbot, window, hands)
    assert [channel.receive_only for channel in channels(memory)] == [True]
    qtbot.waitUntil(lambda: window.foot.step.words == "Say when the licence is granted")
    hands.tell("The newcomer, from nothing to proven")
    assert len(hands.decisions) <= MOST_DECISIONS


def select_radio(window, hands, key):
    """Make a radio the chosen one: Ctrl Tab until it is, or a click on its word."""
    if isinstance(hands, Keys):
        for _time in window.bench.plan.radios:
            if window.bench.radio_key != key:
                hands.key(Qt.Key.Key_Tab, CTRL)
    else:
        hands.press(button_of(window, window.bench.index.radios[key].name))
    assert window.bench.radio_key == key


def choose_port(window, hands, port):
    hands.press(window.stages["transfer"].changes.port)
    hands.choose_in_menu(str(port))


def test_the_settled_operator_adds_one_talk_group_to_everything(qtbot, window, demo, hands_of):
    """Two services, two kinds of radio: punched twice, named by each radio, carried into one of them."""
    hands = hands_of(window)
    hands.go("routes")
    hands.decides("a talk group, through my hotspot")
    hands.punch("home-dmr", "sable-banks", 1)
    hands.decides("and through the repeater")
    hands.punch("blackfell-dmr", "sable-banks", 2)
    fits = window.bench.worked.results.fits
    for radio in ("tarn", "moor"):
        assert fits[radio].channel_of("home-dmr>sable-banks@1")
        assert fits[radio].channel_of("blackfell-dmr>sable-banks@2")
    profile, memory, port = demo.radios["moor"]
    hands.go("transfer")
    hands.decides("into the roomy one")
    select_radio(window, hands, "moor")
    with RadioProcess(profile, memory, port, speed=60):
        carry(qtbot, window, hands)
    assert any("Sable" in channel.name for channel in channels(memory, "moor4k"))
    hands.tell("The settled operator, one talk group more on two radios")


def test_the_club_helper_programs_one_radio_after_another(qtbot, empty_window, tmp_path, cable, hands_of):
    """Many radios, one plan: each gets its owner's call sign and ID, and hers who has no licence yet only listens."""
    path = tmp_path / "club.awl.json"
    path.write_bytes(plan_bytes(club_plan(demo_plan(TODAY), TODAY)))
    window = empty_window
    window.plans.open(path)
    hands = hands_of(window)
    hands.go("transfer")
    for key in ("tarn-q2ans", "tarn-q2edd"):
        memory, port = tmp_path / f"{key}.radio", tmp_path / f"{key}.port"
        with RadioProcess("tarn16", memory, port, speed=60):
            cable[:] = [port]
            hands.decides(f"whose radio this is: {key[7:].upper()}")
            select_radio(window, hands, key)
            choose_port(window, hands, port)
            carry(qtbot, window, hands)
    held = {
        key: decode((tmp_path / f"{key}.radio").read_bytes(), shipped_profiles()["tarn16"])
        for key in ("tarn-q2ans", "tarn-q2edd")
    }
    assert held["tarn-q2ans"].dmr_id == 9994301
    assert any(not channel.receive_only for channel in held["tarn-q2ans"].channels)
    assert all(channel.receive_only for channel in held["tarn-q2edd"].channels)
    hands.tell("The club helper, two radios of six")


def test_the_traveller_takes_what_is_around_the_place_along(qtbot, window, hands_of):
    """The repeaters of the place one goes to, in a zone of their own, and the hotspot put right before leaving."""
    hands = hands_of(window)
    hands.go("access", "trips")
    access = window.stages["access"]
    hands.decides("where I go")
    hands.press(access.place)
    hands.key(Qt.Key.Key_A, CTRL)
    hands.type("Torrick Head")
    hands.key(Qt.Key.Key_Return)
    hands.over()
    hands.decides("this is a trip")
    hands.press(access.trips._plan)
    trip = window.bench.plan.trips[-1]
    assert trip.name == "Torrick Head"
    assert any(zone.name == "Torrick Head" for zone in window.bench.plan.zones)
    hands.decides("put the hotspot right")
    hands.find("repair: move")
    rules = {item.rule.name for item in window.bench.worked.results.findings}
    assert "hotspot-in-satellite-segment" not in rules
    hands.tell("The traveller, a trip with what is around, and the hotspot put right")


def test_the_dstar_owner_links_to_a_reflector(qtbot, window, hands_of):
    hands = hands_of(window)
    hands.go("routes")
    hands.decides("the reflector, through my hotspot")
    hands.punch("home-dstar", "vlr001-e")
    keys = {route.key for route in window.bench.plan.routes}
    assert {"home-dstar>vlr001-e@1", "home-dstar>vlr001-e@2"} <= keys, "one memory links, another talks"
    hands.go("routes", "trace")
    assert window.bench.trace().reaches
    names = [channel.name for channel in window.bench.worked.results.fits["fell"].memory.channels]
    assert any("VLR001 E" in name or "VLR001E" in name for name in names), names
    hands.tell("The D-STAR owner, a reflector linked and talked through")


def test_the_fusion_owner_reaches_a_room(qtbot, window, hands_of):
    hands = hands_of(window)
    hands.go("routes")
    hands.decides("the room, through my hotspot")
    hands.punch("home-fusion", "torrick-watch")
    route = next(item for item in window.bench.plan.routes if item.key.startswith("home-fusion>torrick-watch"))
    hands.go("routes", "trace")
    trace = window.bench.trace()
    assert trace is not None
    assert window.bench.worked.results.fits["crag"].channel_of(route.key) is not None
    hands.tell("The Fusion owner, a room through the hotspot")
