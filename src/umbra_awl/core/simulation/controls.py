"""The radio's front in time: key, knob, zone, the keys that its owner has set; and what its display shows."""

from collections.abc import Callable

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.simulation.keyer import Keyer
from umbra_awl.core.simulation.receiver import Stance
from umbra_awl.core.simulation.world import World
from umbra_awl.core.simulation.zone_members import ZoneMembers

DENIED_S = 1.5


class Controls:
    """Does to the radio what hands do."""

    def __init__(self, world: World, keyer: Keyer) -> None:
        self.zones = ZoneMembers(self)
        self._world, self._keyer = world, keyer
        setting = world.setting
        self.memory: Memory = setting.fits[setting.radio].memory
        self.ears = setting.ears
        self.at = setting.stance.channels[0] if setting.stance.channels else 0
        self.zone = self.zones.zone_of(self.at)
        self.locked = False
        self.open_all = False
        self._shown_until = 0.0
        self._flash = ("", "")
        world.changed = self.show

    @property
    def channel(self) -> Channel:
        """The channel the knob is on."""
        return self.ears[self.at].channel

    @property
    def route(self) -> str:
        """The route the key goes to: the channel's; after a call, for a while, the one that was heard."""
        receiver, world = self._world.receiver, self._world
        if receiver.stance.kind == "channel" and not receiver.open_all:
            return self.ears[self.at].route
        call, until = (receiver.heard, world.now) if receiver.heard is not None else receiver.last or (None, 0.0)
        if call is None or world.now - until > max(receiver.stance.hang_s, world.setting.figures["talk_back_s"]):
            return self.ears[self.at].route
        held = (ear.route for ear in self.ears if (ear.service, ear.slot, ear.group) == call)
        return next(held, "") or self.ears[self.at].route

    def do(self, what: str, value: str) -> None:
        """Do one thing. An unknown one does nothing."""
        acts: dict[str, Callable[[], None]] = {
            "press": self.press,
            "release": self._keyer.release,
            "turn": lambda: self.turn(int(value)),
            "zone": lambda: self.turn_zone(int(value)),
            "key": lambda: self.side_key(value),
            "number": lambda: self.choose(value),
        }
        if what in acts and not (self.locked and what in {"turn", "zone"}):
            acts[what]()

    def press(self) -> None:
        """Push to talk."""
        if self._keyer.now_keyed is None:
            route = self.route
            admit = next((ear.channel.admit for ear in self.ears if ear.route == route), "always")
            if route:
                self._keyer.press(route, admit)
                self._show_later()
            else:
                self.flash("NO ROUTE", "not of this plan")

    def turn(self, steps: int) -> None:
        """Turn the knob: the next channel of the zone."""
        members = self.zones.members()
        if members and self._keyer.now_keyed is None:
            here = members.index(self.at) if self.at in members else 0
            self._tune(members[(here + steps) % len(members)])

    def turn_zone(self, steps: int) -> None:
        """Change to another zone."""
        zones = self.memory.zones
        if zones and self._keyer.now_keyed is None:
            self.zone = (max(self.zone, 0) + steps) % len(zones)
            members = self.zones.members()
            if members:
                self._tune(members[0])

    def choose(self, route: str) -> None:
        """Go to the channel of a route."""
        found = next((at for at, ear in enumerate(self.ears) if ear.route == route), None)
        if found is not None:
            self.zone = self.zones.zone_of(found)
            self._tune(found)

    def _tune(self, at: int) -> None:
        self.at = at
        self._world.receiver.stand(Stance("channel", (at,)), self._world.now)

    def side_key(self, action: str) -> None:
        """Do what a key is set to."""
        if action == "lock":
            self.locked = not self.locked
            self.flash("KEYS", "locked" if self.locked else "free")
        elif not self.locked:
            acts: dict[str, Callable[[], None]] = {
                "zone up": lambda: self.turn_zone(1),
                "zone down": lambda: self.turn_zone(-1),
                "monitor": self._monitor,
                "scan": self._scan,
                "one-touch": self._one_touch,
                "power": lambda: self.flash("POWER", "low" if self.channel.power else "as the channel has it"),
                "battery": lambda: self.flash("BATTERY", "simulated: full"),
                "reverse": lambda: self.flash("REVERSE", format_mhz(self.channel.tx_hz)),
            }
            acts.get(action, lambda: None)()

    def _monitor(self) -> None:
        """Open for whatever is on the slot, or not any more."""
        receiver = self._world.receiver
        receiver.open_all = not receiver.open_all
        receiver.stand(receiver.stance, self._world.now)
        self.flash("MONITOR", "on" if receiver.open_all else "off")

    def _scan(self) -> None:
        """Scan the zone, or stop."""
        if self._world.receiver.stance.kind == "scan":
            self._tune(self.at)
        else:
            self._world.receiver.stand(Stance("scan", tuple(self.zones.members())), self._world.now)

    def _one_touch(self) -> None:
        """Call the contact of the one-touch key through the access point in hand, for a second."""
        memory, index = self.memory, self._world.setting.index
        number = memory.one_touch
        call = memory.contacts[number - 1].call if number else 0
        here = self.ears[self.at].service
        for ear in self.ears:
            contact = memory.contacts[ear.channel.contact - 1].call if ear.channel.contact else 0
            if call and contact == call and ear.service == here and ear.route in index.routes:
                self._keyer.press(ear.route)
                self._world.later(1.5, lambda _none, _now: self._keyer.release(), None)
                return
        self.flash("ONE-TOUCH", "nothing set for here")

    # the display

    def flash(self, top: str, bottom: str) -> None:
        """Show something for a moment."""
        self._flash, self._shown_until = (top, bottom), self._world.now + DENIED_S
        self.show()
        self._show_later()

    def _show_later(self) -> None:
        """What is shown for a moment only goes by itself."""
        self._world.later(DENIED_S + 0.01, lambda _none, _now: self.show(), None)

    def show(self) -> None:
        """Put onto the display what it would show now."""
        book = self._world.book
        if book is not None:
            book.show(self._world.now, *self.lines())

    def lines(self) -> tuple[str, str]:
        """The two lines of the display."""
        world, keyed = self._world, self._keyer.now_keyed
        if keyed is not None:
            channel = next((ear.channel for ear in self.ears if ear.route == keyed.target.route.key), self.channel)
            return f"TX {format_mhz(channel.tx_hz)}", world.lanes.short(keyed.talk.group) or channel.name
        last = self._keyer.done[-1] if self._keyer.done else None
        if last is not None and last.stopped is not None and world.now - last.stopped.at < DENIED_S and last.released:
            return "DENIED" if last.stopped.reason == "denied" else "TX INHIBITED", self.channel.name
        if world.now < self._shown_until:
            return self._flash
        return self._receiving()

    def _receiving(self) -> tuple[str, str]:
        world, receiver = self._world, self._world.receiver
        if receiver.talk is not None:
            return f"RX {receiver.talk.who}", world.lanes.short(receiver.talk.group) or self.channel.name
        if any(call[0] in self.ears[self.at].noise for call in receiver.air.values()):
            return self.channel.name, "noise"
        if receiver.stance.kind == "scan":
            return "SCAN", counted(len(receiver.stance.channels), "channel")
        return self.channel.name, self._place()

    def _place(self) -> str:
        members = self.zones.members()
        zone = self.memory.zones[self.zone].name if 0 <= self.zone < len(self.memory.zones) else "no zone"
        return f"{zone} {members.index(self.at) + 1 if self.at in members else '–'}"
