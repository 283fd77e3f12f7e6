"""The shell's side of the ways into radios: simulated devices as processes, the finding on people that were never written."""

import json

import pytest
from click.testing import CliRunner
from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.model import PeopleChoice
from umbra_awl.demo.fresh import demo_plan, lay_out_directory
from umbra_awl.shell.main import main
from umbra_awl.standins.launch import CardRadioProcess, PhoneProcess, StandInError


def run(*words):
    return CliRunner().invoke(main, list(words))


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("standin", "card-radio", "--profile", "tarn16", "--memory", "x", "--place", "y"), "no memory card"),
        (("standin", "card-radio", "--profile", "none", "--memory", "x", "--place", "y"), "cannot be read"),
        (("standin", "phone", "--profile", "none", "--list", "x"), "cannot be read"),
    ],
)
def test_what_cannot_be_simulated_says_why(words, said):
    result = run(*words)
    assert result.exit_code == 2
    assert said in result.output


def test_a_radio_with_a_card_slot_is_told_what_to_do_and_answers(tmp_path):
    with CardRadioProcess("syke-f1", tmp_path / "syke.radio", tmp_path / "place") as radio:
        assert radio.state["card"] == "radio"
        state = radio.do("write out")
        assert state["lines"][0] == "POURED"
        radio.do("power")
        assert radio.do("push out")["card"] == "computer"
        assert (radio.reader / "SYKE-F1" / "KEPT" / "SAVE0001.AWC").exists()
        assert radio.do("no such key")["event"] == "refused"
    with pytest.raises(StandInError, match="has ended"):
        radio.do("look")


def test_a_phone_that_cannot_start_says_why(tmp_path):
    (tmp_path / "bad.json").write_text("no list")
    with pytest.raises(StandInError, match="no list of a phone app"):
        PhoneProcess("fell-d2", tmp_path / "bad.json")


def test_people_that_were_never_written_are_told_by_check(tmp_path):
    store = lay_out_directory(tmp_path, TODAY)
    plan = demo_plan(TODAY)
    choice = PeopleChoice(everybody=True)
    radios = tuple(replace(item, people=choice) if item.key == "moor" else item for item in plan.radios)
    path = tmp_path / "p.awl.json"
    path.write_bytes(plan_bytes(replace(plan, radios=radios)))
    result = run("check", str(path), "--store", str(store), "--json")
    rules = [item["rule"] for item in json.loads(result.output)["findings"]]
    assert "people-not-written" in rules
