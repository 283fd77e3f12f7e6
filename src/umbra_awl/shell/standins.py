"""The shell verbs that run simulated devices. Each imports what it needs where it needs it."""

from pathlib import Path
from typing import TYPE_CHECKING

import click

from umbra_awl.shell.verbs import CLEAN, CannotRunError, guarded

if TYPE_CHECKING:
    from umbra_awl.core.radio.profile import Profile


@click.group()
@click.option("--leash", is_flag=True, help="End when the standard input ends.")
def standin(leash: bool) -> None:
    """Run a simulated device."""
    if leash:
        from umbra_awl.standins.leash import end_with_input

        end_with_input()


def _profile(key: str) -> "Profile":
    from umbra_awl.core.radio.profile_file import read_profile, shipped_profiles

    return shipped_profiles().get(key) or read_profile(Path(key))


@standin.command("radio")
@click.option("--profile", "profile_key", required=True, help="Which radio: tarn16 or moor4k, or a profile file.")
@click.option(
    "--memory",
    required=True,
    type=click.Path(path_type=Path, dir_okay=False),
    help="Its memory file; made when missing.",
)
@click.option("--port", required=True, type=click.Path(path_type=Path, dir_okay=False), help="The name its port gets.")
@click.option("--fault", "wanted", multiple=True, help="unplug@N, corrupt@N, wrong-model, locked, off, slow, full.")
@click.option("--speed", default=1.0, show_default=True, help="Times the line's own speed.")
@click.option(
    "--unit", default="1", show_default=True, help="Which single radio of the kind it is, when its memory is made."
)
@click.option("--json", is_flag=True, expose_value=False, help="Events are JSON lines in any case.")
@guarded
def standin_radio(profile_key: str, memory: Path, port: Path, wanted: tuple[str, ...], speed: float, unit: str) -> int:
    """Be a radio on a pseudo-terminal until stopped; prints a JSON line for each thing its owner would see."""
    from umbra_awl.standins.radio.faults import FaultError, Faults, parse_fault
    from umbra_awl.standins.radio.process import RadioSetup, run

    profile = _profile(profile_key)
    faults = Faults()
    try:
        for text in wanted:
            faults = parse_fault(faults, text)
    except FaultError as error:
        raise CannotRunError(str(error)) from None
    run(RadioSetup(profile, memory, port, faults, speed, unit=unit))
    return CLEAN


@standin.command("registry")
@click.option("--port", default=0, show_default=True, help="Port on loopback; 0 takes a free one.")
@click.option("--access", default=60_000, show_default=True, help="How many access points it offers.")
@click.option("--people", default=250_000, show_default=True, help="How many people it offers.")
@click.option("--fault", "wanted", multiple=True, help="cut@N, damaged, down, slow.")
@guarded
def standin_registry(port: int, access: int, people: int, wanted: tuple[str, ...]) -> int:
    """Be a directory and registry service until stopped; prints its address as a JSON line."""
    from umbra_awl.standins.registry.service import ServiceFaults, ServiceSizes, make_server
    from umbra_awl.standins.serving import serve

    try:
        faults = ServiceFaults(wanted)
    except ValueError as error:
        raise CannotRunError(str(error)) from None
    serve(make_server(port, ServiceSizes(access, people), faults))
    return CLEAN


@standin.command("card-radio")
@click.option("--profile", "profile_key", required=True, help="Which radio, such as fell-d2, or a profile file.")
@click.option("--memory", required=True, type=click.Path(path_type=Path, dir_okay=False), help="Its memory file.")
@click.option(
    "--place", required=True, type=click.Path(path_type=Path, file_okay=False), help="Folder for slot and reader."
)
@click.option("--unit", default="1", show_default=True, help="Which single radio of the kind it is.")
@click.option("--pull-at", default=0, show_default=True, help="Pull the card once after so many bytes of a file.")
@guarded
def standin_card_radio(profile_key: str, memory: Path, place: Path, unit: str, pull_at: int) -> int:
    """Be a radio with a card slot; reads a line of JSON for each thing done with it, until its input ends."""
    from umbra_awl.standins.card.process import CardSetup, run

    profile = _profile(profile_key)
    if not profile.by_card:
        raise CannotRunError(f"{profile.name} has no memory card that is described.")
    run(CardSetup(profile, memory, place, unit, pull_at))
    return CLEAN


@standin.command("phone")
@click.option("--profile", "profile_key", required=True, help="Beside which radio its app sits, such as fell-d2.")
@click.option(
    "--list", "path", required=True, type=click.Path(path_type=Path, dir_okay=False), help="File of its list."
)
@click.option("--platform", default="Alder", show_default=True, help="The phone's platform.")
@click.option("--sleep-after", default=0, show_default=True, help="Fall asleep after so many requests; 0 never.")
@guarded
def standin_phone(profile_key: str, path: Path, platform: str, sleep_after: int) -> int:
    """Be a phone with a radio's app until stopped; prints its address as a JSON line."""
    from umbra_awl.standins.phone.app import PhoneApp, PhoneServer
    from umbra_awl.standins.serving import serve

    serve(PhoneServer(PhoneApp(path, _profile(profile_key).key, platform, sleep_after)))
    return CLEAN


@standin.command("hotspot")
@click.option("--port", default=0, show_default=True, help="Port on loopback; 0 takes a free one.")
@click.option("--settings", type=click.Path(path_type=Path, dir_okay=False), help="Its settings to begin with, as INI.")
@click.option("--board", default="simplex-70", show_default=True, help="The type that its modem really is.")
@click.option("--error-hz", default=0.0, show_default=True, help="How far its oscillator is off.")
@click.option("--wifi", default="Harrowquay-7", show_default=True, help="The Wi-Fi that it joins; empty for none.")
@click.option("--pace", default=1.0, show_default=True, help="Times real time.")
@click.option("--seed", default=1, show_default=True, help="For what is left to chance.")
@click.option("--fault", "wanted", multiple=True, help="login-password, login-id, port-busy and so on.")
@guarded
def standin_hotspot(
    port: int,
    settings: Path | None,
    board: str,
    error_hz: float,
    wifi: str,
    pace: float,
    seed: int,
    wanted: tuple[str, ...],
) -> int:
    """Be a hotspot with its page until stopped; prints its address as a JSON line."""
    from umbra_awl.standins.hotspot.faults import FAULT_LINES
    from umbra_awl.standins.hotspot.machine import Machine
    from umbra_awl.standins.hotspot.oscillator import Oscillator
    from umbra_awl.standins.hotspot.page import HotspotServer, from_ini, running_clock
    from umbra_awl.standins.serving import serve

    unknown = [item for item in wanted if item not in FAULT_LINES]
    if unknown:
        raise CannotRunError(f"There is no fault “{unknown[0]}”. There are {', '.join(FAULT_LINES)}.")
    held = from_ini(settings.read_text("utf-8")) if settings is not None else {}
    machine = Machine(
        running_clock(pace), held, board=board, oscillator=Oscillator(error_hz), faults=wanted, joins=wifi, seed=seed
    )
    serve(HotspotServer(machine, port))
    return CLEAN


@standin.command("wifi")
@guarded
def standin_wifi() -> int:
    """Be a home, a phone and a hotspot with their Wi-Fi; reads a line of JSON for each thing done, until its input ends."""
    from umbra_awl.standins.wifi.process import run

    run()
    return CLEAN


@standin.command("bond")
@click.option(
    "--starts", type=click.Choice(["app", "phone"]), default="app", show_default=True, help="Where pairing is begun."
)
@click.option("--pin", default="", help="The fixed PIN of an older bridge.")
@click.option("--setting", "settings", multiple=True, help="A setting that the radio has: wireless, serial and so on.")
@guarded
def standin_bond(starts: str, pin: str, settings: tuple[str, ...]) -> int:
    """Be a radio and a phone that pair; reads a line of JSON for each thing done, until its input ends."""
    from umbra_awl.standins.wifi.process import run_bond

    run_bond(starts, pin, settings)
    return CLEAN


@standin.command("air")
@click.option(
    "--port", type=click.Path(path_type=Path), required=True, help="Link to the data port of this side's radio."
)
@click.option(
    "--folder",
    type=click.Path(path_type=Path, file_okay=False),
    required=True,
    help="Where the far phone keeps pictures.",
)
@click.option("--rate", default=3480, show_default=True, help="Useful bits a second.")
@click.option("--loss", default=0.0, show_default=True, help="Share of frames that the air loses.")
@click.option("--speed", default=1.0, show_default=True, help="Times real time.")
@click.option(
    "--watchdog", default=2.0, show_default=True, help="Seconds of silence after which the radio lets go of its key."
)
@click.option("--silent", is_flag=True, help="The far side answers no texts.")
@guarded
def standin_air(port: Path, folder: Path, rate: int, loss: float, speed: float, watchdog: float, silent: bool) -> int:
    """Be two radios and the air between them until stopped; prints what is seen there as lines of JSON."""
    from umbra_awl.standins.air.process import AirSetup, run

    run(AirSetup(port, folder, rate, loss, speed, watchdog, not silent))
    return CLEAN
