"""What a screen reader learns over AT-SPI: everything that takes the keyboard has a name, and a crossing says itself."""

import json
import os
import shutil
import subprocess
import sys

import pytest

NEEDED = ("dbus-run-session", "/usr/libexec/at-spi-bus-launcher")


@pytest.fixture(scope="module")
def told(tmp_path_factory):
    missing = [name for name in NEEDED if shutil.which(name) is None]
    if missing:
        pytest.skip(f"the accessibility bus is not there: {', '.join(missing)} (Debian: at-spi2-core, dbus)")
    words = [
        "dbus-run-session",
        "--",
        sys.executable,
        "-m",
        "tests.journey.spoken",
        str(tmp_path_factory.mktemp("told")),
    ]
    done = subprocess.run(words, capture_output=True, text=True, timeout=240, check=False, env=dict(os.environ))
    lines = [line for line in done.stdout.splitlines() if line.startswith("{")]
    assert lines, done.stderr[-2_000:]
    return json.loads(lines[-1])


def test_whatever_takes_the_keyboard_on_any_page_has_a_name(told):
    assert len(told["pages"]) > 30
    for page, things in told["pages"].items():
        nameless = [role for role, name, _has in things if not name.strip() and role != "cell"]
        assert not nameless, page  # an empty cell of a table is read as one
    assert told["frame"].startswith("velmar.awl.json")


def test_stages_and_pages_are_rows_of_which_one_is_chosen(told):
    chosen = told["chosen"]["routes sheet"]
    assert chosen[0].startswith("Routes, stage 3 of 8, 67% done, 5 findings")
    assert "Punch sheet" in chosen
    stages = [
        name for role, name, _has in told["pages"]["routes sheet"] if role == "radio button" and ", stage " in name
    ]
    assert [name.split(",")[0] for name in stages][:3] == ["Station", "Access", "Routes"]
    assert len(stages) == 8


def test_a_crossing_says_where_what_which_slot_whether_punched_and_what_is_found(told):
    assert len(set(told["sheet"])) >= 5
    last, before = told["sheet"][-1], told["sheet"][-2]
    assert before.rsplit(". ", 1)[0] != last.rsplit(". ", 1)[0]
    assert any("Empty" in text or "empty" in text for text in told["sheet"])
    assert any(". Stop: " in text for text in told["sheet"])
    assert any("Cannot be punched: " in text for text in told["sheet"])
