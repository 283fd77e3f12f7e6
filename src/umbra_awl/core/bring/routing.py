"""The routes behind a service's channels: what each has of its own besides what the service has."""

from typing import Any

from msgspec.structs import replace

from umbra_awl.core.bring.notes import Note
from umbra_awl.core.bring.services import Group
from umbra_awl.core.bring.targets import Reached, Targets
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, DmrAir, DstarAir, FmAir, FusionAir, Mapped, Route, Service
from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.calls import further
from umbra_awl.core.routes.crossing import fusion_way
from umbra_awl.core.routes.fields import computed_rpt, computed_ur


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

    def _reached(self, group: Group, service: Service, targets: Targets) -> dict[int, Reached]:
        network = _networks(service)
        if isinstance(service.air, DmrAir):
            found: dict[int, Reached] = {}
            for item in group.channels:
                at = (service.key, item.slot or 1)
                found[item.number] = Reached(targets.called(self._contacts.get(item.contact), network, at), at[1])
            return found
        if isinstance(service.air, DstarAir):
            return targets.by_ur(group, network)
        if isinstance(service.air, FusionAir):
            return targets.by_dgid(group, service.air, self._rooms)
        return {item.number: Reached(targets.of_kind("local", "Local", network)) for item in group.channels}

    def _with_rooms(self, group: Group, service: Service, reached: dict[int, Reached]) -> Service:
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

    def _route(self, channel: Channel, service: Service, reached: Reached, targets: Targets) -> Route:
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
            text = f"Power step {channel.power + 1} of {self._steps} becomes “high”: a route knows the lowest and the highest."
            self._notes.append(Note("doubtful", channel.name, text))
        return replace(base, **self._own(channel, service, reached, targets))

    def _own(self, channel: Channel, service: Service, reached: Reached, targets: Targets) -> dict[str, Any]:
        """What the channel has otherwise than its service."""
        air = service.air
        if isinstance(air, FmAir):
            return _differing(
                tone_tx=(channel.tone_tx, air.tone_tx),
                tone_rx=(channel.tone_rx, ""),
                width_hz=(channel.width_hz, air.width_hz),
                admit=(channel.admit, "always"),
            )
        if isinstance(air, DmrAir):
            own = _differing(color_code=(channel.color_code, air.color_code), admit=(channel.admit, air.admit))
            return own | self._hears(channel, service, targets)
        own = _differing(admit=(channel.admit, "always"))
        if isinstance(air, DstarAir):
            return own | self._fields(channel, service, air, reached)
        assert isinstance(air, FusionAir)  # noqa: S101  (the fourth of four)
        usual = next((item.dgid for item in air.mapped if item.destination == reached.destination.key), air.dgid_tx)
        return own | _differing(
            way=(channel.way, fusion_way(air)), dgid_tx=(channel.dgid_tx, usual), dgid_rx=(channel.dgid_rx, air.dgid_rx)
        )

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
            targets.called(self._contacts[number], _networks(service)) for number in members if number in self._contacts
        ]
        return {"hears": tuple(dict.fromkeys(item.key for item in heard))}

    def _fields(self, channel: Channel, service: Service, air: DstarAir, reached: Reached) -> dict[str, Any]:
        known = self._index.services.get(service.key)
        access = known[0] if known is not None else AccessPoint("", channel.rpt1[:7].strip(), "")
        rpt1, rpt2 = computed_rpt(access, air)
        return _differing(
            ur=(channel.ur, computed_ur(reached.destination, reached.place)),
            rpt1=(channel.rpt1, rpt1),
            rpt2=(channel.rpt2, rpt2),
        )


def _differing(**pairs: tuple[Any, Any]) -> dict[str, Any]:
    """The fields whose value is not the usual one."""
    return {field: value for field, (value, usual) in pairs.items() if value != usual}


def _networks(service: Service) -> frozenset[str]:
    """The networks that a service reaches."""
    return frozenset(filter(None, (getattr(service.air, "network", ""), *further(service))))
