"""Home, phone and hotspot in simulated time: who is on, who looks for whom, who joins; of passwords only whether they match."""

from typing import Any

LOOKS_S, FIRST_LOOK_S = 45.0, 20.0
"""How long after its start a hotspot looks for networks, and when it looks first; later it stays with what it found."""
SLEEPS_S = 300.0
_5_GHZ = 5.0


class WifiWorld:
    """The three of them."""

    def __init__(self) -> None:
        self.now = 0.0
        self.phone, self.phone_ghz, self.sleeps = "", 2.4, False
        self.home = ""
        self.known: tuple[str, ...] = ()
        self.same_password, self.board_5ghz, self.portal = True, False, False
        self.home_on, self.sharing, self.hotspot_on = True, False, False
        self.joined = ""
        self._looked_since = self._shared_since = 0.0

    def do(self, told: dict[str, Any]) -> dict[str, Any]:
        """Do one thing, and tell the state after it."""
        what = told.get("do")
        if what == "set":
            self._set(told)
        elif what == "home":
            self.home_on = bool(told.get("on"))
        elif what == "phone":
            self.sharing, self._shared_since = bool(told.get("on")), self.now
        elif what == "hotspot":
            self.hotspot_on, self._looked_since, self.joined = bool(told.get("on")), self.now, ""
        elif what == "wait":
            self._wait(float(told.get("seconds", 1)))
        self._settle()
        return self.state()

    def _set(self, told: dict[str, Any]) -> None:
        self.__init__()  # type: ignore[misc]
        self.phone, self.phone_ghz = str(told.get("phone", "")), float(told.get("phone_ghz", 2.4))
        self.sleeps, self.home = bool(told.get("sleeps")), str(told.get("home", ""))
        self.known = tuple(str(item) for item in told.get("known", ()))
        self.same_password = bool(told.get("same_password", True))
        self.board_5ghz, self.portal = bool(told.get("board_5ghz")), bool(told.get("portal"))

    def _wait(self, seconds: float) -> None:
        """Let time pass second by second, for at most a day."""
        for _second in range(min(int(seconds), 86_400)):
            self.now += 1
            if self.sleeps and self.sharing and self.now - self._shared_since > SLEEPS_S:
                self.sharing = False
            self._settle()

    def _settle(self) -> None:
        seen = self._seen()
        if self.joined and self.joined not in seen:
            self.joined = ""
        looking = FIRST_LOOK_S <= self.now - self._looked_since <= LOOKS_S
        if self.hotspot_on and not self.joined and looking:
            self.joined = next((name for name in self.known if name in seen), "")

    def _seen(self) -> tuple[str, ...]:
        """The networks that the hotspot could join now: exactly that name, a band it has, the password the same."""
        made = [self.home] if self.home_on and self.home else []
        fits = self.phone_ghz < _5_GHZ or self.board_5ghz
        if self.sharing and fits and self.same_password and self.phone not in made:
            made.append(self.phone)
        elif self.sharing and self.phone in made:
            made.remove(self.phone)  # two of one name: it goes from one to the other and stays with neither
        return tuple(made)

    def state(self) -> dict[str, Any]:
        """What one sees."""
        display = "dark" if not self.hotspot_on else self.joined or "no Wi-Fi"
        return {
            "now": self.now,
            "home_on": self.home_on,
            "sharing": self.sharing,
            "hotspot_on": self.hotspot_on,
            "joined": self.joined,
            "listed": bool(self.joined) and self.joined == self.phone and self.sharing,
            "online": bool(self.joined) and not self.portal,
            "display": display,
        }
