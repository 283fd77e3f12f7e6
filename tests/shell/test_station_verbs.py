"""The verbs of an operator's days: what to do next, nets, a place for a hotspot, an evening, logs, people, what is given away."""

import json
from datetime import UTC, datetime
from pathlib import Path
from types import SimpleNamespace

import click
import pytest
from click.testing import CliRunner
from msgspec.structs import replace

from tests.days import MOMENT, TODAY
from umbra_awl.core.directory.lists.layout import TableLayout
from umbra_awl.core.directory.people import import_people
from umbra_awl.core.directory.store import Store
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.hands.pack import read_pack
from umbra_awl.core.hotspot.logs.rules import shipped_rules
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.tables.rows import Row, Table
from umbra_awl.demo.fresh import lay_out
from umbra_awl.demo.hotspots import settings_text
from umbra_awl.shell.main import main


@pytest.fixture(autouse=True)
def on_the_day(monkeypatch):
    monkeypatch.setenv("UMBRA_AWL_NOW", f"{MOMENT:%Y-%m-%dT%H:%M:%SZ}")


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


def run(*words):
    return CliRunner().invoke(main, [str(word) for word in words])


def told(*words):
    result = run(*words, "--json")
    return result.exit_code, json.loads(result.stdout)


def test_next_tells_what_is_left_and_where(path):
    code, found = told("next", path)
    assert code == 1
    assert found["left"][0]["step"].startswith("Repair what stops")
    assert {"stage", "page", "why"} <= found["left"][0].keys()


def test_nets_of_the_coming_days_come_with_the_way_there(path, plan):
    code, found = told("nets", path, "--days", 8)
    assert code == 0
    names = {item.name for item in plan.nets}
    assert {item["net"] for item in found["nets"]} <= names
    assert {item["net"] for item in told("nets", path, "--days", 40)[1]["nets"]} == names
    assert all(item["way"] or item["missing"] for item in found["nets"])
    assert run("nets", path, "--days", 8).stdout.count("UTC") >= len(found["nets"])


def test_a_place_is_judged_and_better_ones_are_told(path):
    code, found = told("frequency", path, "travel spot")
    assert code == 1
    assert found["verdict"].startswith("It must move")
    assert found["best"][0]["score"] >= found["best"][-1]["score"]
    assert told("frequency", path, "home")[0] == 0
    assert "Say which hotspot. The plan has: Home spot, Travel spot." in run("frequency", path).output
    assert "no trip “moon”" in run("frequency", path, "home", "--trip", "moon").output


def test_an_evening_is_the_same_for_a_seed(path):
    one, other = told("evening", path, "tarn", "--evenings", 5), told("evening", path, "tarn", "--evenings", 5)
    assert one == other
    assert one[0] == 0
    assert 0 <= one[1]["missed"] <= 1


def test_a_log_is_explained_by_its_cause(tmp_path):
    log = tmp_path / "spot.log"
    rules = {item.key: item for item in shipped_rules().rule}
    log.write_text(f"{rules['port-busy'].example}\n{rules['wrong-modem'].example}\n")
    code, found = told("explain", log)
    assert code == 1
    assert [item["rule"] for item in found["faults"]] == ["port-busy", "wrong-modem"]
    log.write_text(f"{rules['call-heard'].example}\n")
    assert "9994217" not in run("explain", log, "--json").stdout, "an ID in a log is not told on"
    quiet = tmp_path / "quiet.log"
    quiet.write_text("2026-11-26 20:31:05 modem: ready on 434012500 / 434012500 Hz, type simplex-70\n")
    assert run("explain", quiet).stdout.startswith("Nothing is wrong in it.")


def test_settings_are_compared_and_nothing_is_written(path, plan, tmp_path):
    file = tmp_path / "spot.ini"
    file.write_text(settings_text(plan, "home"))
    before = file.read_bytes()
    assert told("settings", path, file, "--hotspot", "home") == (0, {"differs": [], "guessed": False})
    file.write_text(before.decode().replace("434612500", "434600000"))
    code, found = told("settings", path, file, "--hotspot", "home")
    assert code == 1
    assert any("434.6" in f"{item['plan']}{item['hotspot']}" for item in found["differs"])


def test_no_verb_that_tells_shows_an_id(path, plan, tmp_path):
    """IDs are masked unless asked for: also where a file holds another one, and in what is read by programs."""
    spot = tmp_path / "spot.ini"
    text = settings_text(plan, "home")
    ids = {str(one.full) for who in plan.station.identities for one in who.ids} | {"999123401"}
    for one in list(ids):
        text = text.replace(one, "999123401")
    spot.write_text(text)
    log, net = tmp_path / "spot.log", plan.nets[0].name
    log.write_text("".join(f"2026-11-26 20:41:00 login refused for {one}: wrong password\n" for one in ids))
    verbs = [
        ("settings", path, spot, "--hotspot", "home"), ("check", path), ("next", path), ("changed", path), ("kit", path),
        ("compare", path), ("nets", path), ("listening", path), ("frequency", path, "home"),
        ("trace", path, "--radio", "tarn", "--channel", "BLK ISLES"), ("explain", log), ("ready", path, net),
        ("evening", path, "tarn", "--evenings", 2), ("log", "prove-next", path),
    ]  # fmt: skip
    seen = ""
    for words in verbs:
        for more in ((), ("--json",)):
            result = CliRunner().invoke(main, [str(item) for item in (*words, *more)])
            assert result.exit_code in {0, 1}, result.output
            seen += result.output
            shown = [one for one in ids if one in result.output or one[:7] in result.output]
            assert not shown, words
    assert "ID with suffix" in seen


def test_people_are_found_by_call_name_and_number(tmp_path):
    store = Store(tmp_path / "d.sqlite")
    rows = [Row(2, ["9994217", "Q4WRN", "Wren", "Harrowquay", "Velmar"]), Row(3, ["9994218", "Q7QBY", "Quill", "", ""])]
    fields = {"id": "ID", "call": "Call", "name": "Name", "city": "City", "country": "Country"}
    table = Table("p.csv", "csv", list(fields.values()), lambda: iter(rows))
    import_people(store, table, TableLayout("people", fields, source="x"), "2026-11-25T10:00:00")
    store.close()
    for word in ("q4wrn", "wren", "9994217"):
        code, found = told("people", tmp_path / "d.sqlite", word)
        assert code == 0
        assert [item["call"] for item in found["people"]] == ["Q4WRN"]
    assert run("people", tmp_path / "d.sqlite", "nobody").exit_code == 1


def test_what_is_given_away_holds_no_ids(path, tmp_path, plan):
    shared, pack = tmp_path / "shared.awl.json", tmp_path / "club.zip"
    assert run("share", path, "--out", shared).exit_code == 0
    assert run("share", path, "--out", shared).exit_code == 2, "nothing is replaced unasked"
    assert b"9994217" not in shared.read_bytes()
    assert len(read_plan(shared).routes) <= len(plan.routes)
    assert not read_plan(shared).trips
    assert run("share", path, "--out", shared, "--replace", "--with-ids").exit_code == 0
    assert b"9994217" in shared.read_bytes()
    code, found = told("pack", path, "--out", pack)
    assert code == 0
    assert [item.title for item in read_pack(pack.read_bytes()).parts] == found["parts"]


def test_the_log_is_written_given_out_brought_in_and_asked_what_to_prove(path, tmp_path, plan):
    code, found = told("log", "add", path, "blackfell isles", "--call", "q7qby")
    assert (code, found["grade"]) == (0, "answered")
    assert run("log", "add", path, "no such place").exit_code == 2
    assert run("log", "add", path, "blackfell isles", "--call", "HELLO").exit_code == 2
    out = tmp_path / "log.adi"
    assert told("log", "export", path, "--out", out)[1]["entries"] == 1
    assert "Q7QBY" in out.read_text("utf-8")
    assert told("log", "import", path, out)[1] == {"new": 0, "there": 1, "faults": []}
    other = tmp_path / "other"
    other.mkdir()
    (other / "wren.awl.json").write_bytes(plan_bytes(plan))
    assert told("log", "import", other / "wren.awl.json", out)[1]["new"] == 1
    assert told("log", "export", path, "--out", tmp_path / "log.csv")[0] == 0
    code, left = told("log", "prove-next", path)
    assert code == 1
    assert left["key_ups"][0]["proves"] >= left["key_ups"][-1]["proves"]


def test_two_entries_of_one_moment_are_two(path, tmp_path, monkeypatch):
    moment = datetime(2026, 11, 26, 20, 31, tzinfo=UTC)
    monkeypatch.setattr("umbra_awl.shell.records.clock", lambda: SimpleNamespace(utc=lambda: moment))
    for call in ("Q7QBY", "Q4WRN"):
        assert told("log", "add", path, "blackfell isles", "--call", call)[0] == 0
    assert told("log", "export", path, "--out", tmp_path / "log.adi")[1]["entries"] == 2


def test_a_clean_plan_that_cannot_be_read_ends_with_two(tmp_path):
    broken = tmp_path / "x.awl.json"
    broken.write_text("{")
    for verb in ("next", "nets", "share"):
        more = ("--out", tmp_path / "y") if verb == "share" else ()
        assert run(verb, broken, *more).exit_code == 2
    assert not (tmp_path / "y").exists()


def test_the_verbs_see_what_the_window_sees(path, plan, profiles):
    stops = [item for item in findings_of(PlanIndex(plan, TODAY), profiles) if item.severity == "stop"]
    assert f"{len(stops)} findings" in run("next", path).stdout


def test_every_verb_stands_in_the_man_page_and_in_the_docs():
    root = Path(__file__).parent.parent.parent
    man, docs = ((root / name).read_text("utf-8") for name in ("packaging/umbra-awl.1", "docs/shell.md"))
    for name in set(main.list_commands(click.Context(main))) - {"open", "demo", "completion"}:
        assert f"\\fB{name}" in man, name
        assert f"umbra-awl {name} " in docs, name


def test_what_to_take_along_and_what_lies_ready(path, plan):
    code, found = told("kit", path)
    assert code == 1
    assert found["trip"] == plan.trips[0].name
    assert {"key", "take", "why", "ready"} <= found["kit"][0].keys()
    packed = replace(plan, trips=(replace(plan.trips[0], packed=tuple(item["key"] for item in found["kit"])),))
    path.write_bytes(plan_bytes(packed))
    assert told("kit", path, plan.trips[0].name)[0] == 0
    assert "has no trip “Moon”" in run("kit", path, "Moon").stderr


def test_where_to_begin_listening_with_and_without_a_directory(path, tmp_path):
    code, bare = told("listening", path)
    assert code == 0
    assert bare["groups"][0]["kind"] == "local"
    assert all(not item["reach"] for item in bare["band"])
    around = told("listening", path, "--store", lay_out(tmp_path / "demo", TODAY).directory)[1]
    assert len(around["band"]) > len(bare["band"])
    assert any(item["reach"] == "likely" for item in around["band"])
    assert "145.5000" in run("listening", path).stdout


def test_what_is_in_order_before_a_net(path, plan):
    net = plan.nets[0].name
    code, found = told("ready", path, net)
    assert code == 1
    assert found["net"] == net
    states = [item["state"] for item in found["checks"]]
    assert states == sorted(states, key=["look", "ok", "ask"].index)
    memory = next(item for item in found["checks"] if item["what"] == "Memory")
    assert memory["state"] == "look", "no radio was seen to hold the plan"
    assert "Say which net" in run("ready", path).stderr
