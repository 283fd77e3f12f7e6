"""The routes behind a service's channels: what each has of its own besides what the service has."""

from typing import Any

from msgspec.structs import replace

from umbra_awl.core.bring.notes import Note
from umbra_awl.core.bring.services import Group
from umbra_awl.core.bring.targets import ReachedTarget, Targets
from umbra_awl.core.modes.table import mode_of, networks_of
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, FusionAir, Mapped, Route, Service
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile


class Router:
    """Takes one service after another; `by_channel` is channel number to route, `by_key` every route once."""

    def __init__(self, memory: Memory, profile: Profile | None, index: PlanIndex, notes: list[Note]) -> None:
        self._contacts = {item.number: item for item in memory.contacts}
        self._groups = {item.number: item.members for item in memory.group_lists}
        self._rooms = {item.name: item.room for item in memory.rooms}
        self._steps = len(profile.power_watts) if profile is not None else 0
        self._index = index
        self._notes = notes
        self.by_channel: dict[int, Route] = {}
        self.powers: dict[str, int] = {}
        self.by_key: dict[str, Route] = {}

    def take(self, group: Group, service: Service, targets: Targets) -> Service:
        """Make the routes of a group's channels through a service; the service, with rooms its DG-IDs lead to."""
        service = self._on_network(group, service, targets)
        reached = self._reached(group, service, targets)
        service = self._with_rooms(group, service, reached)
        for channel in group.channels:
            route = self._route(channel, service, reached[channel.number], targets)
            twin = self.by_key.get(route.key)
            if twin is not None and replace(twin, name="") != replace(route, name=""):
                text = (
                    f"It reaches the same as “{twin.name}” by the same way, with other settings; the first one is kept."
                )
                self._notes.append(Note("not understood", channel.name, text))
                continue
            if twin is not None:
                self._notes.append(
                    Note("doubtful", channel.name, f"It is the same as “{twin.name}”; one route stands for both.")
                )
            self.by_key.setdefault(route.key, route)
            self.by_channel[channel.number] = self.by_key[route.key]
        return service

    def _on_network(self, group: Group, service: Service, targets: Targets) -> Service:
        """A new DMR service on the network whose talk groups it calls."""
        air = service.air
        if not isinstance(air, DmrAir) or air.network or service.key in self._index.services:
            return service
        contacts = [self._contacts[item.contact] for item in group.channels if item.contact in self._contacts]
        network = targets.likely_network(contacts)
        if not network:
            return service
        name = self._index.networks[network].name
        self._notes.append(
            Note("understood", group.site, f"It calls talk groups of {name}, so it is taken to be on {name}.")
        )
        return replace(service, air=replace(air, network=network))

    def _reached(self, group: Group, service: Service, targets: Targets) -> dict[int, ReachedTarget]:
        """What each channel of a group reaches, by channel number."""
        network = frozenset(networks_of(service))
        if service.mode == "dmr":
            found: dict[int, ReachedTarget] = {}
            for item in group.channels:
                at = (service.key, item.slot or 1)
                found[item.number] = ReachedTarget(targets.called(self._contacts.get(item.contact), network, at), at[1])
            return found
        if service.mode == "dstar":
            return targets.by_ur(group, network)
        if isinstance(service.air, FusionAir):
            return targets.by_dgid(group, service.air, self._rooms)
        return {item.number: ReachedTarget(targets.of_kind("local", "Local", network)) for item in group.channels}

    def _with_rooms(self, group: Group, service: Service, reached: dict[int, ReachedTarget]) -> Service:
        air = service.air
        if not isinstance(air, FusionAir) or service.key in self._index.services:
            return service
        rooms = {
            item.dgid_tx: reached[item.number].destination.key
            for item in group.channels
            if reached[item.number].destination.kind == "room" and item.dgid_tx != air.dgid_tx
        }
        mapped = tuple(Mapped(dgid, key) for dgid, key in rooms.items())
        return replace(service, air=replace(air, mapped=mapped)) if mapped else service

    def _route(self, channel: Channel, service: Service, reached: ReachedTarget, targets: Targets) -> Route:
        base = Route(
            service.key,
            reached.destination.key,
            reached.place,
            channel.name,
            "low" if channel.power == 0 and self._steps != 1 else "high",
            receive_only=channel.receive_only,
            promiscuous=channel.promiscuous,
            encrypted=channel.encrypted,
        )
        if 0 < channel.power < self._steps - 1:
            self.powers[base.key] = channel.power
        return replace(base, **self._own(channel, service, reached, targets))

    def _own(self, channel: Channel, service: Service, reached: ReachedTarget, targets: Targets) -> dict[str, Any]:
        """What the channel has otherwise than its service asks for."""
        known = self._index.services.get(service.key)
        access = known[0] if known is not None else AccessPoint("", channel.rpt1[:7].strip(), "")
        usual = mode_of(service).usual(access, service.air, reached.destination, reached.place)
        own = {field: getattr(channel, field) for field, value in usual.items() if getattr(channel, field) != value}
        return own | self._hears(channel, service, targets) if service.mode == "dmr" else own

    def _hears(self, channel: Channel, service: Service, targets: Targets) -> dict[str, Any]:
        """The receive group list by hand, where it is not just the channel's own talk group.

        A source without any group list says nothing of what is heard: then the plan's rule holds.
        """
        if not self._groups:
            return {}
        members = self._groups.get(channel.group_list, ())
        contact = self._contacts.get(channel.contact)
        own = (channel.contact,) if contact is not None and contact.kind == "group" else ()
        if tuple(members) == own:
            return {}
        heard = [
            targets.called(self._contacts[number], frozenset(networks_of(service)))
            for number in members
            if number in self._contacts
        ]
        return {"hears": tuple(dict.fromkeys(item.key for item in heard))}
