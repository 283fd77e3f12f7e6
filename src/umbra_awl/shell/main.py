"""The `umbra-awl` command: verbs that work without a window, and the window itself.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

import logging
import os
import sys
from contextlib import suppress
from pathlib import Path
from typing import NoReturn

import click

from umbra_awl.shell.directory import export_file, import_file
from umbra_awl.shell.going import kit, listening, ready
from umbra_awl.shell.hands import merge
from umbra_awl.shell.papers import bring, card, compare, files, keys
from umbra_awl.shell.planning import changed, evening, frequency, nets, next_step
from umbra_awl.shell.records import explain, log, pack, people, settings, share
from umbra_awl.shell.standins import standin
from umbra_awl.shell.verbs import CANNOT, check, fit, trace


class _OrPlan(click.Group):
    """A group whose first word may be a plan file in place of a verb."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        if not args:
            args = ["open"]
        elif args[0] not in self.commands and not args[0].startswith("-"):
            args = ["open", *args]
        return super().parse_args(ctx, args)


@click.group(cls=_OrPlan, context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(package_name="umbra-awl")
def main() -> None:
    """One plan of access points and destinations, fitted to every radio you own.

    `umbra-awl [PLAN]` opens the window; `umbra-awl demo` opens it on a fresh copy of the demo.
    """


def _require_display() -> None:
    """End with a sentence where no window can be opened; the window toolkit would end the program without one."""
    from umbra_awl.desk.display import display_fault

    fault = display_fault()
    if fault:
        click.echo(f"umbra-awl: {fault}", err=True)
        raise SystemExit(CANNOT)


@main.command()
@click.argument("shell", type=click.Choice(["bash", "zsh", "fish"]))
def completion(shell: str) -> None:
    """Print what a shell needs to complete verbs and options."""
    from click.shell_completion import get_completion_class

    found = get_completion_class(shell)
    if found is not None:
        click.echo(found(main, {}, "umbra-awl", "_UMBRA_AWL_COMPLETE").source())


@main.command("open", hidden=True)
@click.argument("plan", required=False, type=click.Path(path_type=Path))
def open_window(plan: Path | None) -> None:
    """Open the window, on a plan when one is given."""
    _require_display()
    from umbra_awl.desk.app import run_window

    _leave(run_window(plan))


@main.command()
@click.option(
    "--folder", type=click.Path(path_type=Path, file_okay=False), help="Where the demo's files go (default: a new one)."
)
@click.option(
    "--picture", type=click.Path(path_type=Path, dir_okay=False), help="Save a picture of the window and close it."
)
def demo(folder: Path | None, picture: Path | None) -> None:
    """Open the window on a fresh copy of the demo, with its simulated radios, cards and phone running."""
    _require_display()
    from umbra_awl.desk.app import run_demo

    _leave(run_demo(folder, picture))


def _leave(code: int) -> NoReturn:
    """End now that everything is closed and written.

    At the interpreter's own end the window toolkit's binding walks over what it wrapped, and now and then over what is gone
    already: the program had ended well and still died of a segmentation fault (PyQt6 6.x, `cleanup_on_exit`).
    """
    logging.shutdown()
    for stream in (sys.stdout, sys.stderr):
        with suppress(OSError, ValueError):
            stream.flush()
    os._exit(code)


_VERBS = (
    check, fit, compare, trace, card, keys, files, bring, merge, import_file, export_file, standin, next_step, nets, frequency,
    evening, changed, kit, listening, ready, explain, settings, people, share, pack, log,
)  # fmt: skip
for verb in _VERBS:
    main.add_command(verb)
