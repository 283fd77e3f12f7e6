"""Mutation run: one small change after another in the code that decides what is sent and what is lost; a test must notice.

`python -m bench mutants` runs every group, `python -m bench mutants placing link` some of them. Each change is tried on the tests
that execute its line (`bench/covering.py`; `fresh` asks anew which these are). A change that none notices is a survivor and is
listed with its line. Large groups are thinned out evenly; `all` behind the groups runs every change.
"""

import ast
import contextlib
import io
import os
import signal
import sys
import time
from pathlib import Path
from typing import NamedTuple

from bench.changed import put_in
from bench.covering import measure, tests_of

ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "src" / "umbra_awl" / "core"
MOST, LIMIT_S, WORKERS = 160, 60, 2
BAR = 0.9


GROUPS: dict[str, tuple[str, ...]] = {
    "permit": ("plan/permit.py", "facts/emissions.py",),
    "power": ("fit/channels.py", "transfer/interlock.py",),
    "fit": ("fit/fitting.py", "fit/carrying.py", "fit/possible.py", "fit/hearing.py", "fit/book.py",),
    "placing": ("fit/placing.py",),
    "crossing": ("routes/crossing.py",),
    "modes": ("modes/behaviour.py", "modes/fm.py", "modes/dmr.py", "modes/dstar.py", "modes/fusion.py", "modes/calls.py",),
    "trace": ("trace/keyup.py", "trace/path.py", "trace/on_fm.py", "trace/on_dmr.py", "trace/on_dstar.py", "trace/on_fusion.py", "trace/listeners.py", "trace/silent.py",),
    "findings": ("findings/on_service.py", "findings/on_route.py", "findings/on_dmr.py", "findings/on_hotspot.py", "findings/evaluate.py",),
    "slips": ("findings/on_pair.py", "findings/on_identity.py", "findings/on_settings.py", "findings/on_directory.py", "findings/on_call.py", "findings/on_dstar.py", "findings/on_fusion.py",),
    "lists": ("directory/lists/guess.py", "directory/lists/column_values.py", "directory/lists/row_openers.py", "directory/lists/sides.py", "directory/lists/values.py", "directory/importing.py", "facts/shift.py", "facts/segments.py", "facts/width.py", "facts/modes.py",),
    "names": ("routes/codes.py", "routes/assigned.py", "routes/apart.py", "routes/names.py", "routes/sayings.py",),
    "link": ("transfer/link.py", "transfer/frames.py",),
    "card": ("transfer/card/way.py", "transfer/card/steps.py", "transfer/card/send.py",),
    "people": ("transfer/people/carry.py", "transfer/firmware/load.py",),
    "lists-out": ("transfer/around/rows.py", "transfer/app/merge.py", "transfer/table/keep_own.py",),
    "hotspot-place": ("hotspot/place/terms.py", "hotspot/place/ruler.py", "hotspot/place/after.py", "hotspot/match/sending.py",),
    "hotspot-says": ("hotspot/match/sheet.py", "hotspot/wifi/rehearse.py", "hotspot/seek/talk.py",),
    "simulation": ("simulation/posts.py", "simulation/keyer.py", "simulation/network.py", "simulation/receiver.py", "simulation/after.py",),
    "messages": ("messages/blocks.py", "messages/permit.py", "messages/frames.py", "messages/texts.py",),
    "log": ("logbook/log_file.py", "logbook/adif.py",),
    "hands": ("hands/merge.py", "hands/refer.py", "hands/rows.py", "hands/pack.py", "hands/taking.py",),
    "authority": ("hands/alike.py", "hands/ancestor.py", "hands/bands.py", "hands/offered.py", "hands/followed.py", "plan/authority.py",),
    "gate": ("messages/sending.py", "messages/permit.py", "hotspot/match/sending.py",),
    "secrets": ("hotspot/wifi/secrets.py", "keep/diary.py",),
    "apart": ("keep/apart.py", "keep/zips.py",),
    "nets": ("agenda/recurrence.py", "agenda/net_calendar.py", "agenda/awake.py",),
    "journal": ("plan/disk/journal.py", "plan/disk/recovery.py", "plan/disk/patch.py",),
    "lock": ("keep/lock.py", "plan/disk/plan_file.py",),
    "logs": ("hotspot/logs/reading.py", "hotspot/logs/ladder.py", "hotspot/logs/symptoms.py", "logbook/from_hotspot.py",),
    "settings": ("hotspot/match/forms.py", "hotspot/match/guess.py", "hotspot/match/says.py", "hotspot/match/layout.py", "hotspot/match/file.py",),
    "calibrate": ("hotspot/calibrate/following.py", "hotspot/calibrate/model.py", "hotspot/calibrate/readings.py", "hotspot/calibrate/sampling.py",),
    "proof": ("logbook/proof.py", "logbook/joining.py",),
    "carry": ("transfer/carry.py", "transfer/shelf.py", "transfer/unit.py", "transfer/held.py",),
    "difference": ("transfer/difference.py", "transfer/compared.py",),
    "estimates": ("estimate/exposure.py", "estimate/battery.py", "estimate/reach.py", "estimate/survey.py",),
    "sharing": ("plan/sharing.py", "plan/privacy.py",),
    "check": ("plan/check.py",),
    "merging": ("hands/words.py", "hands/ancestor.py", "hands/kinds.py", "hands/threeway.py",),
    "drills": ("drills/fault.py", "drills/keyed.py", "drills/rounds.py", "drills/schedule.py", "drills/seeds.py", "drills/slips.py", "drills/way.py",),
    "columns": ("columns/cells.py", "columns/csv_guess.py", "columns/csv_in.py", "columns/csv_out.py", "columns/memory_in.py", "columns/written.py", "columns/sendable.py", "columns/foreign.py",),
    "lead": ("agenda/lead.py", "agenda/calendar.py", "agenda/steps.py",),
    "evenings": ("simulation/advice.py", "simulation/measured.py", "simulation/drawn.py", "simulation/helps.py", "simulation/others.py",),
    "choosing": ("fit/needs.py", "fit/built.py", "fit/friends.py", "fit/compare.py", "fit/modes_beside.py", "facts/connectors.py",),
    "habits": ("findings/on_habits.py", "paper/kept_to.py", "agenda/listening.py", "agenda/kit.py", "agenda/ten_minutes.py", "hotspot/pairing/machine.py", "hotspot/wifi/phones.py", "directory/far_ends.py",),
}  # fmt: skip
_NEGATED = {
    ast.Eq: ast.NotEq, ast.NotEq: ast.Eq, ast.Lt: ast.GtE, ast.GtE: ast.Lt, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.In: ast.NotIn,
    ast.NotIn: ast.In, ast.Is: ast.IsNot, ast.IsNot: ast.Is,
}  # fmt: skip
_EDGE = {ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt}
_OTHER = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.FloorDiv, ast.FloorDiv: ast.Mult, ast.Mod: ast.Mult}


def _other(number: int) -> int:
    """Another number: the next one, twice as much where one more would hardly be a change."""
    return number + 1 if abs(number) < 100 else 2 * number


class _Changer(ast.NodeTransformer):
    """Makes the change number `wanted`; without one it only counts and describes them."""

    def __init__(self, wanted=None):
        self.wanted, self.found = wanted, []

    def _is_it(self, node, what):
        self.found.append((node.lineno, what))
        return len(self.found) - 1 == self.wanted

    def visit_FunctionDef(self, node):
        node.body = self._body(node.body)
        return node

    def visit_ClassDef(self, node):
        node.body = self._body(node.body)
        return node

    def _body(self, body):
        head = body[:1] if isinstance(body[0], ast.Expr) and isinstance(body[0].value, ast.Constant) else []
        made = [*head, *filter(None, (self.visit(item) for item in body[len(head) :]))]
        return made or [ast.Pass()]

    def visit_AnnAssign(self, node):
        node.value = self.visit(node.value) if node.value is not None else None
        return node

    def visit_JoinedStr(self, node):
        return node

    def visit_If(self, node):
        if ast.unparse(node.test) == "TYPE_CHECKING":
            return node
        for value in (True, False):
            if self._is_it(node, f"if {ast.unparse(node.test)} → {value}"):
                node.test = ast.copy_location(ast.Constant(value), node.test)
                return self.generic_visit(node)
        return self.generic_visit(node)

    def visit_Compare(self, node):
        for table in (_NEGATED, _EDGE):
            for at, op in enumerate(node.ops):
                if type(op) in table and self._is_it(node, f"{ast.unparse(node)}: {table[type(op)].__name__}"):
                    node.ops[at] = table[type(op)]()
                    return node
        return self.generic_visit(node)

    def visit_BoolOp(self, node):
        if self._is_it(node, f"{ast.unparse(node)}: and/or"):
            node.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        return self.generic_visit(node)

    def visit_UnaryOp(self, node):
        if isinstance(node.op, ast.Not) and self._is_it(node, f"{ast.unparse(node)}: not taken away"):
            return self.visit(node.operand)
        return self.generic_visit(node)

    def visit_BinOp(self, node):
        if type(node.op) in _OTHER and self._is_it(node, f"{ast.unparse(node)}: {_OTHER[type(node.op)].__name__}"):
            node.op = _OTHER[type(node.op)]()
        return self.generic_visit(node)

    def visit_Constant(self, node):
        if isinstance(node.value, bool) and self._is_it(node, f"{node.value} → {not node.value}"):
            return ast.copy_location(ast.Constant(not node.value), node)
        if type(node.value) is int and self._is_it(node, f"{node.value} → {_other(node.value)}"):
            return ast.copy_location(ast.Constant(_other(node.value)), node)
        return node

    def visit_Expr(self, node):
        if isinstance(node.value, ast.Call | ast.Yield | ast.YieldFrom) and self._is_it(
            node, f"{ast.unparse(node)} taken out"
        ):
            return ast.copy_location(ast.Pass(), node)
        return self.generic_visit(node)

    def visit_Raise(self, node):
        if self._is_it(node, f"{ast.unparse(node)} taken out"):
            return ast.copy_location(ast.Pass(), node)
        return node

    def visit_Continue(self, node):
        return ast.copy_location(ast.Pass(), node) if self._is_it(node, "continue taken out") else node


class Mutant(NamedTuple):
    """One change: where, which number in its module, and in words."""

    module: str
    number: int
    line: int
    words: str


def mutants_of(module: str) -> list[Mutant]:
    """Every change that can be made in a module."""
    changer = _Changer()
    changer.visit(ast.parse((SOURCE / module).read_text("utf-8")))
    return [Mutant(module, number, line, words) for number, (line, words) in enumerate(changer.found)]


class _Child(NamedTuple):
    """A run in a process of its own, which has everything loaded."""

    mutant: Mutant
    process: int
    ends: float

    def over(self) -> bool | None:
        """Whether the change was noticed; None while it is not known. One that hangs is noticed."""
        done, status = os.waitpid(self.process, os.WNOHANG)
        if done:
            return os.waitstatus_to_exitcode(status) != 0
        if time.monotonic() < self.ends:
            return None
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.process, signal.SIGKILL)
        os.waitpid(self.process, 0)
        return True


def _start(mutant: Mutant, tests: list[str]) -> _Child:
    child = os.fork()
    if not child:
        os._exit(_run(mutant, tests))
    return _Child(mutant, child, time.monotonic() + LIMIT_S)


def _survivors(mutants: list[Mutant]) -> list[Mutant]:
    """Those that no test notices, in their order; as many at once as there are processors."""
    tried = [(mutant, tests_of(SOURCE / mutant.module, mutant.line)) for mutant in mutants]
    found = [mutant for mutant, tests in tried if not tests]
    left, running = [item for item in reversed(tried) if item[1]], list[_Child]()
    while left or running:
        while left and len(running) < WORKERS:
            running.append(_start(*left.pop()))
        time.sleep(0.01)
        for child in tuple(running):
            noticed = child.over()
            if noticed is not None:
                running.remove(child)
                found += [] if noticed else [child.mutant]
    return sorted(found)


def _run(mutant: Mutant, tests: list[str]) -> int:
    os.setpgid(0, 0)
    null = os.open(os.devnull, os.O_WRONLY)
    os.dup2(null, 1)
    os.dup2(null, 2)
    path = SOURCE / mutant.module
    tree = _Changer(mutant.number).visit(ast.parse(path.read_text("utf-8")))
    put_in(
        "umbra_awl.core." + mutant.module.removesuffix(".py").replace("/", "."), path, ast.fix_missing_locations(tree)
    )
    return _pytest(tests)


def _pytest(words: list[str]) -> int:
    import pytest

    quiet = ("-x", "-q", "-p", "no:cacheprovider", "-p", "no:xdist", "--no-header", "-W", "ignore")
    with contextlib.redirect_stdout(io.StringIO()):
        return int(pytest.main([*quiet, *words]))


def _thinned(found: list[Mutant], most: int) -> list[Mutant]:
    if len(found) <= most:
        return found
    return [found[at * len(found) // most] for at in range(most)]


def run(words: list[str]) -> None:
    """Run the groups named (all of them when none is) and print how many changes were noticed."""
    sys.path.insert(0, str(ROOT))
    os.chdir(ROOT)
    if "fresh" in words:
        measure()
    most = 10**9 if "all" in words else MOST
    _pytest(
        ["--collect-only", "tests/core", "tests/shell"]
    )  # loads the application and the tests, once for all children
    for name in [word for word in words if word in GROUPS] or list(GROUPS):
        found = _thinned([item for module in GROUPS[name] for item in mutants_of(module)], most)
        _tell(name, found, *_timed(lambda found=found: _survivors(found)))


def _timed(work):
    start = time.monotonic()
    return work(), time.monotonic() - start


def _tell(name: str, found: list[Mutant], survived: list[Mutant], took_s: float) -> None:
    share = 1 - len(survived) / len(found)
    mark = "" if share >= BAR else "   BELOW THE BAR"
    print(f"{name:<10} {len(found) - len(survived):>4} of {len(found):>4} noticed, {share:.0%}, {took_s:.0f} s{mark}")
    for item in survived:
        print(f"    {item.module}:{item.line} #{item.number}  {item.words[:110]}")
    sys.stdout.flush()
