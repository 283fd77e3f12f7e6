"""What the find-or-do box offers: every command, and every object of the plan by name."""

from collections.abc import Iterator
from functools import partial

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.findings.model import Target
from umbra_awl.desk.commands import CommandTable
from umbra_awl.desk.frame.finding_words import Offer
from umbra_awl.desk.selection import Selection
from umbra_awl.desk.workbench import Workbench


def offers(bench: Workbench, commands: CommandTable) -> Iterator[Offer]:
    """Commands first, then services, destinations, zones, radios and repairs."""
    for command in commands.offered():
        yield Offer(command.words, command.keys.replace("+", " ") or command.hint, partial(commands.run, command.name))
    for finding in bench.results.findings:
        if finding.repair is not None:
            yield Offer(f"Repair: {finding.repair.label}", finding.rule.title, partial(bench.repair, finding))
    for access, service in bench.index.all_services():
        hint = f"{access.site} {service.mode.upper()} {format_mhz(service.rx_hz)}"
        yield Offer(access.by_call, hint, partial(_go, bench, Selection(service=service.key)))
    for destination in bench.plan.destinations:
        number = str(destination.number or destination.text or destination.kind)
        yield Offer(destination.name, number, partial(_go, bench, Selection(destination=destination.key)))
    for zone in bench.plan.zones:
        yield Offer(f"Zone {zone.name}", "", partial(bench.show, Target("zone", zone.key)))
    for scan in bench.plan.scans:
        yield Offer(f"Scan list {scan.name}", "", partial(bench.show, Target("scan", scan.key)))
    for radio in bench.plan.radios:
        yield Offer(f"Radio {radio.name}", "", partial(_go_radio, bench, radio.key))


def _go(bench: Workbench, selection: Selection) -> None:
    bench.stage_wanted.emit("routes")
    bench.select(selection)


def _go_radio(bench: Workbench, key: str) -> None:
    bench.choose_radio(key)
    bench.stage_wanted.emit("radios")
