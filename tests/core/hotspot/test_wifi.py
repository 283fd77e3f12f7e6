"""Wi-Fi away from home: letters, both schools with their faults rehearsed, the file for the card, secrets, the road sheet."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.hotspot.wifi.card_file import WifiFileError, laid, lay_down, wifi_text
from umbra_awl.core.hotspot.wifi.letters import compare, doubts, kind_of, verdict
from umbra_awl.core.hotspot.wifi.phones import PhonesError, page_words, parse_phones, sharing_words, shipped_phones
from umbra_awl.core.hotspot.wifi.rehearse import Setup, acts, judge, note_rehearsal, rehearsal_words, setup_of
from umbra_awl.core.hotspot.wifi.schools import wifi_steps
from umbra_awl.core.hotspot.wifi.secrets import Secrets
from umbra_awl.core.paper.road_sheet import road_pdf, road_sheet, road_text
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import HomeWifi, Hotspot, Phone
from umbra_awl.standins.wifi.world import WifiWorld

TEACH = {
    "school": "teach",
    "phone": Phone("Wren-Away"),
    "home": HomeWifi("Harrowquay-7"),
    "known": ("Harrowquay-7", "Wren-Away"),
}
POSE = {"school": "pose", "phone": Phone("Harrowquay-7"), "home": HomeWifi("Harrowquay-7"), "known": ("Harrowquay-7",)}


class Box:
    """A key store in memory."""

    def __init__(self, broken=False):
        self.held, self.broken = {}, broken

    def get_password(self, service, name):
        if self.broken:
            raise RuntimeError("locked")
        return self.held.get((service, name))

    def set_password(self, service, name, password):
        if self.broken:
            raise RuntimeError("locked")
        self.held[service, name] = password

    def delete_password(self, service, name):
        del self.held[service, name]


def play(**given_):
    setup, world = Setup(**given_), WifiWorld()
    for act in acts(setup):
        seen = judge(setup, act, world.do(act.tell))
        if seen.fault:
            return seen.fault
    return ""


@pytest.mark.parametrize(("one", "other", "kind"), [
    ("a", "A", "case"), ("'", "’", "quote"), ('"', "“", "quote"), (" ", "\u00a0", "blank"), ("0", "O", "look-alike"),
    ("1", "l", "look-alike"), ("l", "I", "look-alike"), ("é", "e\u0301", "composed"), ("-", "–", "look-alike"),
    ("a", "а", "look-alike"), ("x", "\u200b", "hidden"), ("a", "b", "other"), ("k", "k", "same"),
])  # fmt: skip
def test_how_two_characters_differ(one, other, kind):
    assert kind_of(one, other) == kind


@pytest.mark.parametrize(("one", "other", "told"), [
    ("Wren-Away", "Wren-away", "Place 6: capital and small letter"),
    ("Wren-Away ", "Wren-Away", "Place 10: a blank"),
    ("Wren’s", "Wren's", "Place 5: curly and plain"),
    ("Wren-Away", "WrenAway", "missing in the second"),
    ("Wren", "Wren\u200b", "cannot be seen"),
])  # fmt: skip
def test_the_place_that_differs_is_named(one, other, told):
    assert told.casefold() in verdict(compare(one, other)).casefold()


@given(st.text(max_size=40), st.text(max_size=40))
def test_a_comparison_holds_both_texts_and_sees_equality(one, other):
    marks = compare(one, other)
    assert "".join(mark.one for mark in marks) == one
    assert "".join(mark.other for mark in marks) == other
    assert all(mark.kind == "same" for mark in marks) == (one == other)


def test_what_is_easily_typed_otherwise_is_told():
    assert doubts("Wren-Away") == ()
    assert "blank" in doubts(" Wren")[0]
    assert "curly" in doubts("Wren’s")[0]
    assert any("32 bytes" in item for item in doubts("猫" * 11))


@pytest.mark.parametrize("base", [TEACH, POSE], ids=["teach", "pose"])
def test_both_schools_work_when_everything_is_right(base):
    assert play(**base) == ""


@pytest.mark.parametrize(("change", "told"), [
    ({"known": ("Harrowquay-7", "Wren-away")}, "capital"),
    ({"same_password": False}, "passwords differ"),
    ({"phone": Phone("Wren-Away", 5.0)}, "5 GHz"),
    ({"phone": Phone("Wren-Away", sleeps=True)}, "fell asleep"),
    ({"hotspot_first": True}, "before the phone shared"),
    ({"home_on": True}, "joined the Wi-Fi at home"),
    ({"portal": True}, "login page"),
    ({"known": ()}, "knows no Wi-Fi"),
    ({"phone": Phone("")}, "no name"),
])  # fmt: skip
def test_each_fault_of_teaching_breaks_it_and_is_named(change, told):
    assert told in play(**TEACH | change)


@pytest.mark.parametrize(("change", "told"), [
    ({"home_on": True}, "Both copies"),
    ({"phone": Phone("Harrowquay-7 ")}, "blank"),
    ({"phone": Phone("harrowquay-7")}, "capital"),
    ({"same_password": False}, "passwords differ"),
    ({"phone": Phone("Harrowquay-7", 5.0)}, "5 GHz"),
    ({"hotspot_first": True}, "before the phone shared"),
    ({"phone": Phone("Harrowquay-7", sleeps=True)}, "fell asleep"),
    ({"portal": True}, "login page"),
])  # fmt: skip
def test_each_fault_of_posing_breaks_it_and_is_named(change, told):
    assert told in play(**POSE | change)


def test_a_board_with_5_ghz_joins_a_phone_on_5_ghz():
    assert play(**TEACH | {"phone": Phone("Wren-Away", 5.0), "board_5ghz": True}) == ""


def test_sharing_comes_before_the_hotspot_in_both_schools():
    for school in ("teach", "pose"):
        steps = wifi_steps(Hotspot("x", "x", 1, 1, school=school), None)
        road = [step for step in steps if step.at == "road"]
        shares = next(at for at, step in enumerate(road) if "sharing on" in step.what)
        starts = next(at for at, step in enumerate(road) if step.who == "hotspot")
        assert shares < starts
        assert all(step.sees for step in steps)


@pytest.mark.parametrize("kind", shipped_phones().phone, ids=lambda item: item.platform)
def test_the_steps_name_the_menus_and_addresses_of_the_kind_of_phone(kind):
    hotspot, phone = Hotspot("x", "x", 1, 1, host="q4wrn-travel"), Phone("Wren-Away", platform=kind.platform)
    told = " ".join(step.what for step in wifi_steps(hotspot, phone))
    assert " › ".join(kind.sharing) in told
    assert " › ".join(kind.joined) in told
    assert kind.minds.rstrip(".") in told
    assert page_words(hotspot, phone) == (
        "q4wrn-travel.local" if kind.by_name else f"from {kind.first} to {kind.last}, as its list says"
    )


def test_what_its_owner_has_seen_comes_before_what_is_known_of_the_kind():
    hotspot = Hotspot("x", "x", 1, 1, host="q4wrn-travel")
    phone = Phone("Wren-Away", platform="Alder", menu="Knobs › Give", page="198.51.100.7")
    assert sharing_words(phone) == "Knobs › Give"
    assert page_words(hotspot, phone) == "198.51.100.7, as seen before"
    assert page_words(hotspot, None) == "q4wrn-travel.local"
    assert page_words(replace(hotspot, host=""), None) == "address from the phone's list"
    assert sharing_words(Phone(platform="Windmill")) == ""


def test_a_file_of_phones_that_cannot_be_used_says_why():
    with pytest.raises(PhonesError):
        parse_phones("phone = 3")


@given(
    st.text(st.characters(codec="utf-8", categories=["L", "N", "P"]), min_size=1, max_size=8),
    st.text(st.sampled_from("abcXYZ019 \\\"';#=[]"), min_size=8, max_size=63),
)
def test_the_cards_file_says_name_and_password_as_they_are(name, password):
    import configparser

    text = wifi_text("supplicant", name, password)
    assert f"ssid={name.encode().hex()}" in text
    assert f'psk="{password}"\n' in text
    parsed = configparser.RawConfigParser()
    parsed.optionxform = str
    parsed.read_string(wifi_text("keyfile", name, "plain-password"))
    assert bytes(int(part) for part in parsed["wifi"]["ssid"].split(";") if part) == name.encode()


@pytest.mark.parametrize(
    ("name", "password"),
    [("", "long enough"), ("x" * 33, "long enough"), ("x", "short"), ("x", "y" * 64), ("x", "with\nbreak here")],
)
def test_what_no_wifi_takes_is_refused_without_telling_the_password(tmp_path, name, password):
    with pytest.raises(WifiFileError) as refused:
        lay_down(tmp_path, "supplicant", name, password)
    assert password not in str(refused.value)
    assert not laid(tmp_path)


def test_the_file_is_laid_down_for_its_owner_only(tmp_path):
    path = lay_down(tmp_path, "supplicant", "Wren-Away", "hush-hush", "QQ")
    assert laid(tmp_path) == path.name
    assert path.stat().st_mode & 0o077 == 0
    with pytest.raises(WifiFileError):
        lay_down(tmp_path / "none", "supplicant", "Wren-Away", "hush-hush")


def test_passwords_are_kept_in_the_store_or_nowhere():
    box = Box()
    secrets = Secrets(box)
    assert secrets.keep("wifi:x", "hush-hush")
    assert secrets.get("wifi:x") == "hush-hush"
    assert secrets.keep("wifi:x", "")
    assert secrets.get("wifi:x") == ""
    broken = Secrets(Box(broken=True))
    assert broken.get("wifi:x") == ""
    assert not broken.keep("wifi:x", "hush-hush")


def test_without_a_store_they_are_asked_for_each_time(monkeypatch):
    import keyring
    from keyring.backends.fail import Keyring

    monkeypatch.setattr(keyring, "get_keyring", Keyring)
    secrets = Secrets()
    assert secrets.store is None
    assert not secrets.keep("wifi:x", "hush-hush")
    assert "asked for each time" in secrets.words


def test_the_road_sheet_has_steps_names_and_no_password(plan):
    index = PlanIndex(plan, TODAY)
    for school in ("teach", "pose"):
        sheet = road_sheet(index, replace(plan.hotspots[1], school=school), plan.trips[0], "worked, 2026-11-26")
        text = road_text(sheet)
        assert ("Wren-Away" in text) == (school == "teach")
        assert "q4wrn-travel.local" in text
        assert "Only now switch the hotspot on" in text
        assert "login page" in text
        assert "Rehearsal: worked" in text
        assert road_pdf(sheet, "2026-11-26").startswith(b"%PDF")
    assert "in your key store" in text
    assert "999" not in text.replace("99900", "")


def test_a_setup_is_what_the_plan_says(plan):
    made = setup_of(plan.station.phone, plan.station.home_wifi, plan.hotspots[1])
    assert (made.phone.sharing, made.home.name, made.known[1]) == ("Wren-Away", "Harrowquay-7", "Wren-away")
    assert "capital" in play(**made._asdict())


def test_a_trips_rehearsal_is_noted_and_counts_until_the_names_change(plan):
    setup = setup_of(plan.station.phone, plan.station.home_wifi, plan.hotspots[1])
    assert rehearsal_words(plan.trips[0], setup) == "not rehearsed yet"
    noted = note_rehearsal(plan.trips[0], setup, "", "2026-11-26").apply(plan).trips[0]
    assert rehearsal_words(noted, setup) == "worked, 2026-11-26"
    assert "Wren" not in noted.rehearsed
    changed = setup._replace(known=("Wren-Away",))
    assert "rehearse it again" in rehearsal_words(noted, changed)
    broke = note_rehearsal(plan.trips[0], setup, "it broke", "2026-11-26").apply(plan).trips[0]
    assert rehearsal_words(broke, setup).startswith("broke")


def test_a_password_never_goes_through_a_link_or_into_a_file_that_others_read(tmp_path):
    elsewhere = tmp_path / "elsewhere"
    elsewhere.write_text("somebody's")
    card = tmp_path / "card"
    card.mkdir()
    (card / "wpa_supplicant.conf").symlink_to(elsewhere)
    path = lay_down(card, "supplicant", "Wren-Away", "hush-hush")
    assert elsewhere.read_text() == "somebody's"
    assert not path.is_symlink()
    path.chmod(0o644)
    assert lay_down(card, "supplicant", "Wren-Away", "hush-hush").stat().st_mode & 0o077 == 0


def test_the_systems_store_is_asked_for_once_and_only_a_usable_one_is_taken(monkeypatch):
    import keyring
    from keyring.backends.fail import Keyring as Failing

    class Store:
        priority = 1

    for found, usable in (
        (Store(), True),
        (Failing(), False),
        (type("Weak", (), {"priority": 0})(), False),
        (object(), False),
    ):
        asked = []
        monkeypatch.setattr(keyring, "get_keyring", lambda found=found, asked=asked: asked.append(1) or found)
        secrets = Secrets()
        assert (secrets.store is found) == usable
        assert (secrets.store is found) == usable
        assert len(asked) == 1
    monkeypatch.setattr(keyring, "get_keyring", lambda: pytest.fail("it was given one"))
    given = Store()
    assert Secrets(given).store is given
    assert "key store; plan" in Secrets(given).words


def test_what_has_no_name_is_neither_kept_nor_asked_for_and_what_is_not_there_is_not_deleted():
    class Strict(Box):
        def delete_password(self, service, username):
            if (service, username) not in self.held:
                raise KeyError(username)
            super().delete_password(service, username)

    box = Strict()
    box.held = {}
    secrets = Secrets(box)
    assert not secrets.keep("", "hush")
    assert secrets.get("") == ""
    assert secrets.keep("wifi:y", "")
    assert secrets.get("wifi:y") == ""


def test_the_name_of_a_pages_password_is_of_plan_address_and_device():
    from umbra_awl.core.hotspot.wifi.secrets import page_of

    names = {
        page_of(*given)
        for given in (
            ("a", "h", "x", "w"),
            ("b", "h", "x", "w"),
            ("a", "i", "x", "w"),
            ("a", "h", "y", "w"),
            ("a", "h", "x", "v"),
        )
    }
    assert len(names) == 5
    assert all(len(name.split(":")[2]) == 16 for name in names)
    assert page_of("a", "h", "x", "") == ""
