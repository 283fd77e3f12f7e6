"""What must hold of the project's own text: layers, sizes, names."""

import ast
import re
from itertools import pairwise
from pathlib import Path

import pytest

SRC = Path(__file__).parents[2] / "src" / "umbra_awl"
MODULES = sorted(SRC.rglob("*.py"))


def tree_of(path):
    """A module as it is parsed."""
    return ast.parse(path.read_text("utf-8"))


@pytest.mark.parametrize("path", MODULES, ids=lambda path: str(path.relative_to(SRC)))
def test_modules_and_functions_stay_small(path):
    text = path.read_text("utf-8")
    assert len(text.splitlines()) <= 400
    for node in ast.walk(tree_of(path)):
        if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
            length = (node.end_lineno or node.lineno) - node.lineno + 1
            assert length <= 60, f"{node.name} has {length} lines"


def test_no_window_toolkit_below_the_desk():
    for folder in ("core", "standins", "demo"):
        for path in (SRC / folder).rglob("*.py"):
            assert "PyQt6" not in path.read_text("utf-8"), path


def test_the_demo_keeps_to_the_invented_world(plan):
    calls = [access.call for access in plan.access if access.call] + [item.call for item in plan.station.identities]
    assert all(call.startswith("Q") for call in calls)
    assert all(str(item.number).startswith("999") for who in plan.station.identities for item in who.ids)
    hosts = re.findall(r"[a-z0-9-]+(?:\.[a-z0-9-]+)+", " ".join(network.master for network in plan.networks))
    assert all(host.endswith((".invalid", ".test")) for host in hosts)


def test_no_secret_has_a_place_in_a_plan():
    from umbra_awl.core.plan.disk.file_form import schema

    fields = set(re.findall(r'"(\w+)": \{', str(schema()).replace("'", '"')))
    assert not {name for name in fields if re.search(r"pass|secret|token", name)}


@pytest.mark.parametrize("name", sorted(path.stem for path in (SRC.parents[1] / "bench").glob("[a-z]*.py")))
def test_every_bench_can_be_loaded(name):
    import importlib

    assert importlib.import_module(f"bench.{name}").__doc__


def test_every_row_of_words_of_which_one_is_chosen_is_made_in_one_place():
    """`one_of` gives such a row one Tab stop, its arrows and its words for a screen reader; toggles are named here."""
    toggles = {"desk/access/filters.py", "desk/access/playback.py", "desk/frame/judged/finding_line.py"}
    made = {
        str(path.relative_to(SRC))
        for path in (SRC / "desk").rglob("*.py")
        if "setCheckable(" in path.read_text("utf-8")
    }
    assert made == toggles | {"desk/parts/tabs.py"}


def test_a_public_class_name_stands_for_one_thing():
    where: dict[str, list[str]] = {}
    for path in MODULES:
        for node in tree_of(path).body:
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                where.setdefault(node.name, []).append(str(path.relative_to(SRC)))
    assert {name: paths for name, paths in where.items() if len(paths) > 1} == {}


def test_no_class_does_so_much_that_it_is_two():
    """Twenty methods; more than that is a second thing that wants a name. A mode's description is one thing by intent."""
    excused = {"Behaviour": "what a mode answers for itself stands in one place"}
    large = {
        node.name
        for path in MODULES
        for node in tree_of(path).body
        if isinstance(node, ast.ClassDef) and sum(isinstance(item, ast.FunctionDef) for item in node.body) > 20
    }
    assert large == set(excused)


def test_no_room_is_so_full_that_one_has_to_search_it():
    full = {str(path): len(list(path.glob("*.py"))) for path in SRC.rglob("*") if path.is_dir()}
    assert {path: count for path, count in full.items() if count > 30} == {}


_COUNTED = re.compile(
    r"^ (access points|calls|changes|channels|columns|contacts|conversations|digits|edits|entries|evenings|files|findings|groups|"
    r"hotspots|keys|kinds|lines|members|memories|messages|names|nets|notes|options|others|overs|parts|people|pictures|places|presses|"
    r"profiles|radios|readings|records|routes|rows|services|sheets|steps|talk groups|texts|things|zones)\b"
)
_NO_NUMBER = re.compile(r"[A-Z_]+|SHORT_WORDS\[mode\]|of_mode\(MODE_WORDS, mode\)|.*\.name")
"""Limits, which are never one, and names."""


_BY_HAND = re.compile(r"""(['"])(e?s|ies)\1 if .*[!=>] ?1|(['"])\3 if .* == 1 else (['"])s\4""")


def not_counted(path):
    """Where a module puts a number before its noun by itself: “line 12: found”."""
    for number, line in enumerate(path.read_text("utf-8").splitlines(), 1):
        if " if " in line and _BY_HAND.search(line):
            yield f"{path.relative_to(SRC)}:{number}"
    for node in ast.walk(tree_of(path)):
        for value, after in pairwise(node.values) if isinstance(node, ast.JoinedStr) else ():
            if (
                isinstance(value, ast.FormattedValue)
                and isinstance(after, ast.Constant)
                and _COUNTED.match(after.value)
            ):
                said = ast.unparse(value.value)
                if not _NO_NUMBER.fullmatch(said):
                    yield f"{path.relative_to(SRC)}:{node.lineno}: counted({said}, …) with its noun"


def test_what_is_counted_agrees_with_its_number():
    """“1 entries” is seen by everybody but its maker: numbers and their nouns are joined by `counted` alone."""
    assert [told for path in MODULES for told in not_counted(path)] == []
    wrong = (
        'x = f"{n} routes left"',
        "x = f\"{n} route{'' if n == 1 else 's'}\"",
        "x = 'entr' + ('ies' if n > 1 else 'y')",
    )
    for number, line in enumerate(wrong):
        path = SRC / f"never_written_{number}.py"
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr(type(path), "read_text", lambda _self, _coding, line=line: line)
            assert list(not_counted(path)), line
