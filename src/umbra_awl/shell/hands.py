"""The shell verb that makes one plan of two."""

from pathlib import Path

import click

from umbra_awl.core.plan.disk.store import read_plan
from umbra_awl.shell.verbs import CLEAN, STOPS, CannotRunError, clock, guarded, put, replace_option, tell


@click.command()
@click.argument("plans", nargs=-1, required=True, type=click.Path(path_type=Path), metavar="[BASE] MINE THEIRS")
@click.option(
    "--out", type=click.Path(path_type=Path, dir_okay=False), help="Where the merged plan goes; else only told."
)
@click.option("--take", type=click.Choice(["mine", "theirs"]), help="Answer every question so.")
@replace_option
@click.option("--json", "as_json", is_flag=True, help="Print JSON.")
@guarded
def merge(plans: tuple[Path, ...], out: Path | None, take: str | None, replace: bool, as_json: bool) -> int:
    """Make one plan of two, against their common ancestor BASE; without one, where it is not told.

    Exit code 1: questions are left, and nothing was written.
    """
    from umbra_awl.core.hands.merge import merge as merged_of
    from umbra_awl.core.hands.words import Wordings
    from umbra_awl.core.plan.disk.file_form import plan_bytes
    from umbra_awl.core.plan.disk.store import replace_plan

    if len(plans) not in {2, 3}:
        raise CannotRunError("Give two plans, or their common ancestor and two plans: BASE MINE THEIRS.")
    mine, theirs = (read_plan(path) for path in plans[-2:])
    base = read_plan(plans[0]) if len(plans) == 3 else None
    found = merged_of(base, mine, theirs)
    if take is not None:
        found = merged_of(base, mine, theirs, dict.fromkeys((item.path for item in found.questions), take))  # type: ignore[arg-type]
    if found.faults:
        raise CannotRunError(f"These two cannot be one plan. {found.faults[0]} Nothing was written.")
    said = Wordings(mine, theirs, base)
    asked = [said.question(item) for item in found.open_questions]
    lines = [said.taken(item) for item in found.taken]
    lines += [line] if (line := said.kept(found.kept).strip()) else []
    lines += [f"Asked: {thing}, {field}: mine {one}; theirs {other}" for thing, field, one, other in asked]
    written = out is not None and not asked
    if out is not None and written:
        if replace:
            replace_plan(out, found.plan, clock().local())  # what it replaces goes among its dated saves
        else:
            put({out: plan_bytes(found.plan)}, replace=False)
        lines.append(f"written: {out}")
    elif asked:
        lines.append(
            "Nothing was written. Answer with --take mine or --take theirs, or merge in the window, one by one."
        )
    value = {
        "taken": [said.taken(item) for item in found.taken],
        "questions": [dict(zip(("thing", "field", "mine", "theirs"), item, strict=True)) for item in asked],
        "written": str(out) if written else None,
    }
    tell(as_json, value, lines or ["The two are the same."])
    return STOPS if asked else CLEAN
