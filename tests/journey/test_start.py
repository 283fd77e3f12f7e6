"""Starting the application as its owner does: from the shell, in a process of its own."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from umbra_awl.core.plan.disk.store import read_plan

pytestmark = pytest.mark.journey


def run(*words, **more):
    command = [sys.executable, "-W", "error", "-m", "umbra_awl", *map(str, words)]
    return subprocess.run(command, capture_output=True, text=True, timeout=60, check=False, **more)


def test_the_demo_opens_takes_its_picture_and_leaves_nothing_running(tmp_path):
    picture = tmp_path / "demo.png"
    done = run("demo", "--folder", tmp_path / "demo", "--picture", picture)
    assert done.returncode == 0, done.stderr
    assert picture.stat().st_size > 50_000
    assert not list((tmp_path / "demo").glob("*.port"))
    assert read_plan(tmp_path / "demo" / "velmar.awl.json").name == "Home, town and Nessa"
    assert "Traceback" not in done.stderr


def test_the_picture_shows_the_window(tmp_path, qapp):
    from PyQt6.QtGui import QColor, QImage

    picture = tmp_path / "demo.png"
    run("demo", "--folder", tmp_path / "demo", "--picture", picture)
    image = QImage(str(picture))
    assert (image.width(), image.height()) == (1280, 800)
    colours = {image.pixelColor(x, y).name() for x in range(0, 1280, 8) for y in range(0, 800, 8)}
    assert len(colours) > 12
    assert QColor("#faf8f3").name() in colours or QColor("#1d1b22").name() in colours


def test_without_any_display_it_is_no_traceback(tmp_path):
    """`make demo` runs this script; it brings its own screen and says so."""
    env = {
        key: value for key, value in os.environ.items() if key not in {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"}
    }
    top = Path(__file__).parents[2]
    if not (top / ".venv" / "bin" / "umbra-awl").exists():
        pytest.skip("set up in another place than .venv")
    done = subprocess.run(
        ["scripts/demo.sh"], cwd=top, env=env, capture_output=True, text=True, timeout=90, check=False
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.startswith("There is no display here.")
    assert "Traceback" not in done.stderr
    assert (top / "demo-window.png").stat().st_size > 50_000
