"""A fresh copy of the demo: Wren's plan, and two radios that hold what an earlier, better informed hand wrote."""

from collections.abc import Mapping
from datetime import date
from importlib.resources import files
from pathlib import Path
from types import MappingProxyType
from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.directory.importing import read_incoming, take
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.store import Store
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.plan.disk.file_form import parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edit_access import swap_offset
from umbra_awl.core.plan.index import NO_DAY, PlanIndex
from umbra_awl.core.plan.model import Net, OwnedRadio, Plan
from umbra_awl.core.radio.memory import AccessEntry, CallSign
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_file import shipped_profiles
from umbra_awl.core.tables.table import open_table
from umbra_awl.core.transfer.app.form import AppList, AppSettings, app_bytes
from umbra_awl.core.transfer.image import merge
from umbra_awl.demo.told_of import TOLD_OF, as_of, shipped
from umbra_awl.standins.launch import CardRadioProcess, PhoneProcess, RadioProcess
from umbra_awl.standins.radio.device import factory_image

PLAN_NAME = "velmar.awl.json"


DIRECTORY_FILES = ("velmar-directory.csv", "velmar-directory-newer.csv", "ferry-to-nessa.gpx")
_NEWEST = 2
_IMPORTED_AT = "2026-11-20T18:00:00"


class DemoFiles(NamedTuple):
    """Where the demo's files are: the plan, for each radio key its profile, memory file and port, and the directory's store.

    `cards` has for each radio with a card slot its profile, its memory file and the folder of its slot and the reader.
    """

    plan: Path
    radios: dict[str, tuple[str, Path, Path]]
    directory: Path
    cards: Mapping[str, tuple[str, Path, Path]] = MappingProxyType({})


def demo_plan(day: date) -> Plan:
    """Wren's plan, as it stands on a day."""
    plan = parse_plan(shipped(PLAN_NAME, day))
    turned = (day - TOLD_OF).days % 7
    return replace(plan, nets=tuple(replace(net, days=_turned(net, turned)) for net in plan.nets)) if turned else plan


def _turned(net: Net, by: int) -> tuple[int, ...]:
    """The weekdays of a weekly net, so many days on: it is as near to the demo's day as the story has it."""
    return tuple(sorted((at + by) % 7 for at in net.days)) if net.every == "week" else net.days


def hand_programmed(plan: Plan) -> Plan:
    """The plan that the radios were programmed from by hand: with Cairnlow's right offset sign."""
    access, service = PlanIndex(plan, NO_DAY).services["cairnlow-dmr"]
    return swap_offset(access, service).apply(plan)


def lay_out(folder: Path, day: date) -> DemoFiles:
    """Write a fresh demo into a folder: the plan and the memories of its radios. Raises OSError."""
    folder.mkdir(parents=True, exist_ok=True)
    plan = demo_plan(day)
    write_over(folder / PLAN_NAME, plan_bytes(plan))
    index = PlanIndex(hand_programmed(plan), day)
    radios: dict[str, tuple[str, Path, Path]] = {}
    cards: dict[str, tuple[str, Path, Path]] = {}
    for radio in plan.radios:
        profile, memory = shipped_profiles()[radio.profile], folder / f"{radio.key}.radio"
        if not (profile.by_cable or profile.by_card):
            continue
        write_over(memory, _image(index if profile.by_cable else _earlier(index, profile), radio))
        if profile.by_cable:
            radios[radio.key] = (radio.profile, memory, folder / f"{radio.key}.port")
        else:
            cards[radio.key] = (radio.profile, memory, folder / f"{radio.key}.cards")
    return DemoFiles(folder / PLAN_NAME, radios, lay_out_directory(folder, day), cards)


def _earlier(index: PlanIndex, profile: Profile) -> PlanIndex:
    """The plan as a card was last written of it: before its newest routes of the radio's own mode were punched."""
    own = [
        route.key
        for route in index.plan.routes
        if index.services[route.service][1].mode == profile.modes[-1] and not route.receive_only
    ][-_NEWEST:]
    plan = index.plan
    routes = tuple(route for route in plan.routes if route.key not in own)
    zones, scans = (
        tuple(replace(item, members=tuple(key for key in item.members if key not in own)) for item in lists)
        for lists in (plan.zones, plan.scans)
    )
    return PlanIndex(replace(plan, routes=routes, zones=zones, scans=scans), index.today)


def _image(index: PlanIndex, radio: OwnedRadio) -> bytes:
    profile = shipped_profiles()[radio.profile]
    return merge(factory_image(profile), fit(index, radio, profile).memory, profile)


def start_radios(demo: DemoFiles, speed: float = 1.0) -> list[RadioProcess]:
    """Start the demo's simulated radios. Raises StandInError."""
    return [RadioProcess(profile, memory, port, speed=speed) for profile, memory, port in demo.radios.values()]


def start_card_radios(demo: DemoFiles) -> dict[str, CardRadioProcess]:
    """Start the demo's simulated radios with card slots, by their keys. Raises StandInError."""
    return {
        key: CardRadioProcess(profile, memory, place, unit=key) for key, (profile, memory, place) in demo.cards.items()
    }


def start_phone(demo: DemoFiles) -> PhoneProcess:
    """Start the phone beside the Fell D2, whose app holds two entries of its owner's own. Raises StandInError, OSError."""
    own = (
        AccessEntry(1, "Ferry Quay B", "Q0FRY  B", "Q0FRY  G", 438_325_000, 430_725_000),
        AccessEntry(2, "Signal Down", "Q0SIG  B", "Q0SIG  G", 438_450_000, 430_850_000),
    )
    made = AppList("fell-d2", own, (CallSign(1, "Corin", "Q2COR"),), AppSettings("Q4WRN", message="Wren"))
    path = demo.plan.parent / "phone.app.json"
    write_over(path, app_bytes(made))
    return PhoneProcess("fell-d2", path)


def lay_out_directory(folder: Path, day: date) -> Path:
    """Write the demo's directory files and a store that holds the older one; the store's path. Raises OSError."""
    home = files("umbra_awl.demo")
    for name in DIRECTORY_FILES:
        write_over(folder / name, shipped(name, day))
    place = folder / "directory"
    place.mkdir(exist_ok=True)
    write_over(place / "coast.geojson", home.joinpath("velmar-coast.geojson").read_bytes())
    path = place / "directory.sqlite"
    if path.exists():
        return path
    store = Store(path)
    table = open_table(folder / DIRECTORY_FILES[0])
    layout = replace(guess(table, "access"), source="velmar-directory")
    take(store, read_incoming(store, table, layout), as_of(_IMPORTED_AT, day))
    store.close()
    return path
