"""Benchmarks of the hotspot rooms: the ruler over many access points, a long log, a step of the calibration, readings needed."""

import random
from pathlib import Path

import numpy as np

from bench.calibration import trial
from bench.measure import Result, against
from umbra_awl.core.facts.bands import Band
from umbra_awl.core.facts.earth import Position
from umbra_awl.core.facts.emissions import emission
from umbra_awl.core.hotspot.calibrate.following import advise
from umbra_awl.core.hotspot.calibrate.sampling import drawn
from umbra_awl.core.hotspot.logs.reading import read_log_file
from umbra_awl.core.hotspot.place.occupied import User, distances_km, occupied
from umbra_awl.core.hotspot.place.ruler import RulerQuestion, ruler
from umbra_awl.core.plan.model import Licence, Reading, Station

ACCESS, LINES = 60_000, 200_000
STEP_S = 0.050
BAND = Band("70 cm", 430_000_000, 440_000_000)
HERE = Position(46.5, -31.0)


def run(folder: Path) -> list[Result]:
    """All of them."""
    return [_ruler(), _log(folder), _step(), *_readings()]


def _ruler() -> Result:
    chance = random.Random(5)
    users = [
        User(
            430_000_000 + 12_500 * chance.randrange(800),
            7_600,
            f"Q{at}",
            46.5 + chance.gauss(0, 4),
            -31 + chance.gauss(0, 6),
            sends=bool(at % 2),
        )
        for at in range(ACCESS)
    ]
    station = Station(licence=Licence("Full", granted=True, guard=False))
    asked = RulerQuestion(station, BAND, emission("dmr", 434_000_000))
    held = occupied(users, HERE)
    lats = np.array([item.lat for item in users])
    lons = np.array([item.lon for item in users])
    name = f"ruler of a band, {ACCESS:,} in use around"
    return against(
        name, lambda: ruler(asked, held), "one pass of distances over them", lambda: distances_km(HERE, lats, lons), 20
    )


def _log(folder: Path) -> Result:
    chance, path = random.Random(5), folder / "spot.log"
    calls = [f"Q{at % 10}A{chr(65 + at % 26)}{chr(65 + at // 26 % 26)}" for at in range(400)]
    with path.open("w") as file:
        for at in range(LINES):
            when = f"2026-11-26 {at // 3600 % 24:02d}:{at // 60 % 60:02d}:{at % 60:02d}"
            who, long = chance.choice(calls), chance.random() * 20
            file.write(
                f"{when} dmr slot 2: network {who} (999{at % 10_000:04d}) to 99900, {long:.1f} s, loss {at % 5} %\n"
            )
    return against(
        f"log of {LINES:,} lines read and explained",
        lambda: read_log_file(path),
        "reading it into lines",
        lambda: path.read_text("utf-8").split("\n"),
        5,
    )


def _step() -> Result:
    readings = [Reading(hz, errors, 10_800) for hz, errors in ((0, 900), (700, 40), (900, 260))]

    def step() -> None:
        drawn.cache_clear()
        advise(readings)

    found = against("one step of the calibration, from nothing", step, "50 ms", lambda: None, 1)
    return found._replace(limit_seconds=STEP_S)


def _readings() -> list[Result]:
    needed, by_hand, held = trial()
    print(
        f"1,000 boards: {needed:g} readings by advice, {by_hand:g} by hand; the 90 % interval holds the truth in {held:.1%}"
    )
    return [Result("readings until known to ± 75 Hz (÷ 1000)", needed / 1_000, "7", 0.007, 1)]
