"""The licence of one person, and the receive-only guard."""

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QInputDialog

from umbra_awl.core.directory.lists.values import parse_day
from umbra_awl.core.facts.bands import Region
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.licence_classes import LicenceClass, classes_of
from umbra_awl.core.plan.edit.edit_station import (
    licence_of,
    set_granted,
    set_guard,
    set_licence,
    set_region,
    whose_licence,
)
from umbra_awl.core.plan.model import Licence
from umbra_awl.core.plan.permit import guard_permit, in_force
from umbra_awl.core.radio.free_tuning import prohibited_by, still_sends
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.asking import ask
from umbra_awl.desk.parts.cards.fields import Choice, Field

_REACHES = {
    "2 m and 70 cm": ("2 m", "70 cm"),
    "2 m only": ("2 m",),
    "70 cm only": ("70 cm",),
    "all amateur bands": (),
}


def licence_fields(bench: Workbench, who: str = "") -> list[Field]:
    """Region, class, its bands and power, granted or not and since when, and the guard."""
    licence = licence_of(bench.plan, who)
    allowed = next((text for text, names in _REACHES.items() if names == licence.bands), " and ".join(licence.bands))
    granted = [
        Choice("yes, I hold it", partial(bench.do, set_granted(True, who)), licence.granted),
        Choice("not yet", partial(bench.do, set_granted(False, who)), not licence.granted),
    ]
    reach = [
        Choice(text, partial(bench.do, set_licence(f"Let the licence reach {text}", who, bands=names)), text == allowed)
        for text, names in _REACHES.items()
    ]
    watts = f"up to {licence.max_watts:g} W" if licence.max_watts else "no limit given"
    return [
        _region_field(bench)._replace(half=True),
        _class_field(bench, licence, who)._replace(half=True),
        _granted_field(in_force(licence, bench.clock.today()).granted, licence, granted)._replace(half=True),
        Field("Since", licence.granted_on or "no date", commit=_since(bench, who), text=licence.granted_on, half=True),
        Field("Bands", allowed, choices=reach, half=True),
        Field(
            "Power",
            watts,
            commit=_watts(bench, who),
            text=f"{licence.max_watts:g}",
            tip="Watts; radios are set to a step within it",
            half=True,
        ),
        _guard_field(bench, licence, who),
    ]


def _class_field(bench: Workbench, licence: Licence, who: str) -> Field:
    """The class, from those known in the region or by a name of its own; a known one fills in its bands and power."""
    known = classes_of(bench.plan.station.region)
    choices = [
        Choice(_class_words(item), partial(_take_class, bench, who, item), item.name == licence.step) for item in known
    ]
    other = bool(licence.step) and all(item.name != licence.step for item in known)
    choices.append(Choice("another name …", partial(_ask_class, bench, who, licence.step), other))
    return Field(
        "Class", licence.step or "not named", choices=choices, tip="A known class fills in its bands and power"
    )


def _class_words(item: LicenceClass) -> str:
    reach = " and ".join(item.bands) or "all amateur bands"
    return f"{item.name}: {reach}" + (f", {item.max_watts:g} W" if item.max_watts else "")


def _take_class(bench: Workbench, who: str, item: LicenceClass) -> None:
    """Fill in what a class allows; each value can be changed afterwards."""
    fields = {"step": item.name, "bands": item.bands, "max_watts": item.max_watts}
    if bench.do(set_licence(f"Take the class {item.name}", who, **fields)):
        bench.say(f"{_class_words(item)}. From: {item.source}. Your own licence decides: change what differs.")


def _ask_class(bench: Workbench, who: str, now: str) -> None:
    """Ask for the name of another class; its bands and power are typed by hand."""
    name, given = QInputDialog.getText(None, "Class of the licence", "Its name:", text=now)
    if given and name.strip():
        bench.do(set_licence("Name the class", who, step=name.strip()))


def _granted_field(counts: bool, licence: Licence, choices: list[Choice]) -> Field:
    """Granted or not; one that is granted on a day to come does not count before that day."""
    words = "yes" if counts else f"from {licence.granted_on} on" if licence.granted else "not yet"
    return Field("Granted", words, tone="" if counts else "stop", choices=choices)


def _region_field(bench: Workbench) -> Field:
    regions: tuple[Region, ...] = (1, 2, 3)
    now = bench.plan.station.region
    edges = ", ".join(f"{band.name} {format_mhz(band.low_hz)}–{format_mhz(band.high_hz)}" for band in bench.index.bands)
    choices = [Choice(f"IARU region {item}", partial(bench.do, set_region(item)), item == now) for item in regions]
    return Field("Region", f"IARU region {now}", choices=choices, tip=edges)


def _guard_field(bench: Workbench, licence: Licence, who: str) -> Field:
    on = licence.guard or not in_force(licence, bench.clock.today()).granted
    return Field(
        "Guard",
        "on: receive-only" if on else "lifted",
        tone="" if on else "ok",
        choices=[
            Choice("on: everything is receive-only", partial(bench.do, set_guard(True, who)), on),
            Choice("lift it: transmit where the licence allows", partial(lift_guard, bench, who), not on),
        ],
        tip="Lifting lets radios transmit inside your bands and power, nowhere else",
    )


LIFT = "Lift it"


def lift_guard(bench: Workbench, who: str) -> None:
    """Lift the receive-only guard, after saying what it means."""
    licence = licence_of(bench.plan, who)
    if not in_force(licence, bench.clock.today()).granted:
        day = f" It counts from {licence.granted_on}." if licence.granted and licence.granted_on else ""
        bench.say(
            f"The guard stays on until the licence is granted.{day} Mark it as granted first, with its day.", "stop"
        )
        return
    where = " and ".join(licence.bands) or "all amateur bands"
    power = f", up to {licence.max_watts:g} W" if licence.max_watts else ""
    radios = [item.name for item in bench.plan.radios if whose_licence(bench.plan, item.identity) == who]
    question = (
        f"From now on channels inside {where}{power} are fitted so that they transmit: on {', '.join(radios) or 'every radio'}. "
        "A radio changes when it is written. Your licence and local band plans decide, not this program."
    )
    if ask(None, "Lift the receive-only guard", question, [LIFT]) == LIFT:
        bench.do_told(set_guard(False, who))


def free_tuning_words(bench: Workbench, who: str) -> str:
    """What of the radios under this licence is outside the guard: their free tuning, and what prohibits it on each."""
    if guard_permit(in_force(licence_of(bench.plan, who), bench.clock.today())).allowed:
        return ""
    lines = [
        f"{radio.name}: {prohibited_by(profile)}"
        for radio in bench.plan.radios
        if whose_licence(bench.plan, radio.identity) == who
        and (profile := bench.profiles.get(radio.profile)) is not None
        and still_sends(profile)
    ]
    if not lines:
        return ""
    return "\n".join(
        ["The guard holds memories. Free tuning is outside them and sends until it is prohibited by itself:", *lines]
    )


def _since(bench: Workbench, who: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            day = parse_day(text)
        except ValueError as error:
            return str(error)
        bench.do(set_licence(f"The licence counts from {day or 'an unknown day'}", who, granted_on=day))
        return ""

    return commit


def _watts(bench: Workbench, who: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            watts = float(text.upper().removesuffix("W").strip().replace(",", ".") or 0)
        except ValueError:
            return f"“{text}” is not a power. Type watts, for example 10."
        if not 0 <= watts <= 10_000:
            return "A power lies between 0 and 10,000 W; 0 means that no limit is given."
        bench.do(
            set_licence(f"Limit the power to {watts:g} W" if watts else "Give no power limit", who, max_watts=watts)
        )
        return ""

    return commit
