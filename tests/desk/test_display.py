"""Without a display the window is not tried: the toolkit would end the program with a message nobody understands."""

import subprocess
import sys

import pytest

from umbra_awl.desk.display import display_fault


@pytest.mark.parametrize(
    ("given", "words"),
    [
        ({}, "There is no display"),
        ({"DISPLAY": ":987"}, "“:987” does not answer"),
        ({"DISPLAY": "nonsense"}, "does not answer"),
        ({"WAYLAND_DISPLAY": "wayland-77", "XDG_RUNTIME_DIR": "/nowhere"}, "does not answer"),
        ({"QT_QPA_PLATFORM": "fancy"}, "asks for “fancy”, which is not there"),
        ({"QT_QPA_PLATFORM": "xcb"}, "There is no display"),
        ({"QT_QPA_PLATFORM": "offscreen"}, ""),
        ({"QT_QPA_PLATFORM": "minimal:enable_fonts"}, ""),
    ],
)
def test_why_no_window_can_be_opened(given, words):
    fault = display_fault(given)
    assert (words in fault) if words else not fault


@pytest.mark.parametrize("arguments", [[], ["demo"], ["some.awl.json"]])
def test_the_shell_ends_with_a_sentence_and_its_code(arguments):
    environment = {"PATH": "/usr/bin:/bin", "HOME": "/nonexistent", "DISPLAY": ":987"}
    done = subprocess.run(
        [sys.executable, "-m", "umbra_awl", *arguments],
        env=environment,
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert done.returncode == 2
    assert done.stderr.startswith("umbra-awl: The display “:987” does not answer.")
    assert "Traceback" not in done.stderr
