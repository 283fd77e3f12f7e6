"""The simulated radio with a card slot as a process: JSON lines in for what is done with it, JSON lines out for what it shows."""

import json
import os
import sys
from pathlib import Path
from typing import Any, NamedTuple

from umbra_awl.core.keep.clock import clock_of
from umbra_awl.core.radio.profile import Profile
from umbra_awl.standins.card.radio import CardRadio
from umbra_awl.standins.radio.device import factory_image


class CardSetup(NamedTuple):
    """How it is set up: `place` holds the slot and the reader, `pull_at` is after how many bytes the card is pulled once."""

    profile: Profile
    memory: Path
    place: Path
    unit: str = "1"
    pull_at: int = 0


def run(setup: CardSetup) -> None:
    """Be that radio until the input ends."""
    if not setup.memory.exists():
        setup.memory.write_bytes(factory_image(setup.profile, setup.unit))
    radio = CardRadio(setup.profile, setup.memory, setup.place, pull_at=setup.pull_at, clock=clock_of(os.environ))
    _say("ready", radio)
    for line in sys.stdin:
        try:
            told = json.loads(line)
            act(radio, str(told.pop("do")), told)
        except (ValueError, KeyError, TypeError, AttributeError) as error:
            _say("refused", radio, why=str(error))
            continue
        _say("state", radio)


def act(radio: CardRadio, what: str, more: dict[str, Any]) -> None:
    """Do one thing with the radio. Raises KeyError for what it has no key for, TypeError for values it does not take."""
    does = {
        "power": radio.power,
        "push out": radio.push_out,
        "push in": radio.push_in,
        "write out": radio.write_out,
        "read in": radio.read_in,
        "answer": radio.answer,
        "list out": radio.around.list_out,
        "list in": radio.around.list_in,
        "turn": radio.knob.turn,
        "turn to": radio.knob.turn_to,
        "key": radio.knob.key,
        "look": lambda: None,
    }
    does[what](**more)  # type: ignore[operator]


def _say(event: str, radio: CardRadio, **more: object) -> None:
    sys.stdout.write(json.dumps({"event": event, **radio.state(), **more}) + "\n")
    sys.stdout.flush()
