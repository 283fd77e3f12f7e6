"""`python -m umbra_awl.conformance PACKAGE`: try every driver of an installed package as the program will; 1 where one fails."""

import sys

import click

from umbra_awl.core.drivers.conformance import conformance
from umbra_awl.core.drivers.registry import DRIVERS
from umbra_awl.core.transfer.errors import DriverError


def main(package: str) -> int:
    """Print each check with how it ended. The drivers are loaded, which is what their author asks for here."""
    found = [item for item in DRIVERS.installed() if item.package == package]
    if not found:
        click.echo(f"No driver of a package “{package}” is installed here.")
        return 2
    DRIVERS.switch_on(frozenset(item.key for item in found))
    failed = 0
    for driver in found:
        click.echo(driver.words)
        try:
            loaded = DRIVERS.load(driver.group, driver.name)
        except DriverError as error:
            click.echo(f"  FAILS  it loads: {error}")
            failed += 1
            continue
        for result in conformance(driver.group, loaded):
            click.echo(
                f"  {'FAILS' if result.fault else 'holds'}  {result.words}{': ' if result.fault else ''}{result.fault}"
            )
            failed += bool(result.fault)
    click.echo("All of it holds." if not failed else f"{failed} do not hold.")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1] if len(sys.argv) > 1 else ""))
