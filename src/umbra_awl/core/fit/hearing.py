"""What opens a DMR channel's speaker: its receive group list by the access point's rule, or by hand."""

from umbra_awl.core.fit.book import Contacts
from umbra_awl.core.modes.calls import call_through
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Call, Route, Service


class Hearing:
    """Knows which talk groups a radio's channels call on each slot of each service."""

    def __init__(self, index: PlanIndex, contacts: Contacts) -> None:
        self._index = index
        self._contacts = contacts
        self._on_slot: dict[tuple[str, int], list[int]] = {}

    def take(self, routes: list[Route], calls: list[Call | None]) -> None:
        """Remember the routes that the radio carries, where a rule asks for more than a channel's own talk group."""
        for route, call in zip(routes, calls, strict=True):
            if getattr(self._index.services[route.service][1].air, "hears", "own") == "own":
                continue
            number = self._contacts.number_of(call) if call is not None and call.kind == "group" else 0
            if number:
                self._on_slot.setdefault((route.service, route.slot), []).append(number)

    def members(self, route: Route, service: Service, call: Call | None) -> tuple[tuple[int, ...], str]:
        """The contacts of a channel's receive group list and the list's name (empty: the destination's)."""
        if route.hears is not None:
            return self._by_hand(route, service)
        own = (self._contacts.number_of(call),) if call is not None and call.kind == "group" else ()
        name = self._index.services[route.service][0].site
        rule = getattr(service.air, "hears", "own")
        if rule == "slot":
            return _sorted(own, self._on_slot.get((service.key, route.slot), [])), f"{name} slot {route.slot}"
        if rule == "access":
            others = [number for slot in (1, 2) for number in self._on_slot.get((service.key, slot), ())]
            return _sorted(own, others), f"{name} all"
        return tuple(filter(None, own)), ""

    def _by_hand(self, route: Route, service: Service) -> tuple[tuple[int, ...], str]:
        there = self._index.destinations
        calls = [call_through(self._index, service, there[key]) for key in route.hears or () if key in there]
        numbers = tuple(dict.fromkeys(filter(None, map(self._contacts.number_of, calls))))
        return numbers, f"{there[route.destination].name} +"


def _sorted(own: tuple[int, ...], others: list[int]) -> tuple[int, ...]:
    """In table order, so that all channels of one rule share one list."""
    return tuple(sorted({*filter(None, own), *others}))
