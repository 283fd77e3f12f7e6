"""What can be set for a zone (on which radios, on which half of the display) or a scan list (priority, waiting)."""

from collections.abc import Iterator
from functools import partial

from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.core.plan.model import OwnedRadio, RouteList, ScanList, Zone
from umbra_awl.core.routes.lists import members_of_all, set_half, set_radio_zones, set_scan
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices


def list_fields(bench: Workbench, item: RouteList) -> list[Field]:
    """The fields of a list."""
    if isinstance(item, Zone):
        return _zone_fields(bench, item)
    return _scan_fields(bench, item) if isinstance(item, ScanList) else []


def _zone_fields(bench: Workbench, zone: Zone) -> list[Field]:
    choices = []
    on: list[str] = []
    for radio in bench.plan.radios:
        there = radio.zones is None or zone.key in radio.zones
        on += [radio.name] if there else []
        edit = set_radio_zones(bench.index, radio, zone, on=not there)
        choices.append(Choice(radio.name, partial(bench.do, edit), there))
    shown = "every radio" if len(on) == len(bench.plan.radios) else ", ".join(on) or "no radio"
    halves = [radio for radio in bench.plan.radios if _halves(bench, radio) > 1]
    fields = [Field("On", shown, choices=choices, tip="Choose a radio to put the zone on it, or leave it off")]
    return [*fields, _half_field(bench, zone, halves)] if halves else fields


def _halves(bench: Workbench, radio: OwnedRadio) -> int:
    profile = bench.profiles.get(radio.profile)
    return profile.extras.halves if profile is not None else 1


def _half_field(bench: Workbench, zone: Zone, radios: list[OwnedRadio]) -> Field:
    choices, shown = [], []
    for radio in radios:
        for half in range(2):
            here = len(radio.halves) > half and radio.halves[half] == zone.key
            edit = set_half(radio, half, None if here else zone)
            words = f"{radio.name}, half {'AB'[half]}"
            shown += [f"{'AB'[half]} of {radio.name}"] if here else []
            choices.append(Choice(words, partial(bench.do, edit), here))
    return Field("Half", ", ".join(shown) or "none", choices=choices, tip="What a half of the display begins with")


def _scan_fields(bench: Workbench, scan: ScanList) -> list[Field]:
    index = bench.index
    members = members_of_all(index, (scan,))[scan.key]

    def choices() -> Iterator[Choice]:
        yield Choice("none", partial(bench.do, set_scan(scan, priority="")), not scan.priority)
        for key in members:
            yield Choice(
                index.labels.of(index.routes[key]),
                partial(bench.do, set_scan(scan, priority=key)),
                key == scan.priority,
            )

    route = index.routes.get(scan.priority)

    def hang(text: str) -> str:
        try:
            seconds = float(text.replace(",", ".").removesuffix("s").strip())
            bench.do(set_scan(scan, hang_s=seconds))
        except EditRefused as error:
            return str(error)
        except ValueError:
            return f"“{text}” is not a time. Type seconds, for example 3."
        return ""

    return [
        Field("Priority", index.labels.of(route) if route is not None else "none", choices=LateChoices(choices)),
        Field("Waits", f"{scan.hang_s:g} s after a call", commit=hang, text=f"{scan.hang_s:g}"),
    ]
