import json

import jsonschema
import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.examples import examples
from tests.strategies import plans
from umbra_awl.core.plan.disk.file_form import PlanFormError, parse_plan, plan_bytes, schema
from umbra_awl.core.plan.disk.patch import apply, difference
from umbra_awl.core.plan.model import Plan, Route


@given(plans())
def test_writing_and_reading_is_identity(plan):
    assert parse_plan(plan_bytes(plan)) == plan


@examples(30)
@given(plans())
def test_equal_plans_give_equal_bytes(plan):
    assert plan_bytes(parse_plan(plan_bytes(plan))) == plan_bytes(plan)


def test_the_file_follows_the_published_schema(plan):
    jsonschema.Draft202012Validator(schema()).validate(json.loads(plan_bytes(plan)))


def test_one_thing_a_line(plan):
    lines = plan_bytes(plan).decode().splitlines()
    assert sum('"service":"blackfell-dmr","destination"' in line for line in lines) == 7


def test_a_newer_plan_is_refused_and_says_so(plan):
    newer = plan_bytes(plan).replace(b'"version": 1', b'"version": 2')
    with pytest.raises(PlanFormError, match="newer Umbra Awl"):
        parse_plan(newer)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "not readable JSON"),
        (b"\x00\xff\xfe", "not readable JSON"),
        (b'{"format": "umbra-awl plan", "version": 1, "name": ', "not readable JSON"),
        (b'{"some": "thing"}', "not a plan of Umbra Awl"),
        (b"[1, 2]", "not readable JSON"),
        (b'{"format": "umbra-awl plan", "version": 1, "routes": [{"service": 4}]}', "does not belong there"),
        (b'{"format": "umbra-awl plan", "version": 1, "surprise": 1}', "does not belong there"),
        (b'{"format": "umbra-awl plan", "version": 0}', "never existed"),
    ],
)
def test_damaged_and_foreign_files_are_told_apart(data, words):
    with pytest.raises(PlanFormError, match=words):
        parse_plan(data)


def test_a_broken_structure_is_refused(plan):
    broken = msgspec.structs.replace(plan, routes=(*plan.routes, Route("nowhere", "local")))
    with pytest.raises(PlanFormError, match=r"service 'nowhere', which is not in the plan"):
        parse_plan(plan_bytes(broken))


def test_doubled_keys_are_refused(plan):
    broken = msgspec.structs.replace(plan, destinations=(*plan.destinations, plan.destinations[0]))
    with pytest.raises(PlanFormError, match="Two entries"):
        parse_plan(plan_bytes(broken))


@given(st.binary(max_size=200))
def test_any_bytes_parse_or_are_refused(data):
    try:
        parse_plan(data)
    except PlanFormError as error:
        assert str(error)


@given(plans(), st.data())
def test_a_flipped_byte_parses_or_is_refused(plan, data):
    spoiled = bytearray(plan_bytes(plan))
    at = data.draw(st.integers(0, len(spoiled) - 1))
    spoiled[at] ^= data.draw(st.integers(1, 255))
    try:
        again = parse_plan(bytes(spoiled))
    except PlanFormError:
        return
    assert isinstance(again, Plan)


@examples(30)
@given(plans(), plans())
def test_a_patch_leads_from_any_plan_to_any_other(one, other):
    other = msgspec.structs.replace(other, format=one.format, version=one.version)
    assert apply(one, difference(one, other)) == other


def test_the_patch_of_one_route_is_small(plan):
    more = msgspec.structs.replace(plan, routes=(*plan.routes, Route("calling-fm", "local", 1)))
    patch = difference(plan, more)
    assert set(patch.spans) == {"routes"}
    assert (patch.spans["routes"].gone, bytes(patch.spans["routes"].new).count(b"service")) == (0, 1)
    assert not patch.whole


def test_the_published_schemas_are_current():
    from pathlib import Path

    from umbra_awl.core.radio.memory import memory_schema
    from umbra_awl.core.radio.profile_file import profile_schema

    folder = Path(__file__).parents[2] / "docs" / "schemas"
    for name, content in (("plan", schema()), ("memory", memory_schema()), ("profile", profile_schema())):
        assert json.loads((folder / f"{name}.schema.json").read_text("utf-8")) == json.loads(json.dumps(content)), (
            "run scripts/schemas.py"
        )
