"""The shell verbs of paper and files."""

import json

import pytest
from click.testing import CliRunner

from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.shell.main import main


@pytest.fixture
def path(tmp_path, plan):
    place = tmp_path / "wren.awl.json"
    place.write_bytes(plan_bytes(plan))
    return place


def run(*words):
    return CliRunner().invoke(main, [str(word) for word in words])


@pytest.mark.parametrize(("form", "begins"), [("pdf", b"%PDF"), ("html", b"<!DOCTYPE")])
def test_card_and_keys_are_printed(path, tmp_path, form, begins):
    out = tmp_path / f"card.{form}"
    assert run("card", path, "--radio", "Moor 4K", "--out", out).exit_code == 0
    assert out.read_bytes().startswith(begins)
    out = tmp_path / f"keys.{form}"
    told = json.loads(run("keys", path, "--radio", "tarn", "--out", out, "--cheapest", "--json").stdout)
    assert (told["memories"], told["faults"]) == (29, [])
    assert out.read_bytes().startswith(begins)


def test_what_cannot_be_printed_says_why(path, tmp_path):
    result = run("keys", path, "--radio", "crag", "--out", tmp_path / "keys.pdf")
    assert (result.exit_code, result.stderr) == (2, "umbra-awl: Crag F3 is not programmed by its keys.\n")
    assert "neither .pdf nor .html" in run("card", path, "--radio", "tarn", "--out", tmp_path / "card.doc").stderr


def test_files_go_out_and_come_back_as_a_plan(path, tmp_path):
    out = run("files", path, "--radio", "tarn", "--out", tmp_path / "out", "--json")
    assert (out.exit_code, json.loads(out.stdout)["lost"]) == (0, [])
    sources = [tmp_path / "out" / name for name in ("channels.csv", "contacts.csv", "group-lists.csv", "zones.csv")]
    made = tmp_path / "mine.awl.json"
    back = run("bring", *sources, "--layout", "wide", "--out", made, "--json")
    assert json.loads(back.stdout)["routes"] == 29
    assert len(read_plan(made).routes) == 29
    assert "is there already" in run("bring", *sources, "--out", made).stderr


def test_a_layout_that_loses_something_exits_with_one(path, tmp_path):
    result = run("files", path, "--radio", "tarn", "--layout", "narrow", "--out", tmp_path)
    assert result.exit_code == 1
    assert "Receive group list" in result.stdout
    assert run("files", path, "--radio", "tarn", "--layout", "none.toml", "--out", tmp_path).exit_code == 2


def test_bringing_in_what_is_no_radio(tmp_path):
    bad = tmp_path / "bad.csv"
    bad.write_text("Colour,Size\ngreen,3\n")
    result = run("bring", bad, "--out", tmp_path / "x.awl.json")
    assert result.exit_code == 2
    assert not (tmp_path / "x.awl.json").exists()
    assert (
        "There is no profile “none”" in run("bring", bad, "--profile", "none", "--out", tmp_path / "x.awl.json").stderr
    )


def test_bringing_in_says_which_radio_it_is_taken_for_and_what_was_not_used(tmp_path):
    file = tmp_path / "old.csv"
    file.write_text("Name,Mode,Receive,Remark\nBLK FM,FM,145.7125,mine\n")
    out = tmp_path / "x.awl.json"
    result = run("bring", file, "--out", out)
    assert "taken for a Tarn 16" in result.stdout
    assert "not used: the column old.csv: Remark (mine in every row)" in result.stdout
    assert result.exit_code == 1
    assert read_plan(out).radios[0].profile == "tarn16"


def test_radios_are_compared(path):
    told = json.loads(run("compare", path, "--json").stdout)
    assert len(told) == 7
    assert "routes: It carries" in run("compare", path).stdout


def test_a_radio_of_ones_own_is_known_to_the_shell_too(tmp_path, plan, monkeypatch):
    from msgspec.structs import replace

    from umbra_awl.core.radio.profile_edit import from_similar
    from umbra_awl.core.radio.profile_file import save_profile, shipped_profiles

    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))
    mine = from_similar(shipped_profiles()["moor4k"], ())
    save_profile(mine, tmp_path / "data" / "umbra-awl" / "profiles" / "mine.toml")
    radios = (replace(plan.radios[0], profile=mine.key), *plan.radios[1:])
    path = tmp_path / "own.awl.json"
    path.write_bytes(plan_bytes(replace(plan, radios=radios)))
    assert run("fit", path, "--radio", "tarn", "--out", tmp_path).exit_code == 1, "there are stops in the plan"
    assert len(json.loads(run("compare", path, "--json").stdout)) == 8
    assert run("check", path).exit_code == 1
