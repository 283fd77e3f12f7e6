"""Whom a channel reaches, as a destination: by the number it calls, by its UR field, by its DG-ID; else whoever listens there."""

from collections import Counter
from typing import NamedTuple

from umbra_awl.core.bring.notes import Note
from umbra_awl.core.bring.services import Group, spoken
from umbra_awl.core.facts.dstar import Ur, read_ur, target_of
from umbra_awl.core.modes.calls import called
from umbra_awl.core.plan.edit.edits import fresh_key
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Destination, DestinationKind, FusionAir
from umbra_awl.core.plan.places import LINKS, TALKS
from umbra_awl.core.radio.memory import Channel, Contact

_UR_KINDS: dict[str, tuple[DestinationKind, str]] = {
    "unlink": ("disconnect", "Unlink"),
    "echo": ("echo", "Echo"),
    "info": ("info", "Information"),
}


class ReachedTarget(NamedTuple):
    """A destination and the place of the crossing."""

    destination: Destination
    place: int = 0


class Targets:
    """Finds destinations in a plan, and makes those that it lacks."""

    def __init__(self, index: PlanIndex, notes: list[Note]) -> None:
        self._index = index
        self._notes = notes
        self.made: dict[str, Destination] = {}
        self._by_call: dict[tuple[int, str], list[tuple[Destination, str]]] = {}
        for item in index.plan.destinations:
            for network, call in self._calls(item):
                self._by_call.setdefault(call, []).append((item, network))

    def _calls(self, item: Destination) -> list[tuple[str, tuple[int, str]]]:
        """The network and number that a destination of the plan is called on and by."""
        if item.number is not None and item.kind not in {"room", "reflector"}:
            return [(item.network, (item.number, "private" if item.kind == "private" else item.call))]
        networks = [network for network in self._index.plan.networks if network.mode == "dmr"]
        made = ((network, called(item, network)) for network in networks if item.network in {"", network.key})
        return [(network.key, (call.number, call.kind)) for network, call in made if call is not None]

    def likely_network(self, contacts: list[Contact]) -> str:
        """The network of the plan on which most of some contacts are known; empty when none is."""
        votes = Counter(
            network
            for contact in contacts
            for network in {
                network for _item, network in self._by_call.get((contact.call, contact.kind), ()) if network
            }
        )
        return votes.most_common(1)[0][0] if votes else ""

    def _all(self) -> list[Destination]:
        return [*self._index.plan.destinations, *self.made.values()]

    def _make(self, name: str, kind: DestinationKind, **fields: object) -> Destination:
        key = fresh_key(name, (item.key for item in self._all()))
        made = Destination(key, name, kind, **fields)  # type: ignore[arg-type]
        self.made[key] = made
        return made

    def of_kind(self, kind: DestinationKind, name: str, networks: frozenset[str]) -> Destination:
        """The first destination of a kind that any of these networks reaches, or a new one."""
        for item in self._all():
            if item.kind == kind and (not item.network or item.network in networks):
                return item
        return self._make(name, kind)

    def called(self, contact: Contact | None, networks: frozenset[str], at: tuple[str, int] = ("", 0)) -> Destination:
        """Whom a DMR channel calls through a service on these networks; without a contact, whoever is there.

        Of several that are called alike, the one that the plan reaches through that service and slot (`at`) already.
        """
        if contact is None:
            return self.of_kind("local", "No contact", frozenset())
        there = [
            item
            for item, network in self._by_call.get((contact.call, contact.kind), ())
            if not network or network in networks
        ]
        if there:
            return next((item for item in there if f"{at[0]}>{item.key}@{at[1]}" in self._index.routes), there[0])
        kind: DestinationKind = "private" if contact.kind == "private" else "group"
        made = self._make(contact.name, kind, number=contact.call, call=contact.kind)
        self._by_call.setdefault((contact.call, contact.kind), []).append((made, ""))
        return made

    def by_ur(self, group: Group, networks: frozenset[str]) -> dict[int, ReachedTarget]:
        """Channel number to whom a D-STAR channel reaches; a CQ memory that names a linked target talks through that link."""
        found: dict[int, ReachedTarget] = {}
        links: list[ReachedTarget] = []
        for channel in sorted(group.channels, key=lambda item: "link" not in item.name.casefold()):
            asked = read_ur(channel.ur)
            if asked.kind == "link":
                target = self._linked(asked)
                twice = any(link.destination.key == target.key for link in links)
                found[channel.number] = ReachedTarget(
                    target, TALKS if twice else LINKS
                )  # a talk memory left on its command
                links.append(found[channel.number])
            elif asked.kind in _UR_KINDS:
                found[channel.number] = ReachedTarget(self.of_kind(*_UR_KINDS[asked.kind], networks))
            elif asked.kind in {"station", "repeater"}:
                found[channel.number] = ReachedTarget(self._named(asked, spoken(channel, group.site)))
        self._talks([item for item in group.channels if item.number not in found], links, found, networks)
        return found

    def _linked(self, asked: Ur) -> Destination:
        text = f"{asked.call} {asked.module}"
        for item in self._all():
            if item.kind in {"reflector", "direct"} and target_of(item.text or item.name) == (asked.call, asked.module):
                return item
        return self._make(text, "reflector" if asked.call[3:6].isdigit() else "direct", text=text)

    def _named(self, asked: Ur, name: str) -> Destination:
        kind: DestinationKind = "station" if asked.kind == "station" else "repeater"
        text = f"{asked.call:<7}{asked.module}".rstrip() if kind == "station" else f"{asked.call} {asked.module}"
        for item in self._all():
            if item.kind == kind and (item.text or item.name).strip().upper() == text:
                return item
        return self._make(name or text, kind, text=text)

    def _talks(
        self,
        channels: list[Channel],
        links: list[ReachedTarget],
        found: dict[int, ReachedTarget],
        networks: frozenset[str],
    ) -> None:
        """CQ memories: those that name a linked target talk through that link, the first other one is local, the rest follow."""
        free = list({link.destination.key: link.destination for link in links}.values())
        rest: list[Channel] = []
        for channel in channels:
            named = next((item for item in free if _names(channel.name, item)), None)
            if named is None:
                rest.append(channel)
                continue
            free.remove(named)
            found[channel.number] = ReachedTarget(named, TALKS)
        for at, channel in enumerate(rest):
            if at and free:
                found[channel.number] = ReachedTarget(free.pop(0), TALKS)
                text = (
                    f"It may talk through the link to {found[channel.number].destination.name}: its name does not say."
                )
                self._notes.append(Note("doubtful", channel.name, text))
            else:
                found[channel.number] = ReachedTarget(self.of_kind("local", "Local", networks))

    def by_dgid(self, group: Group, air: FusionAir, rooms: dict[str, int]) -> dict[int, ReachedTarget]:
        """Channel number to whom a Fusion channel reaches: the room behind its DG-ID or of its name, or whoever is there.

        `rooms` are the radio's own, name to number.
        """
        mapped = {item.dgid: item.destination for item in air.mapped}
        found: dict[int, ReachedTarget] = {}
        local = False
        for channel in group.channels:
            known = self._index.destinations.get(mapped.get(channel.dgid_tx, ""))
            name = spoken(channel, group.site)
            if known is not None:
                found[channel.number] = ReachedTarget(known)
            elif channel.dgid_tx == air.dgid_tx and not local and name not in rooms:
                local = True
                found[channel.number] = ReachedTarget(self.of_kind("local", "Local", frozenset({air.network})))
            else:
                found[channel.number] = ReachedTarget(self._room(name, rooms.get(name), air.network))
        return found

    def _room(self, name: str, number: int | None, network: str) -> Destination:
        for item in self._all():
            same = item.number == number if number is not None else item.name.casefold() == name.casefold()
            if item.kind == "room" and same and item.network in {"", network}:
                return item
        return self._make(name, "room", number=number)


def _names(text: str, item: Destination) -> bool:
    """Whether a channel's name speaks of a linked target: its call and module, or its name."""
    bare = "".join(filter(str.isalnum, text)).upper()
    wanted = ("".join(filter(str.isalnum, word)).upper() for word in (item.text, item.name))
    return any(word and word in bare for word in wanted)
