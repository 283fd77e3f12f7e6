"""Any order of editing, undoing, saving, killing and reopening: the document is always what a simple list says it is."""

import shutil
import tempfile
from datetime import datetime, timedelta
from pathlib import Path

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from tests.core.dying import kill
from tests.days import LOCAL, TODAY
from umbra_awl.core.plan.check import structure_faults
from umbra_awl.core.plan.disk.file_form import plan_bytes
from umbra_awl.core.plan.disk.saves import list_saves
from umbra_awl.core.plan.disk.store import Document, read_plan
from umbra_awl.core.plan.edit.edit_access import remove_access, remove_destination, swap_offset
from umbra_awl.core.plan.edit.edits import EditRefused, rename_plan
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.routes.lists import make_zones
from umbra_awl.core.routes.punch import fill, punch, toggle
from umbra_awl.demo.fresh import demo_plan

RULES = st.sampled_from(["access", "place", "mode", "everything"])


class DocumentMachine(RuleBasedStateMachine):
    """The model is a list of plans with a place in it, and the plan last saved."""

    @initialize()
    def open(self):
        self.folder = Path(tempfile.mkdtemp())
        self.path = self.folder / "wren.awl.json"
        self.path.write_bytes(plan_bytes(demo_plan(TODAY)))
        self.document = Document.open(self.path, LOCAL)
        self.steps = [demo_plan(TODAY)]
        self.at = 0
        self.saved = demo_plan(TODAY)
        self.clock = datetime(2026, 11, 24)

    def edit(self, make):
        before = self.document.plan
        try:
            changed = self.document.edit(make())
        except EditRefused:
            assert self.document.plan is before
            return
        if changed:
            self.steps = [*self.steps[: self.at + 1], self.document.plan]
            self.at += 1

    @rule(name=st.text(max_size=8))
    def rename(self, name):
        self.edit(lambda: rename_plan(name))

    @rule(data=st.data())
    def toggle_a_crossing(self, data):
        index = PlanIndex(self.document.plan, TODAY)
        if index.services and index.destinations:
            service = data.draw(st.sampled_from(sorted(index.services)))
            destination = data.draw(st.sampled_from(sorted(index.destinations)))
            slot = data.draw(st.sampled_from([None, 1, 2]))
            self.edit(lambda: toggle(index, service, destination, slot))
            self.edit(lambda: punch(PlanIndex(self.document.plan, TODAY), service, destination, slot))

    @rule(data=st.data())
    def fill_a_hole(self, data):
        plan = self.document.plan
        if plan.routes:
            self.edit(lambda: fill(PlanIndex(plan, TODAY), [data.draw(st.sampled_from(plan.routes))]))

    @rule(data=st.data())
    def change_an_access_point(self, data):
        plan = self.document.plan
        if plan.access:
            access = data.draw(st.sampled_from(plan.access))
            which = data.draw(st.booleans())
            self.edit(lambda: remove_access(access) if which else swap_offset(access, access.services[0]))

    @rule(data=st.data())
    def remove_a_destination(self, data):
        plan = self.document.plan
        if plan.destinations:
            item = data.draw(st.sampled_from(plan.destinations))
            self.edit(lambda: remove_destination(item.key, item.name))

    @rule(by=RULES)
    def make_zones_by_rule(self, by):
        self.edit(lambda: make_zones(by))

    @rule()
    def undo(self):
        assert self.document.undo() is (self.at > 0)
        self.at = max(self.at - 1, 0)

    @rule()
    def redo(self):
        assert self.document.redo() is (self.at < len(self.steps) - 1)
        self.at = min(self.at + 1, len(self.steps) - 1)

    @rule()
    def save(self):
        self.clock += timedelta(minutes=1)
        self.document.save(self.clock)
        self.saved = self.document.plan
        assert read_plan(list_saves(self.path)[0].path) == self.saved

    @rule(politely=st.booleans())
    def close_and_reopen(self, politely):
        if politely:
            self.document.close()
        else:
            kill(self.document)
        self.document = Document.open(self.path, LOCAL)
        assert not self.document.notes
        self.steps, self.at = [self.steps[self.at]], 0

    @invariant()
    def the_document_is_what_the_list_says(self):
        plan = self.document.plan
        assert plan == self.steps[self.at]
        assert not structure_faults(plan)
        assert self.document.unsaved is (plan != self.saved)
        assert read_plan(self.path) == self.saved

    def teardown(self):
        self.document.close()
        shutil.rmtree(self.folder)


DocumentMachine.TestCase.settings = settings(max_examples=12, stateful_step_count=18, deadline=None)
TestDocument = DocumentMachine.TestCase
