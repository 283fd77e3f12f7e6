"""The `umbra-awl` command: verbs that work without a window, and the window itself.

Each verb imports what it needs where it needs it, so that a quick one is quick.
"""

import os
import sys
from contextlib import suppress
from importlib import import_module
from pathlib import Path
from typing import NoReturn

import click

_VERBS: dict[str, tuple[str, str]] = {
    verb: (module, name)
    for module, names in {
        "verbs": "check fit trace",
        "papers": "compare card keys files bring",
        "hands": "merge",
        "directory": "import:import_file export:export_file",
        "standins": "standin",
        "planning": "next:next_step nets frequency evening changed",
        "going": "kit listening ready",
        "records": "explain settings people share pack log",
    }.items()
    for verb, _colon, name in ((one.partition(":")[0], "", one.partition(":")[2] or one) for one in names.split())
}
"""Verb to its module and name there: only the one that is asked for is imported."""


class _OrPlan(click.Group):
    """A group whose first word may be a plan file in place of a verb."""

    def parse_args(self, ctx: click.Context, args: list[str]) -> list[str]:
        if not args:
            args = ["open"]
        elif args[0] not in self.list_commands(ctx) and not args[0].startswith("-"):
            args = ["open", *args]
        return super().parse_args(ctx, args)

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted({*super().list_commands(ctx), *_VERBS})

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in _VERBS:
            return super().get_command(ctx, cmd_name)
        module, name = _VERBS[cmd_name]
        verb: click.Command = getattr(import_module(f"umbra_awl.shell.{module}"), name)
        return verb


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
        from umbra_awl.shell.verbs import CANNOT

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
    if (logging := sys.modules.get("logging")) is not None:
        logging.shutdown()
    for stream in (sys.stdout, sys.stderr):
        with suppress(OSError, ValueError):
            stream.flush()
    os._exit(code)
