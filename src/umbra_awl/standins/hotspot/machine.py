"""The simulated hotspot itself: settings, a start that takes a minute, a log, overs that it hears, a link.

Its clock is its own: `now` gives seconds since it was switched on. Settings are told as “section.key” to text.
"""

import random
from collections.abc import Callable
from datetime import datetime, timedelta

from umbra_awl.standins.hotspot.faults import CURED_BY, FAULT_LINES, NO_LOGIN, NO_MODEM
from umbra_awl.standins.hotspot.oscillator import Oscillator

STARTS_S = 60.0
DEFAULT_KEY = "awl-bench"
FACTORY: dict[str, str] = {
    "station.call": "", "station.login": "", "air.sends": "434000000", "air.hears": "434000000", "air.hears_by": "0",
    "air.sends_by": "0", "air.pair": "one", "dmr.color": "1", "dmr.slots": "2", "dmr.master": "", "dmr.begin_with": "",
    "dstar.letter": "", "dstar.first": "", "dstar.second": "", "fusion.dgid": "0", "modes.dmr": "off", "modes.dstar": "off",
    "modes.fusion": "off", "board.type": "none", "host.zone": "Etc/UTC", "host.display": "none", "host.name": "bench-spot",
}  # fmt: skip
RESERVED = ((145_800_000, 146_000_000), (435_000_000, 438_000_000))
MOST_LINES = 20_000


class Refused(ValueError):
    """Something that cannot be done now; the message says why."""


class Machine:
    """One hotspot. `board` is the type that its modem really is, `joins` whether there is a Wi-Fi that it knows."""

    def __init__(
        self,
        now: Callable[[], float],
        settings: dict[str, str] | None = None,
        *,
        board: str = "simplex-70",
        oscillator: Oscillator | None = None,
        faults: tuple[str, ...] = (),
        joins: str = "Harrowquay-7",
        begun: datetime | None = None,
        seed: int = 1,
    ) -> None:
        self._now, self._board, self._joins = now, board, joins
        self.settings = FACTORY | (settings or {})
        self.oscillator = oscillator or Oscillator()
        self.faults = set(faults)
        self.key = DEFAULT_KEY
        self.lines: list[str] = []
        self.linked = ""
        self._begun = begun or datetime(2026, 11, 26, 20, 0, 0)
        self._chance = random.Random(seed)  # noqa: S311  (simulated errors)
        self._starts_at = 0.0
        self._told_start = False
        self._heard: list[str] = []
        self.restart()

    def say(self, who: str, text: str) -> None:
        """Put a line into the log."""
        at = self._begun + timedelta(seconds=self._now())
        self.lines.append(f"{at:%Y-%m-%d %H:%M:%S} {who}: {text}")
        del self.lines[:-MOST_LINES]

    def restart(self) -> None:
        """Start anew; a minute later it is up."""
        self._starts_at, self._told_start, self.linked = self._now(), False, ""
        self.say("host", "starting, image Slate 2")

    @property
    def up(self) -> bool:
        """Whether it has started; what happens at the start is in the log then."""
        if self._now() - self._starts_at < STARTS_S:
            return False
        if not self._told_start:
            self._told_start = True
            self._tell_start()
        return True

    def all_faults(self) -> set[str]:
        """What is wrong with it now: what was asked for, and what its settings come to."""
        found = set(self.faults)
        for key in ("air.sends", "air.hears"):
            hz = int(self.settings[key]) if self.settings[key].isdecimal() else 0
            if any(low <= hz <= high for low, high in RESERVED) or not 100_000_000 <= hz <= 1_300_000_000:
                found.add("frequency-refused")
        if self.settings["board.type"] != self._board:
            found.add("wrong-modem")
        if not any(self.settings[f"modes.{mode}"] == "on" for mode in ("dmr", "dstar", "fusion")):
            found.add("no-mode")
        if not self._joins:
            found.add("no-network")
        return found

    def _tell_start(self) -> None:
        faults = self.all_faults()
        told = {
            "modem": self.settings["board.type"], "sends": self.settings["air.sends"], "wifi": self._joins or "any",
            "master": self.settings["dmr.master"] or "the master", "login": self.settings["station.login"],
            "call": self.settings["station.call"],
        }  # fmt: skip
        for fault, (who, text) in FAULT_LINES.items():
            if fault in faults and not ("no-network" in faults and fault in NO_LOGIN - {"not-resolved", "clock-wrong"}):
                self.say(who, text.format(**told))
        if not faults & NO_MODEM:
            hz = f"{self.settings['air.sends']} / {self.settings['air.hears']} Hz"
            self.say("modem", f"ready on {hz}, type {self.settings['board.type']}")
        if "no-network" not in faults:
            self.say("net", f"joined '{self._joins}', address 127.0.0.1")
            if not faults & NO_LOGIN and self.settings["modes.dmr"] == "on":
                self.say("dmr", f"logged in to {self.settings['dmr.master']}")
        else:
            self.say("dmr", FAULT_LINES["not-resolved"][1].format(**told))

    @property
    def works(self) -> bool:
        """Whether its modem works."""
        return self.up and not self.all_faults() & NO_MODEM

    @property
    def online(self) -> bool:
        """Whether it is logged in."""
        return self.up and not self.all_faults() & (NO_LOGIN | {"no-network"})

    def status(self) -> dict[str, object]:
        """What its page shows."""
        up, works, online = self.up, self.works, self.online
        lines = [
            "starting" if not up else self.settings["host.name"],
            self._joins if up and self._joins else "no Wi-Fi",
        ]
        return {
            "name": self.settings["host.name"],
            "state": "up" if up else "starting",
            "left_s": max(0, round(STARTS_S - (self._now() - self._starts_at))),
            "modem": "ready" if works else "none",
            "wifi": self._joins if up and "no-network" not in self.all_faults() else "",
            "logged_in": online,
            "linked": self.linked,
            "default_password": self.key == DEFAULT_KEY,
            "display": lines if self.settings["host.display"] != "none" else [],
            "calls": self._heard[-20:],
        }

    def apply(self, changed: dict[str, str]) -> None:
        """Take settings and restart; a fault goes when the setting that it is about is another."""
        for fault, key in CURED_BY.items():
            if changed.get(key, self.settings[key]) != self.settings[key]:
                self.faults.discard(fault)
        self.settings |= {key: value for key, value in changed.items() if key in FACTORY}
        self.say("page", "settings applied, restarting")
        self.restart()

    def set_key(self, key: str) -> None:
        """Change the page's password."""
        if len(key) < 8:
            raise Refused("a password has at least 8 characters")
        self.key = key

    def set_secret(self, secret: str) -> None:
        """Change the password for the master, and restart."""
        if len(secret) < 6:
            raise Refused("that is no password of a master")
        self.faults.discard("login-password")
        self.say("page", "settings applied, restarting")
        self.restart()

    def link(self, target: str) -> None:
        """Link to something; only once it is up and logged in."""
        if not self.up:
            raise Refused("starting: wait until it is up, then link")
        if not self.online:
            raise Refused("not logged in")
        self.linked = target
        self.say("dmr", f"linked to {target}")

    def key_up(self, over: dict[str, str]) -> dict[str, object]:
        """What comes of a radio's over: heard, a beep, the echo. `over` tells mode, tx_hz, seconds, call, to and so on."""
        mode, seconds = over.get("mode", "dmr"), float(over.get("seconds", "3"))
        silent: dict[str, object] = {"heard": False, "beep": False, "echo": False, "reached": False}
        meets = over.get("tx_hz") == self.settings["air.hears"] and self.settings.get(f"modes.{mode}") == "on"
        opens = mode != "dmr" or over.get("color_code") == self.settings["dmr.color"]
        if not (self.works and meets and opens):
            return silent
        correction = int(over.get("correction") or self.settings["air.hears_by"] or 0)
        counted = self.oscillator.errors(correction, seconds, self._chance)
        if counted is None:
            return {**silent, "reached": True}
        errors, bits = counted
        slot = f" slot {over.get('slot', '2')}" if mode == "dmr" else ""
        who = f"{over.get('call', '')} ({over['id']})" if over.get("id") else over.get("call", "")
        rate = f"loss 0 %, BER {100 * errors / bits:.2f} %, {bits} bits, offset {correction:+d} Hz"
        self.say(f"{mode}{slot}", f"radio {who} to {over.get('to', '')}, {seconds:.1f} s, {rate}")
        self._heard.append(f"{who} to {over.get('to', '')}, {100 * errors / bits:.2f} %")
        echo = self.online and over.get("to") == over.get("echo")
        if echo:
            self.say(f"{mode}{slot}", f"echo back to {over.get('call', '')}, {seconds:.1f} s")
        return {
            "heard": True,
            "reached": True,
            "beep": True,
            "echo": echo,
            "ber": errors / bits,
            "bits": bits,
            "errors": errors,
        }

    def pass_by(self, call: str, to: str, seconds: float = 6.0) -> None:
        """Somebody else is heard from the network."""
        if self.works and self.online:
            self.say("dmr slot 2", f"network {call} to {to}, {seconds:.1f} s, loss 0 %")
            self._heard.append(f"{call} to {to}")
