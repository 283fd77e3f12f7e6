"""Finding a hotspot and asking it: lists, names, the own subnet; hostile answers; pairing; the path."""

import gzip
import ipaddress

import httpx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.hotspot.compatible import shipped_parts
from umbra_awl.core.hotspot.logs.ladder import standing
from umbra_awl.core.hotspot.logs.reading import read_log
from umbra_awl.core.hotspot.match.sheet import match_sheet
from umbra_awl.core.hotspot.pairing.devices import device_for, shipped_devices
from umbra_awl.core.hotspot.pairing.gateway import gateway_sheet
from umbra_awl.core.hotspot.pairing.machine import (
    PairingSides,
    begun,
    next_move,
    proof_words,
    proven,
    reset_words,
    sides_of,
    told_done,
)
from umbra_awl.core.hotspot.pairing.support import support_table
from umbra_awl.core.hotspot.path import KnownOfHotspot, build_fault, path_steps
from umbra_awl.core.hotspot.seek.errors import (
    HotspotError,
    NoHotspotError,
    NotNowError,
    StrangeAnswerError,
    WrongKeyError,
)
from umbra_awl.core.hotspot.seek.look import AT_ONCE, Own, addresses_of, by_name, look, may_look, own_networks
from umbra_awl.core.hotspot.seek.pasted import devices
from umbra_awl.core.hotspot.seek.talk import MOST_BYTES, Status, Talk, checked_address, is_loopback, stays_near
from umbra_awl.core.hotspot.wifi.secrets import MemoryStore, Secrets, page_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Licence
from umbra_awl.standins.wifi.bond import Bond


def talk(handler, key=""):
    return Talk("spot.test", key, httpx.MockTransport(handler))


def endless():
    while True:
        yield b" " * 65_536


@pytest.mark.parametrize(("answer", "error"), [
    (httpx.Response(200, text="<html>hello"), StrangeAnswerError),
    (httpx.Response(200, json=[1, 2]), StrangeAnswerError),
    (httpx.Response(200, json={"left_s": "soon"}), StrangeAnswerError),
    (httpx.Response(200, content=b"[" * 100_000), StrangeAnswerError),
    (httpx.Response(302, headers={"location": "http://login.invalid/"}), StrangeAnswerError),
    (httpx.Response(401), WrongKeyError),
    (httpx.Response(409, json={"error": "starting"}), NotNowError),
    (httpx.Response(404), StrangeAnswerError),
    (httpx.Response(500, content=b"\x00\xff" * 500), StrangeAnswerError),
])  # fmt: skip
def test_a_strange_answer_is_told_and_nothing_is_followed(answer, error):
    asked = []

    def handler(request):
        asked.append(str(request.url))
        return answer

    with pytest.raises(error) as told:
        talk(handler).status()
    assert asked == ["http://spot.test/status"]
    assert len(str(told.value)) < 320


def test_an_endless_answer_ends_and_a_dead_address_is_said():
    with pytest.raises(StrangeAnswerError):
        talk(lambda _request: httpx.Response(200, content=endless())).status()

    def dead(_request):
        raise httpx.ConnectError("refused")

    with pytest.raises(NoHotspotError):
        talk(dead).log()


def test_a_packed_answer_is_not_unpacked():
    bomb = gzip.compress(b" " * 50_000_000)
    with pytest.raises(StrangeAnswerError):
        Talk("spot.test", "", Raw(bomb)).status()


class Raw(httpx.BaseTransport):
    """Answers with packed bytes, as a server does."""

    def __init__(self, body):
        self._body = body

    def handle_request(self, request):
        return httpx.Response(200, headers={"content-encoding": "gzip"}, stream=httpx.ByteStream(self._body))


@pytest.mark.parametrize(("answer", "told"), [
    (httpx.Response(300, text="{}"), "sends one elsewhere"),
    (httpx.Response(399, text="{}"), "sends one elsewhere"),
    (httpx.Response(400, text="{}"), "no such page"),
    (httpx.Response(404, text="{}"), "no such page"),
    (httpx.Response(200, text="nonsense"), "not as a hotspot does"),
])  # fmt: skip
def test_each_strange_answer_is_called_what_it_is(answer, told):
    """Even where its body could be taken for a hotspot's."""
    with pytest.raises(StrangeAnswerError, match=told):
        talk(lambda _request: answer).status()


def test_too_much_and_packed_are_refused_before_they_are_looked_at():
    with pytest.raises(StrangeAnswerError, match="more than any hotspot"):
        talk(lambda _request: httpx.Response(200, content=endless())).status()
    with pytest.raises(StrangeAnswerError, match="packed"):
        Talk("spot.test", "", Raw(gzip.compress(b"{}"))).status()
    just = b"{}" + b" " * (MOST_BYTES - 2)
    assert talk(lambda _request: httpx.Response(200, content=just)).status() == Status()
    with pytest.raises(StrangeAnswerError, match="more than any hotspot"):
        talk(lambda _request: httpx.Response(200, content=just + b" ")).status()


def test_what_a_status_leaves_out_is_not_so():
    bare = talk(lambda _request: httpx.Response(200, json={"left_s": "3.5"})).status()
    assert (bare.up, bare.logged_in, bare.default_password, bare.left_s) == (False, False, False, 3.5)
    over = talk(lambda _request: httpx.Response(200, json={})).over({})
    assert (over.reached, over.heard, over.beep, over.echo, over.bits) == (False, False, False, False, 0)


def test_the_password_goes_to_that_page_only_and_is_not_shown():
    seen = {}

    def handler(request):
        seen.update(request.headers)
        return httpx.Response(200, json={"name": "x"})

    one = talk(handler, "hush-hush")._replace(address="127.0.0.1")
    assert one.status().name == "x"
    assert "authorization" not in seen, "asking needs no password, and whoever answers is given none"
    one.link("99901")
    assert seen["authorization"].startswith("Basic ")
    assert "hush" not in repr(one)


@pytest.mark.parametrize("address", ["http://8.8.8.8", "http://1.1.1.1:8080", "no-such-name.invalid"])
def test_no_password_goes_in_the_open_beyond_ones_own_network(address):
    asked = []
    one = talk(lambda request: asked.append(request) or httpx.Response(200, json={}), "hush-hush")._replace(
        address=address
    )
    for act in (
        lambda: one.link("1"),
        lambda: one.set_key("new"),
        lambda: one.set_secret("new"),
        lambda: one.apply("x"),
    ):
        with pytest.raises(HotspotError, match="beyond your own network"):
            act()
    assert asked == []
    assert stays_near("https://8.8.8.8")
    assert stays_near("192.168.4.1")


def test_a_device_that_calls_itself_otherwise_is_given_nothing():
    asked = []

    def handler(request):
        asked.append((request.method, request.headers.get("authorization")))
        return httpx.Response(200, json={"name": "evil"})

    one = talk(handler, "hush-hush")._replace(address="127.0.0.1")
    with pytest.raises(HotspotError, match="Another device answers"):
        one.proven("q4wrn-home")
    assert asked == [("GET", None)]
    assert one.proven("evil") is one


def test_a_pages_password_is_that_of_one_device_at_one_address_in_one_plan():
    names = {
        page_of(plan, key, address, answered)
        for plan in ("/a.awl.json", "/b.awl.json")
        for key in ("home", "travel")
        for address in ("10.0.0.1", "10.0.0.2")
        for answered in ("q4wrn-home", "other")
    }
    assert len(names) == 16
    assert page_of("/a.awl.json", "home", "10.0.0.1", "") == ""
    store = Secrets(MemoryStore())
    assert not store.keep("", "hush-hush")
    assert store.get("") == ""
    assert store.keep("hotspot:x", "hush-hush")
    assert store.get("hotspot:x") == "hush-hush"
    assert store.keep("hotspot:x", "")
    assert store.get("hotspot:x") == ""


@pytest.mark.parametrize(
    "text", ["bench-spot.local", "127.0.0.1:8080", "http://192.0.2.4", "https://x.test/", "[::1]:80"]
)
def test_addresses(text):
    assert checked_address(text).startswith("http")


@pytest.mark.parametrize(
    "text", ["", "   ", "ftp://x", "http://a:b@c", "x/y", "a b", "http://x?y=1", "x:99999", "http://"]
)
def test_what_is_no_address_is_refused(text):
    with pytest.raises(HotspotError):
        checked_address(text)


PASTED = """
Device            IP address     MAC address
Wren-phone        192.0.2.15     02:00:00:00:00:01   online
q4wrn_travel      192.0.2.14     02:00:00:00:00:02   online
printer 192.0.2.20
Gateway fe80::1
999.1.2.3 nonsense
"""


def test_a_pasted_list_gives_devices_the_sought_one_first():
    found = devices(PASTED, ("Q4WRN-travel", "Q4WRN"))
    assert found[0].address == "192.0.2.14"
    assert found[0].sought
    assert {item.address for item in found} == {"192.0.2.14", "192.0.2.15", "192.0.2.20", "fe80::1"}
    assert devices("Name: hotspot-x\nIP: 192.0.2.9\n", ("hotspot-x",))[0].sought


@given(st.text(max_size=2_000))
def test_any_text_can_be_pasted(text):
    for item in devices(text, ("x",)):
        ipaddress.ip_address(item.address)


def own(text):
    return Own("wlan0", ipaddress.IPv4Network(text))


def test_only_small_private_networks_of_ones_own_are_looked_at():
    assert len(addresses_of(own("192.168.7.0/24"))) == 254
    assert addresses_of(own("10.0.0.0/8")) == ()
    assert "stranger" in may_look(own("11.0.0.0/24"))
    assert [
        item.device for item in own_networks('[{"ifname":"lo","addr_info":[{"local":"127.0.0.1","prefixlen":8}]}]')
    ] == ["lo"]
    for text in ("", "nonsense", "[1]", '[{"addr_info":[{}]}]', '{"a":1}'):
        assert own_networks(text) == ()


def test_looking_is_bounded_can_be_stopped_and_tells_hotspots_apart():
    asked = []

    def ask(address):
        asked.append(address)
        if address.endswith(".7"):
            return Status("bench-spot", "up")
        if address.endswith(".9"):
            raise StrangeAnswerError("answers, but not as a hotspot does")
        raise NoHotspotError("Nothing answers")

    found = list(look([f"192.168.7.{at}" for at in range(1, 900)], lambda: False, ask))
    assert [(item.address[-2:], item.status is not None) for item in found] == [(".7", True), (".9", False)]
    assert len(asked) == 254
    asked.clear()
    assert list(look([f"192.168.7.{at}" for at in range(1, 200)], lambda: bool(asked), ask)) == []
    assert len(asked) <= AT_ONCE


def test_a_bare_name_gets_its_ending():
    assert by_name("q4wrn-travel", lambda name: ["192.0.2.14"] if name == "q4wrn-travel.local" else []) == (
        "q4wrn-travel.local", ["192.0.2.14"],
    )  # fmt: skip
    assert by_name("x.test", lambda name: [name])[0] == "x.test"
    assert by_name("", lambda name: [name])[1] == []


def bond_of(device):
    return Bond(device.starts, device.pin, tuple(item.key for item in device.settings))


@pytest.mark.parametrize("device", shipped_devices().device, ids=lambda item: item.key)
def test_the_steps_pair_every_device(device):
    bond = bond_of(device)
    state = bond.do({})
    for _time in range(16):
        move = next_move(device, sides_of(state))
        if move is None:
            break
        state = bond.do(move.do)
    assert sides_of(state).connected
    assert "Proven" in proof_words(sides_of(state))


@pytest.mark.parametrize("device", shipped_devices().device, ids=lambda item: item.key)
def test_the_wrong_place_gets_it_stuck_asking_again_does_not_help_and_the_cure_does(device):
    bond = bond_of(device)
    bond.do({"do": "radio", "key": "wireless", "value": "on"})
    wrong = "phone" if device.starts == "app" else "app"
    state = bond.do({"do": "pair", "in": wrong})
    assert sides_of(state).stuck
    for act in (
        {"do": "pair", "in": device.starts},
        {"do": "connect"},
        {"do": "restart"},
        {"do": "wireless", "on": False},
        {"do": "wireless", "on": True},
    ):
        state = bond.do(act)
        assert not state["connected"]
    done = []
    for _time in range(24):
        move = next_move(device, sides_of(state))
        if move is None:
            break
        done.append(move.do["do"])
        state = bond.do(move.do)
    assert done[:4] == ["forget", "delete", "wireless", "restart"]
    assert sides_of(state).connected
    assert "backup" in reset_words(device)


@pytest.mark.parametrize("device", shipped_devices().device, ids=lambda item: item.key)
def test_on_a_real_pair_its_owner_tells_and_the_steps_end_too(device):
    sides = PairingSides({})
    for _time in range(16):
        move = next_move(device, sides)
        if move is None:
            break
        sides = told_done(sides, move)
    assert next_move(device, sides) is None
    stuck = sides._replace(stuck=True, connected=False)
    for _time in range(4):
        stuck = told_done(stuck, next_move(device, stuck))
    assert not stuck.stuck


@pytest.mark.parametrize("device", shipped_devices().device, ids=lambda item: item.key)
def test_an_old_pairing_keeps_a_new_one_out_and_goes_first(device):
    bond = bond_of(device)
    state = bond.do({"do": "old"})
    bond.do({"do": "radio", "key": "wireless", "value": "on"})
    assert not bond.do({"do": "pair", "in": device.starts})["asks_phone"], "it is kept out"
    assert "goes out first" in proof_words(sides_of(state))
    done = []
    for _time in range(20):
        move = next_move(device, sides_of(state))
        if move is None:
            break
        done.append(move.do["do"])
        state = bond.do(move.do)
    assert done[:2] == ["forget", "delete"]
    assert done[-2:] == ["choose", "connect"]
    assert sides_of(state).connected


@pytest.mark.parametrize("start", ["new", "old", "stuck"])
@pytest.mark.parametrize("link", ["wireless", "cable"])
@pytest.mark.parametrize("device", shipped_devices().device, ids=lambda item: item.key)
def test_a_real_pair_comes_through_from_however_it_is_met(device, link, start):
    sides = begun(device, start)
    done = []
    for _time in range(20):
        move = next_move(device, sides, link)
        if move is None:
            break
        done.append(move.do["do"])
        sides = told_done(sides, move)
    assert proven(sides, link)
    assert "Proven" in proof_words(sides)
    if link == "wireless" and start == "old":
        assert done[:2] == ["forget", "delete"]
    if link == "wireless" and start == "stuck":
        assert done[:4] == ["forget", "delete", "wireless", "restart"]
    if link == "cable":
        assert "pair" not in done
        assert done[-3:] == ["plug", "choose", "connect"]


def test_the_wrong_link_chosen_does_not_connect():
    device = device_for("fell-d2")
    bond = bond_of(device)
    state = bond.do({})
    while (move := next_move(device, sides_of(state))) is not None and move.do["do"] != "choose":
        state = bond.do(move.do)
    bond.do({"do": "choose", "link": "cable"})
    assert not bond.do({"do": "connect"})["connected"]
    bond.do({"do": "choose", "link": "wireless"})
    assert bond.do({"do": "connect"})["connected"]


@given(st.lists(st.sampled_from([
    {"do": "pair", "in": "app"}, {"do": "pair", "in": "phone"}, {"do": "yes", "who": "phone"}, {"do": "yes", "who": "radio"},
    {"do": "connect"}, {"do": "forget"}, {"do": "delete"}, {"do": "wireless", "on": False}, {"do": "wireless", "on": True},
    {"do": "restart"}, {"do": "reset"}, {"do": "old"}, {"do": "choose", "link": "cable"},
    {"do": "radio", "key": "wireless", "value": "on"},
    {"do": "radio", "key": "serial", "value": "data"},
]), max_size=20))  # fmt: skip
def test_from_wherever_one_is_the_steps_lead_to_the_proof(past):
    device = device_for("fell-d2")
    bond = bond_of(device)
    for act in past:
        state = bond.do(act)
    state = bond.do({})
    for _time in range(30):
        move = next_move(device, sides_of(state))
        if move is None:
            return
        state = bond.do(move.do)
    pytest.fail(f"no way out: {state}")


def test_the_gateways_sheet_masks_the_id_and_says_what_is_missing(plan):
    index = PlanIndex(plan, TODAY)
    access, hotspot = index.access["home-spot"], plan.hotspots[0]
    hidden = dict(item[:2] for item in gateway_sheet(index, access, hotspot, ids_shown=False).fields)
    assert hidden["ID"].startswith("999•")
    told = dict(item[:2] for item in gateway_sheet(index, access, hotspot, ids_shown=True).fields)
    assert told["ID"] == "999421701"
    assert told["DMR frequency"] == "434.6125"
    assert told["Password"] == ""
    nobody = replace(plan, station=replace(plan.station, identities=()))
    assert gateway_sheet(PlanIndex(nobody, TODAY), access, None, ids_shown=True).missing[:2] == ("Call sign", "ID")
    unlicensed = PlanIndex(replace(plan, station=replace(plan.station, licence=Licence())), TODAY)
    sheet = gateway_sheet(unlicensed, access, hotspot, ids_shown=True)
    assert sheet.fields == ()
    assert "eceive-only until the licence" in sheet.refusal


def test_the_support_table_is_dated_and_says_where_no_app_is_known(profiles):
    rows = support_table(profiles.values())
    assert {item.radio for item in rows} == {item.name for item in profiles.values()}
    assert all(item.known for item in rows if item.platform != "none")


def test_the_path_is_ticked_by_what_is_seen(plan):
    hotspot, parts = plan.hotspots[1], shipped_parts()
    begin = path_steps(KnownOfHotspot(hotspot), parts, standing(hotspot, None, None))
    assert [step.key for step in begin if step.done] == ["parts"]
    status = Status("x", "up", modem="ready", wifi="w", logged_in=True, linked="99900")
    rows = match_sheet({"call": "Q4WRN"}, {}, {"call": "Q4WRN"})
    log = read_log(
        "2026-11-26 20:31:05 modem: ready on 1, type x\n2026-11-26 20:42:00 dmr: echo back to Q4WRN, 3.0 s\n"
    )
    known = KnownOfHotspot(hotspot, status, log, rows)
    done = {step.key for step in path_steps(known, parts, standing(hotspot, status, log, ("Q4WRN",))) if step.done}
    assert done == {"parts", "image", "wifi", "start", "address", "password", "settings", "log", "link", "echo"}
    cut = known._replace(rows=match_sheet({"call": "Q4WRN"}, {}, {"call": "Q9ODL"}))
    assert "settings" not in {step.key for step in path_steps(cut, parts, standing(hotspot, status, log)) if step.done}


def test_parts_that_do_not_go_together_are_told(plan):
    from msgspec.structs import replace

    parts = shipped_parts()
    assert build_fault(parts, plan.hotspots[1]) == ""
    assert "does not fit" in build_fault(parts, replace(plan.hotspots[1], board="rush-stick"))
    assert "cannot be duplex" in build_fault(parts, replace(plan.hotspots[1], duplex=True))
    assert "not chosen" in build_fault(parts, replace(plan.hotspots[1], image=""))


@pytest.mark.parametrize(("address", "own"), [
    ("127.0.0.1:80", True), ("http://localhost", True), ("[::1]:9", True), ("127.0.0.1.evil.test", False),
    ("localhost.evil.test", False), ("192.0.2.1", False), ("", False),
])  # fmt: skip
def test_only_this_computer_is_loopback(address, own):
    assert is_loopback(address) == own
