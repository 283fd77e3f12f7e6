"""A wheel holds all that the application needs: installed into a fresh environment it works, and the desktop knows it."""

import subprocess
import sys
import tarfile
import tomllib
from configparser import ConfigParser
from pathlib import Path
from shutil import copy, copytree, ignore_patterns, which
from xml.etree import ElementTree
from zipfile import ZipFile

import pytest

import umbra_awl

ROOT = Path(__file__).parents[2]
PACKAGING = ROOT / "packaging"
ID = "invalid.umbra_awl.UmbraAwl"
"""One name for the desktop's entry, its metadata and its picture: the reversed address, which is a placeholder."""


def run(*command, **more):
    return subprocess.run(command, check=False, capture_output=True, text=True, timeout=150, **more)


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    out, source = tmp_path_factory.mktemp("wheel"), tmp_path_factory.mktemp("source")
    for name in ("pyproject.toml", "README.md", "LICENSE"):
        copy(ROOT / name, source)  # building leaves files beside its source; two may build at once
    for name in ("src", "packaging"):
        copytree(ROOT / name, source / name, ignore=ignore_patterns("__pycache__", "*.egg-info"))
    made = run(
        sys.executable, "-m", "pip", "wheel", "--no-deps", "--no-build-isolation", "-q", "-w", str(out), str(source)
    )
    assert made.returncode == 0, made.stderr
    return next(out.glob("*.whl"))


@pytest.mark.night
def test_the_wheel_holds_every_file_of_the_application(wheel):
    with ZipFile(wheel) as archive:
        held = set(archive.namelist())
    data = {
        str(path.relative_to(ROOT / "src"))
        for path in (ROOT / "src" / "umbra_awl").rglob("*")
        if path.is_file() and "__pycache__" not in path.parts
    }
    assert data <= held
    shared = {name.partition(".data/data/")[2] for name in held}
    assert {f"share/applications/{ID}.desktop", "share/man/man1/umbra-awl.1"} <= shared
    assert any(name.endswith("/licenses/LICENSE") for name in held)


@pytest.mark.night
def test_a_fresh_environment_runs_it(wheel, tmp_path):
    target = tmp_path / "site"
    done = run(sys.executable, "-m", "pip", "install", "--no-deps", "-q", "--target", str(target), str(wheel))
    assert done.returncode == 0, done.stderr
    plan = tmp_path / "demo.awl.json"
    source = (
        "import sys; sys.path[:] = [path for path in sys.path if not path.endswith('/src')]; "
        f"sys.path.insert(0, {str(target)!r}); "
        "import umbra_awl; from pathlib import Path; from datetime import date; "
        f"assert umbra_awl.__file__.startswith({str(target)!r}), umbra_awl.__file__; "
        "from umbra_awl.demo.fresh import demo_plan; from umbra_awl.core.plan.disk.file_form import plan_bytes; "
        f"Path({str(plan)!r}).write_bytes(plan_bytes(demo_plan(date(2026, 11, 24)))); "
        f"from umbra_awl.shell.main import main; main(['check', {str(plan)!r}])"
    )
    found = run(sys.executable, "-c", source, cwd=tmp_path)
    assert found.returncode == 1, found.stderr
    assert "outside the band" in found.stdout.lower()


def test_the_desktop_entry_the_metadata_and_the_picture_say_one_thing():
    entry = ConfigParser(interpolation=None)
    entry.optionxform = str
    entry.read(PACKAGING / f"{ID}.desktop", "utf-8")
    fields = entry["Desktop Entry"]
    assert (fields["Exec"], fields["Icon"]) == ("umbra-awl %f", ID)
    info = ElementTree.parse(PACKAGING / f"{ID}.metainfo.xml").getroot()  # noqa: S314
    assert (info.findtext("id"), info.findtext("launchable")) == (ID, f"{ID}.desktop")
    assert info.findtext("name") == fields["Name"]
    media = info.findtext("provides/mediatype")
    assert fields["MimeType"].strip(";") == media
    assert media in (PACKAGING / f"{ID}.xml").read_text()
    assert ElementTree.parse(PACKAGING / f"{ID}.svg").getroot().attrib["viewBox"] == "0 0 128 128"  # noqa: S314


@pytest.mark.parametrize(
    "command",
    [
        ("desktop-file-validate", str(PACKAGING / f"{ID}.desktop")),
        ("appstreamcli", "validate", "--no-net", str(PACKAGING / f"{ID}.metainfo.xml")),
    ],
)
def test_the_desktops_own_validators_have_nothing_against_it(command):
    if which(command[0]) is None:
        pytest.skip(f"{command[0]} is not installed")
    found = run(*command)
    assert found.returncode == 0, found.stdout + found.stderr


def test_there_is_one_version_one_licence_and_they_are_told_alike_everywhere():
    version = umbra_awl.__version__
    project = tomllib.loads((ROOT / "pyproject.toml").read_text("utf-8"))["project"]
    info = ElementTree.parse(PACKAGING / f"{ID}.metainfo.xml").getroot()  # noqa: S314
    assert project["dynamic"] == ["version"]
    assert info.find("releases/release").attrib["version"] == version
    assert info.findtext("project_license") == project["license"] == "GPL-3.0-or-later AND OFL-1.1"
    assert f"umbra-awl {version}" in (PACKAGING / "umbra-awl.1").read_text("utf-8")
    assert f"({version}-1)" in (PACKAGING / "debian" / "changelog").read_text("utf-8")
    assert f"## {version}" in (ROOT / "CHANGELOG.md").read_text("utf-8")
    assert "GNU GENERAL PUBLIC LICENSE" in (ROOT / "LICENSE").read_text("utf-8")


@pytest.mark.night
def test_source_archive_and_package_are_made(tmp_path):
    made = run(sys.executable, str(ROOT / "scripts" / "package.py"), str(tmp_path))
    assert ", the same twice" in made.stdout
    with tarfile.open(next(tmp_path.glob("*.tar.gz"))) as archive:
        names = {name.partition("/")[2] for name in archive.getnames()}
    assert {"tests/conftest.py", "docs/architecture.md", "scripts/test.py", "packaging/debian/rules"} <= names
    if made.returncode == 2:
        pytest.skip(made.stdout.splitlines()[-1])
    assert made.returncode == 0, made.stderr
    assert next(tmp_path.glob("*.deb")).stat().st_size > 500_000


@pytest.mark.parametrize("shell", ["bash", "zsh", "fish"])
def test_shells_get_what_they_need_to_complete(shell):
    found = run(sys.executable, "-m", "umbra_awl", "completion", shell)
    assert found.returncode == 0
    assert "_UMBRA_AWL_COMPLETE" in found.stdout
