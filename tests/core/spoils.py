"""Ways to spoil the demo's plan, one value or several: each gives a function from plan to plan."""

from msgspec.structs import replace

from tests.days import TODAY
from umbra_awl.core.plan.edit.edit_access import set_air, set_service
from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Route
from umbra_awl.core.plan.parts import PARTS
from umbra_awl.core.routes.punch import set_route


def route(key, **fields):
    return lambda plan: set_route(PlanIndex(plan, TODAY), key, "x", **fields).apply(plan)


def air(key, **fields):
    return lambda plan: set_air(key, "x", **fields).apply(plan)


def service(key, **fields):
    return lambda plan: set_service(key, "x", **fields).apply(plan)


def thing(part, key, **fields):
    return lambda plan: set_fields(PARTS[part], key, "x", **fields).apply(plan)


def network(**fields):
    return thing("networks", "lattice", **fields)


def punched(*keys):
    """The plan with further holes."""
    return lambda plan: replace(plan, routes=(*plan.routes, *(Route(*key) for key in keys)))


def without(*keys):
    return lambda plan: replace(plan, routes=tuple(item for item in plan.routes if item.key not in keys))


def both(*edits):
    def make(plan):
        for edit in edits:
            plan = edit(plan)
        return plan

    return make


def edit(made):
    """An edit as such a function."""
    return made.apply
