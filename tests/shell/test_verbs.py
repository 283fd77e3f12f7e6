import json
import subprocess
import sys
from pathlib import Path

import pytest
from click.testing import CliRunner

from tests.days import TODAY
from umbra_awl.core.findings.evaluate import findings_of
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.radio.memory import parse_memory
from umbra_awl.demo.fresh import demo_plan
from umbra_awl.shell.main import main


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


@pytest.fixture
def clean_path(path, plan, profiles):
    while found := findings_of(PlanIndex(plan, TODAY), profiles):
        plan = found[0].repair.edit.apply(plan)
    path.write_bytes(plan_bytes(plan))
    return path


def run(*words):
    return CliRunner().invoke(main, [str(word) for word in words])


def test_check_tells_the_faults_and_exits_with_one(path):
    result = run("check", path)
    assert result.exit_code == 1
    assert "Stop: Transmits outside the band." in result.stdout


def test_check_as_json(path):
    result = run("check", path, "--json")
    found = json.loads(result.stdout)["findings"]
    assert [item["rule"] for item in found][:2] == ["out-of-band", "hotspot-in-satellite-segment"]
    assert found[0]["repair"] == "Swap the sign on Q0NES"


def test_check_of_a_clean_plan_exits_with_zero(clean_path):
    result = run("check", clean_path)
    assert (result.exit_code, result.stdout) == (0, "Nothing found.\n")


def test_fit_writes_a_memory_with_its_report(path, tmp_path):
    result = run("fit", path, "--radio", "tarn 16", "--out", tmp_path / "out", "--json")
    assert result.exit_code == 1, "there are stops in the plan"
    told = json.loads(result.stdout)
    memory, image = parse_memory((tmp_path / "out" / "tarn.memory.json").read_bytes())
    assert len(memory.channels) == 29
    assert image == b""
    assert {"name": "channels", "used": 29, "limit": 256} in told["gauges"]
    assert any("446.3875" in text for text in told["stops"])


def test_trace_by_the_name_on_the_display(path):
    good = run("trace", path, "--radio", "Tarn 16", "--channel", "BLK ISLES", "--json")
    assert good.exit_code == 0
    assert json.loads(good.stdout)["reaches"]
    bad = run("trace", path, "--radio", "tarn", "--channel", "nes nessa")
    assert bad.exit_code == 1
    assert "STOP Guard: 446.3875 is out of band." in bad.stdout


def test_trace_through_dstar_says_what_one_would_notice(path):
    bad = run("trace", path, "--radio", "fell", "--channel", "sig b vlr001 c")
    assert bad.exit_code == 1
    assert "STOP Skein: every key-up links VLR001 C again." in bad.stdout
    assert "you would notice: Each time you let go" in bad.stdout
    assert "3. Change to the talk memory" in bad.stdout


def test_what_is_put_aside_is_told_with_its_reason(path):
    from umbra_awl.core.findings.aside import silence
    from umbra_awl.core.findings.evaluate import findings_of
    from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
    from umbra_awl.core.plan.index import PlanIndex
    from umbra_awl.core.radio.profile_file import shipped_profiles

    plan = parse_plan(path.read_bytes())
    finding = next(
        item for item in findings_of(PlanIndex(plan, TODAY), shipped_profiles()) if item.rule.name == "names-meet"
    )
    path.write_bytes(plan_bytes(silence(finding, "I know them").apply(plan)))
    told = json.loads(run("check", path, "--json").stdout)
    assert [item["reason"] for item in told["aside"]] == ["I know them"]
    assert "Because: I know them" in run("check", path).stdout


@pytest.mark.parametrize(
    ("words", "text"),
    [
        (("check", "nowhere.awl.json"), "There is no file"),
        (
            ("fit", "PLAN", "--radio", "Zed", "--out", "x"),
            "has no radio “Zed”. It has: Tarn 16, Moor 4K, Fell D2, Crag F3.",
        ),
        (("trace", "PLAN", "--radio", "tarn", "--channel", "Zed"), "has no channel “Zed”"),
    ],
)
def test_what_cannot_run_exits_with_two_and_one_sentence(path, words, text):
    result = run(*(path if word == "PLAN" else word for word in words))
    assert result.exit_code == 2
    assert text in result.stderr
    assert "Traceback" not in result.output
    as_json = run(*(path if word == "PLAN" else word for word in words), "--json")
    assert text in json.loads(as_json.stdout)["error"]


def test_a_damaged_plan_exits_with_two(path):
    path.write_bytes(b"{")
    result = run("check", path)
    assert result.exit_code == 2
    assert "was not opened" in result.stderr


def test_an_output_folder_that_cannot_be_made(path, tmp_path):
    (tmp_path / "file").write_text("")
    result = run("fit", path, "--radio", "tarn", "--out", tmp_path / "file")
    assert result.exit_code == 2


def test_the_verbs_load_no_window_toolkit(path):
    code = f"import sys; from umbra_awl.shell.main import main\ntry: main(['check', {str(path)!r}])\nexcept SystemExit: pass\n"
    code += "assert not [name for name in sys.modules if name.startswith(('PyQt6', 'numpy', 'scipy', 'serial'))]"
    subprocess.run([sys.executable, "-c", code], check=True, stdout=subprocess.DEVNULL)


def test_the_help_names_the_verbs():
    result = run("--help")
    assert result.exit_code == 0
    for verb in ("check", "fit", "trace", "standin", "demo"):
        assert verb in result.stdout


# the directory


NASTY = Path(__file__).parents[1] / "data" / "nasty.csv"


def test_import_and_export_without_a_window(tmp_path):
    store = tmp_path / "s.sqlite"
    tried = run("import", NASTY, "--store", store, "--dry-run", "--json")
    assert json.loads(tried.stdout)["added"] == 8
    again = run("import", NASTY, "--store", store, "--json")
    assert again.exit_code == 1  # a row was refused
    value = json.loads(again.stdout)
    assert (value["rows"], value["added"]) == (9, 8)
    assert {line["line"] for line in value["report"] if line["what"] == "refused"} == {9}
    assert json.loads(run("import", NASTY, "--store", store, "--json").stdout)["added"] == 0
    out = tmp_path / "out.geojson"
    result = run("export", "--store", store, "--out", out)
    assert (result.exit_code, result.stdout) == (0, f"8 access points written: {out}.\n")
    assert len(json.loads(out.read_text("utf-8"))["features"]) == 10


def test_a_column_that_looks_like_a_field_and_is_not_used_is_told_and_stops(tmp_path):
    table = tmp_path / "two.csv"
    table.write_text("Call,Output,Mode,Offset,Offset MHz\nQ0A,438.5,FM,88.5,88.5\n", "utf-8")
    result = run("import", table, "--store", tmp_path / "s.sqlite")
    assert result.exit_code == 1
    assert "not used: the column Offset MHz (88.5); it looks like “Offset”" in result.stdout
    told = json.loads(run("import", table, "--store", tmp_path / "s.sqlite", "--json").stdout)
    assert told["not_used"] == [{"column": "Offset MHz", "value": "88.5", "like": "Offset"}]
    table.write_text("Call,Output,Input,Mode,Hobby\nQ0A,438.5,430.9,FM,kites\n", "utf-8")
    assert run("import", table, "--store", tmp_path / "s.sqlite").exit_code == 0, "what looks like nothing may pass"


def test_check_against_a_directory_asks_its_lists_of_numbers(clean_path, tmp_path):
    groups, store = tmp_path / "groups.csv", tmp_path / "s.sqlite"
    numbers = {item.number for item in read_plan(clean_path).destinations if item.network == "lattice" and item.number}
    rows = "".join(f"Lattice,{number},Group {number}\n" for number in sorted(numbers - {99_905}))
    groups.write_text(f"network,number,name\n{rows}", "utf-8")
    assert run("import", groups, "--store", store, "--what", "destinations").exit_code == 0
    assert json.loads(run("check", clean_path, "--json").stdout)["findings"] == []
    told = json.loads(run("check", clean_path, "--store", store, "--json").stdout)["findings"]
    assert [item["text"] for item in told] == ["Exercise is 99905; the directory's list of Lattice does not have it."]


def test_import_of_people_and_destinations(tmp_path):
    people = tmp_path / "people.csv"
    people.write_text("RADIO_ID,CALLSIGN,NAME\n9990001,Q1ADA,Ada\n9990002,Q1BRA,Bram\n", "utf-8")
    store = tmp_path / "s.sqlite"
    assert "2 rows taken; 2 added" in run("import", people, "--store", store).stdout
    groups = tmp_path / "groups.csv"
    groups.write_text("network,number,name\nLattice,99900,Isles-wide\n", "utf-8")
    assert run("import", groups, "--store", store, "--what", "destinations").exit_code == 0


def test_export_of_a_plan_keeps_its_privacy(path, tmp_path):
    out = tmp_path / "plan.csv"
    assert run("export", "--plan", path, "--out", out).exit_code == 0
    assert "46.47,-31.11," not in out.read_text("utf-8")
    assert "Q0BLK" in out.read_text("utf-8")


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("import", "{dir}/gone.csv", "--store", "{dir}/s.sqlite"), "cannot be read"),
        (("import", "{dir}/empty.csv", "--store", "{dir}/s.sqlite"), "is empty"),
        (("import", "{dir}/poor.csv", "--store", "{dir}/s.sqlite", "--what", "access"), "No column is chosen"),
        (("import", str(NASTY), "--store", "{dir}/text.sqlite"), "cannot be opened"),
        (("export", "--store", "{dir}/s.sqlite", "--out", "{dir}/x.doc"), "not a form to export"),
        (("standin", "registry", "--fault", "fire"), "is not a fault"),
    ],
)
def test_what_cannot_run_exits_with_two_and_a_sentence(tmp_path, words, said):
    (tmp_path / "empty.csv").write_text("", "utf-8")
    (tmp_path / "poor.csv").write_text("a,b\nx,y\n", "utf-8")
    (tmp_path / "text.sqlite").write_text("no database" * 50, "utf-8")
    result = run(*(word.replace("{dir}", str(tmp_path)) for word in words))
    assert result.exit_code == 2
    assert said in result.stderr


def test_merge_tells_asks_and_writes(tmp_path):
    base = demo_plan(TODAY)
    for name, plan in (
        ("base", base),
        ("mine", set_air("blackfell-dmr", "x", color_code=7).apply(base)),
        ("theirs", set_air("blackfell-dmr", "x", color_code=8).apply(rename_plan("Theirs").apply(base))),
    ):
        (tmp_path / f"{name}.awl.json").write_bytes(plan_bytes(plan))
    files = [str(tmp_path / f"{name}.awl.json") for name in ("base", "mine", "theirs")]
    asked = run("merge", *files, "--out", str(tmp_path / "out.awl.json"), "--json")
    assert asked.exit_code == 1
    told = json.loads(asked.output)
    assert told["questions"] == [
        {"thing": "the access point Blackfell, DMR", "field": "color code", "mine": "7", "theirs": "8"}
    ]
    assert not (tmp_path / "out.awl.json").exists()
    done = run("merge", *files, "--take", "theirs", "--out", str(tmp_path / "out.awl.json"))
    assert done.exit_code == 0
    assert parse_plan((tmp_path / "out.awl.json").read_bytes()).name == "Theirs"
    assert run("merge", *files[1:]).exit_code == 1
    assert run("merge", files[0], files[0]).exit_code == 0
    assert run("merge", files[0]).exit_code == 2
    assert run("merge", files[0], str(tmp_path / "none.awl.json")).exit_code == 2


def loaded_by(code):
    """What of the slow modules is loaded after some code, in a process of its own."""
    slow = (
        "{'logging', 'typing_extensions', 'hashlib', 'subprocess', 'json', 'numpy', 'scipy', 'serial', 'PIL', 'simpy'}"
    )
    words = [sys.executable, "-c", f"import sys\n{code}\nprint(sorted({slow} & set(sys.modules)))"]
    done = subprocess.run(words, capture_output=True, text=True, check=True)
    return done.stdout.splitlines()[-1]


def test_a_verb_loads_no_more_than_it_needs():
    assert loaded_by("import umbra_awl.shell.verbs") == "[]"


def test_who_wants_what_msgspec_does_without_finds_it():
    assert loaded_by("import umbra_awl.core\nimport typing_extensions") == "['typing_extensions']"
