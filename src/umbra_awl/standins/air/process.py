"""The two radios as a process: frames on a pseudo-terminal, orders in and what is seen out as lines of JSON."""

import json
import os
import signal
import sys
from contextlib import suppress
from pathlib import Path
from typing import Any, NamedTuple

from umbra_awl.core.keep.clock import clock_of
from umbra_awl.core.transfer.frames import Decoder, encode
from umbra_awl.standins.air.far import Far
from umbra_awl.standins.air.radio import AirRadio
from umbra_awl.standins.leash import heard
from umbra_awl.standins.radio.line import PtyLine

_CABLE_BYTES_PER_S = 20_000_000


class AirSetup(NamedTuple):
    """How it is set up: the port's link, the far phone's folder, rate in bit/s, loss as a share, how much faster than life."""

    port: Path
    folder: Path
    rate_bps: int = 3480
    loss: float = 0.0
    speed: float = 1.0
    watchdog_s: float = 2.0
    answers: bool = True


def say(value: dict[str, Any]) -> None:
    """Print an event."""
    sys.stdout.write(json.dumps(value) + "\n")
    sys.stdout.flush()


def run(setup: AirSetup) -> None:
    """Be the two radios until terminated."""
    stopped: list[int] = []
    signal.signal(signal.SIGTERM, lambda number, _frame: stopped.append(number))
    signal.signal(signal.SIGINT, lambda number, _frame: stopped.append(number))
    setup.folder.mkdir(parents=True, exist_ok=True)
    far = Far(setup.folder, answers=setup.answers, clock=clock_of(os.environ))
    radio = AirRadio(
        far,
        setup.rate_bps,
        speed=setup.speed,
        watchdog_s=setup.watchdog_s,
    )
    radio.loss = setup.loss
    line, decoder = PtyLine(setup.port, _CABLE_BYTES_PER_S, 0), Decoder()
    say({"event": "ready", "port": str(setup.port), "call": radio.far.call})
    try:
        while not stopped:
            _turn(line, decoder, radio)
    finally:
        line.pull()


def _turn(line: PtyLine, decoder: Decoder, radio: AirRadio) -> None:
    for frame in decoder.feed(line.read(0.02)):
        for answer in radio.answer(frame, say):
            line.write(encode(answer))
    radio.watch(say)
    _obey(radio)
    for spoken in radio.far_speaks():
        line.write(encode(spoken))


def _obey(radio: AirRadio) -> None:
    for text in heard():
        with suppress(ValueError, AttributeError, OSError):
            told = json.loads(text)
            if told.get("do") == "show":
                radio.far.show(Path(str(told["file"])).read_bytes(), str(told.get("to", "")))
            else:
                radio.order(told)
            say({"event": "hands", "did": str(told.get("do"))})
