"""A radio and a phone that pair, and get stuck when it was begun in the wrong place, as real ones do."""

from typing import Any

_FACTORY = {"wireless": "off", "link": "position", "answers": "let in", "changes": "kept"}
_WANTED = {"wireless": "on", "link": "the app", "answers": "kept out", "changes": "passed on"}


class Bond:
    """The pair; `starts` is where pairing has to be begun, `pin` what the phone must type, `settings` the radio's own."""

    def __init__(self, starts: str = "app", pin: str = "", settings: tuple[str, ...] = ()) -> None:
        self._starts, self._pin = starts, pin
        self.settings = {key: _FACTORY.get(key, "off") for key in settings or tuple(_FACTORY)}
        self.wireless, self.restarted = True, True
        self.paired_in = self.radio_names = ""
        self.asks_phone = self.asks_radio = self.connected = self.stuck = False
        self._begun = self.chosen = ""

    def do(self, told: dict[str, Any]) -> dict[str, Any]:
        """Do one thing, and tell what both sides show then."""
        what = told.get("do")
        if what == "radio" and told.get("key") in self.settings:
            self.settings[str(told["key"])] = str(told.get("value", ""))
        elif what == "pair":
            self._pair(str(told.get("in", "")))
        elif what == "yes":
            self._yes(str(told.get("who", "")), str(told.get("pin", "")))
        elif what == "connect":
            self._connect()
        elif what == "choose":
            self.chosen = str(told.get("link", ""))
        elif what == "old":  # it comes with a pairing of somebody else's
            self.paired_in, self.radio_names = "before", "Old phone"
        else:
            self._undo(str(what), on=bool(told.get("on")))
        return self.state()

    def _ready(self) -> bool:
        return self.wireless and all(self.settings[key] == _WANTED[key] for key in self.settings if key in _WANTED)

    def _pair(self, where: str) -> None:
        off = not self.wireless or self.settings.get("wireless") != "on"
        if off or self.stuck or self.paired_in == "before" or (self.radio_names and not self.paired_in):
            return  # an old pairing on either side keeps a new one out
        if where != self._starts:
            self.paired_in, self.radio_names, self.stuck = where, "Phone", True
            return
        self._begun, self.asks_phone = where, True

    def _yes(self, who: str, pin: str) -> None:
        if who == "phone" and self.asks_phone:
            self.asks_phone = False
            if self._pin and pin != self._pin:
                return
            self.paired_in = self._begun
            self.asks_radio = not self._pin
            self.radio_names = "Phone" if self._pin else ""
        elif who == "radio" and self.asks_radio:
            self.asks_radio, self.radio_names = False, "Phone"

    def _connect(self) -> None:
        paired = self.paired_in not in {"", "before"} and self.radio_names and not self.stuck
        self.connected = bool(paired and self._ready() and self.chosen == "wireless")

    def _undo(self, what: str, *, on: bool) -> None:
        """Forgetting, deleting, off and on, restarting; a factory reset takes everything."""
        if what == "forget":
            self.paired_in, self.connected = "", False
        elif what == "delete":
            self.radio_names, self.connected = "", False
        elif what == "wireless":
            self.wireless, self.restarted, self.connected = on, False, False
        elif what == "restart":
            self.connected = False
            if self.stuck and not (self.paired_in or self.radio_names or self.wireless):
                self.stuck = False
        elif what == "reset":
            self.__init__(self._starts, self._pin, tuple(self.settings))  # type: ignore[misc]

    def state(self) -> dict[str, Any]:
        """What both sides show."""
        mirror = ["434.0125", "Isles-wide"] if self.connected else []
        return {
            "settings": dict(self.settings),
            "paired_in": self.paired_in,
            "radio_names": self.radio_names,
            "asks_phone": self.asks_phone,
            "asks_radio": self.asks_radio,
            "connected": self.connected,
            "chosen": self.chosen,
            "stuck": self.stuck,
            "wireless": self.wireless,
            "restarted": self.restarted,
            "mirror": mirror,
        }
