"""From routes to channels: the access point's values, the route's own where it has them, inside licence and radio."""

from umbra_awl.core.fit.book import Contacts, GroupLists
from umbra_awl.core.fit.memory import Channel
from umbra_awl.core.fit.profile import Profile
from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Admit, Call, DmrAir, FmAir, OwnedRadio, Route, Service
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.routes.crossing import called
from umbra_awl.core.routes.names import Named


class ChannelMaker:
    """Makes the channels of one radio; what it must hold back goes into the report's lines."""

    def __init__(
        self,
        index: PlanIndex,
        radio: OwnedRadio,
        profile: Profile,
        lists: tuple[Contacts, GroupLists],
        names: dict[str, Named],
        lines: list[Line],
    ) -> None:
        self._index = index
        self._station = index.station_of(radio)
        self._profile = profile
        self._contacts, self._groups = lists
        self._names = names
        self._lines = lines
        self._held: dict[int, str] = {}

    def make(self, routes: list[Route]) -> list[Channel]:
        """One channel for each route, numbered from 1 in the order given."""
        return [self._channel(number, route) for number, route in enumerate(routes, 1)]

    def _channel(self, number: int, route: Route) -> Channel:
        service = self._index.services[route.service][1]
        reason = "Set to receive-only in the plan." if route.receive_only else self._held_reason(service.tx_hz)
        name = self._names[route.key].name
        if reason:
            self._lines.append(Line("receive-only", route.key, name, reason))
        if isinstance(service.air, FmAir):
            return self._fm(number, name, route, service, service.air, bool(reason))
        assert isinstance(service.air, DmrAir)  # noqa: S101  (fitting lets only FM and DMR routes come here)
        return self._dmr(number, name, route, service, service.air, bool(reason))

    def _held_reason(self, tx_hz: int) -> str:
        """Why the radio must not transmit on a frequency; empty when it may. Remembered for each frequency."""
        if tx_hz not in self._held:
            permit = transmit_permit(self._station, tx_hz)
            able = self._profile.transmits(tx_hz)
            self._held[tx_hz] = permit.reason if not permit.allowed else "" if able else "The radio cannot send there."
            if not self._held[tx_hz] and self._watts_step("low") is None:
                self._held[tx_hz] = f"Even its lowest power is over the licence's {self._max_watts:g} W."
        return self._held[tx_hz]

    @property
    def _max_watts(self) -> float:
        return self._station.licence.max_watts

    def _watts_step(self, wanted: str) -> int | None:
        steps = [
            at for at, watts in enumerate(self._profile.power_watts) if not self._max_watts or watts <= self._max_watts
        ]
        if not steps:
            return None
        return steps[0] if wanted == "low" else steps[-1]

    def _admit(self, wanted: Admit) -> Admit:
        return wanted if wanted in self._profile.admit else self._profile.admit[0]

    def _fm(self, number: int, name: str, route: Route, service: Service, air: FmAir, held: bool) -> Channel:
        return Channel(
            number,
            name,
            "fm",
            service.rx_hz,
            service.tx_hz,
            receive_only=held,
            tone_tx=air.tone_tx if route.tone_tx is None else route.tone_tx,
            tone_rx=route.tone_rx or "",
            width_hz=route.width_hz or air.width_hz,
            power=self._watts_step(route.power) or 0,
            admit=self._admit(route.admit or "always"),
            route=route.key,
        )

    def _dmr(self, number: int, name: str, route: Route, service: Service, air: DmrAir, held: bool) -> Channel:
        destination = self._index.destinations[route.destination]
        call = called(destination, self._index.network_of(service))
        return Channel(
            number,
            name,
            "dmr",
            service.rx_hz,
            service.tx_hz,
            receive_only=held,
            power=self._watts_step(route.power) or 0,
            color_code=air.color_code if route.color_code is None else route.color_code,
            slot=route.slot,
            contact=self._contacts.number_of(call),
            group_list=self._group_list(route, service, call, destination.name),
            admit=self._admit(route.admit or air.admit),
            promiscuous=route.promiscuous,
            encrypted=route.encrypted,
            route=route.key,
        )

    def _group_list(self, route: Route, service: Service, call: Call | None, name: str) -> int:
        """The rule: a channel listens to its own talk group; by hand, to the talk groups it is told."""
        if route.hears is None:
            members = (self._contacts.number_of(call),) if call and call.kind == "group" else ()
            return self._groups.number_for(tuple(filter(None, members)), name, route.key)
        network = self._index.network_of(service)
        calls = [
            called(self._index.destinations[key], network) for key in route.hears if key in self._index.destinations
        ]
        numbers = tuple(dict.fromkeys(filter(None, (self._contacts.number_of(item) for item in calls))))
        return self._groups.number_for(numbers, f"{name} +", route.key)
