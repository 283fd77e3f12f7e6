"""The table of the plan's parts: every collection is in it, and whatever goes by it treats each one."""

import typing

import msgspec
import pytest
from msgspec.structs import replace

from tests.core.dying import kill
from tests.days import LOCAL
from umbra_awl.core.plan import model
from umbra_awl.core.plan.check import CHECKS, structure_faults
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.disk.patch import apply, difference
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import Edit, add_item, drop_item, set_fields
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import DESTINATIONS, NETWORKS, PARTS, TYPES, WHOLE
from umbra_awl.core.plan.privacy import RULES


@pytest.fixture
def full(plan):
    """The demo with something in every part."""
    aside = model.Silence("names-meet", "route", plan.routes[0].key, "", "seen")
    return replace(plan, silenced=(aside,))


def test_every_collection_of_a_plan_is_a_part_and_no_other_is():
    tuples = {field.name for field in msgspec.structs.fields(Plan) if typing.get_origin(field.type) is tuple}
    assert set(PARTS) == tuples
    assert {"format", "version", *WHOLE, *PARTS} == set(Plan.__struct_fields__)
    for name, part in PARTS.items():
        assert typing.get_args(TYPES[name])[0] is part.kind


def test_the_demo_has_something_in_every_part(full):
    assert [name for name, part in PARTS.items() if not part.of(full)] == []


@pytest.mark.parametrize("name", PARTS)
def test_a_part_is_saved_journalled_checked_shared_and_named(full, name, tmp_path):
    part = PARTS[name]
    items = part.of(full)
    assert part.of(parse_plan(plan_bytes(full))) == items
    alone = part.put(Plan(), items)
    assert list(difference(Plan(), alone).spans) == [name]
    assert part.of(apply(Plan(), difference(Plan(), alone))) == items
    assert part.kind in RULES
    assert part.word
    if part.keyed:
        doubled = part.put(full, (*items, items[0]))
        assert any(f"kind “{part.word}”" in fault for fault in structure_faults(doubled))
        assert any(check.parts == (name,) for check in CHECKS)


@pytest.mark.parametrize("name", PARTS)
def test_what_an_edit_changes_in_a_part_survives_a_kill(full, name, tmp_path):
    part, path = PARTS[name], tmp_path / "p.awl.json"
    items = part.of(full)
    changed = part.put(full, items[::-1] if len(items) > 1 else ())
    assert part.of(changed) != items
    path.write_bytes(plan_bytes(full))
    document = Document.open(path, LOCAL)
    document.edit(Edit("Change a part", lambda _plan: replace(changed, name="Other")))
    kill(document)
    again = Document.open(path, LOCAL)
    assert (part.of(again.plan), again.plan.name, again.recovered) == (part.of(changed), "Other", 1)
    again.close()


@pytest.mark.parametrize("name", WHOLE)
def test_what_is_one_value_is_saved_and_journalled_too(full, name):
    value = getattr(full, name) if getattr(full, name) != getattr(Plan(), name) else None
    changed = Plan() if value is None else replace(Plan(), **{name: value})
    assert getattr(parse_plan(plan_bytes(changed)), name) == getattr(changed, name)
    assert list(difference(Plan(), changed).whole) == ([] if value is None else [name])


def test_a_field_that_such_an_item_has_not_is_refused_at_once():
    with pytest.raises(TypeError, match="A network has no colour"):
        set_fields(NETWORKS, "lattice", "x", colour="blue")


def test_items_are_added_once_and_dropped(plan):
    item = model.Destination("new", "New", "group", "lattice", 7)
    added = add_item(DESTINATIONS, item, "x").apply(plan)
    assert DESTINATIONS.of(added)[-1] is item
    with pytest.raises(ValueError, match="already one with the key “new”"):
        add_item(DESTINATIONS, item, "x").apply(added)
    assert drop_item(DESTINATIONS, "new", "x").apply(added) == plan
