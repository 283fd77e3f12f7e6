"""From routes to channels: the access point's values, the route's own where it has them, inside licence and radio."""

from functools import cached_property

from msgspec.structs import replace

from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.fit.book import Contacts, GroupLists
from umbra_awl.core.fit.hearing import Hearing
from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    AccessPoint,
    Admit,
    Call,
    DmrAir,
    DstarAir,
    FmAir,
    FusionAir,
    OwnedRadio,
    Route,
    Service,
)
from umbra_awl.core.plan.permit import sent_by, transmit_permit
from umbra_awl.core.radio.memory import Channel
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.routes.crossing import fusion_way, mapped_dgid
from umbra_awl.core.routes.fields import computed_rpt, computed_ur, routing_fields
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
        self._identity = index.identity_of(radio)
        self._profile = profile
        self._contacts, self._groups = lists
        self._hearing = Hearing(index, self._contacts)
        self._names = names
        self._lines = lines
        self._held: dict[Emission, str] = {}
        self._of_service: dict[str, str] = {}
        self._rpts: dict[str, tuple[str, str]] = {}

    def make(self, routes: list[Route]) -> list[Channel]:
        """One channel for each route, numbered from 1 in the order given."""
        self._hearing.take(routes, self._contacts.calls)
        calls = self._contacts.calls
        return [
            self._channel(number, route, call)
            for number, (route, call) in enumerate(zip(routes, calls, strict=True), 1)
        ]

    def _channel(self, number: int, route: Route, call: Call | None) -> Channel:
        access, service = self._index.services[route.service]
        key = route.key
        name = self._names[key].name
        reason = self._reason(access, service, route)
        if reason:
            self._lines.append(Line("receive-only", key, name, reason))
        air = service.air
        if isinstance(air, FmAir):
            return self._fm(number, name, route, service, air, bool(reason))
        if isinstance(air, DmrAir):
            return self._dmr(number, name, route, service, air, call, held=bool(reason))
        plain = self._plain(number, name, route, service, bool(reason))
        return self._dstar(plain, route, air) if isinstance(air, DstarAir) else self._fusion(plain, route, air)

    def _reason(self, access: AccessPoint, service: Service, route: Route) -> str:
        """Why a channel only listens; empty when it may send."""
        if access.kind == "receive":
            return "The access point is only listened to."
        if route.receive_only:
            return "Set to receive-only in the plan."
        if route.width_hz is not None or route.way is not None:
            return self._held_reason(sent_by(service, route))
        if service.key not in self._of_service:
            self._of_service[service.key] = self._held_reason(sent_by(service))
        return self._of_service[service.key]

    def _held_reason(self, sent: Emission) -> str:
        """Why the radio must not send an emission; empty when it may. Remembered for each."""
        if sent not in self._held:
            self._held[sent] = self._why_not(sent)
        return self._held[sent]

    def _why_not(self, sent: Emission) -> str:
        permit = transmit_permit(self._station, sent)
        if not permit.allowed:
            return permit.reason
        if not self._profile.transmits(sent.center_hz):
            return "The radio cannot send there."
        if self._watts_step("low") is None:
            return f"Even its lowest power is over the licence's {self._max_watts:g} W."
        return ""

    @property
    def _max_watts(self) -> float:
        return self._station.licence.max_watts

    @cached_property
    def _steps(self) -> list[int]:
        """The power steps within the licence."""
        most = self._max_watts
        return [at for at, watts in enumerate(self._profile.power_watts) if not most or watts <= most]

    def _watts_step(self, wanted: str) -> int | None:
        if not self._steps:
            return None
        return self._steps[0] if wanted == "low" else self._steps[-1]

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

    def _dmr(
        self, number: int, name: str, route: Route, service: Service, air: DmrAir, call: Call | None, *, held: bool
    ) -> Channel:
        destination = self._index.destinations[route.destination]
        members, title = self._hearing.members(route, service, air, call)
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
            group_list=self._groups.number_for(members, title or destination.name, route.key),
            admit=self._admit(route.admit or air.admit),
            promiscuous=route.promiscuous,
            encrypted=route.encrypted,
            route=route.key,
        )

    def _plain(self, number: int, name: str, route: Route, service: Service, held: bool) -> Channel:
        """What every other digital channel holds."""
        return Channel(
            number,
            name,
            service.mode,
            service.rx_hz,
            service.tx_hz,
            receive_only=held,
            power=self._watts_step(route.power) or 0,
            admit=self._admit(route.admit or "always"),
            route=route.key,
        )

    def _dstar(self, plain: Channel, route: Route, air: DstarAir) -> Channel:
        ur, rpt1, rpt2 = self._routing(route, air)
        zero = self._profile.needs.zero_offset and plain.rx_hz == plain.tx_hz and bool(rpt1.strip())
        if zero:
            reason = "This radio fills RPT1 and RPT2 only in duplex memories, so it is duplex with an offset of 0."
            self._lines.append(Line("made duplex", route.key, plain.name, reason))
        return replace(plain, ur=ur, rpt1=rpt1, rpt2=rpt2, zero_offset=zero)

    def _routing(self, route: Route, air: DstarAir) -> tuple[str, str, str]:
        """UR, RPT1 and RPT2; the two of a service are worked out once."""
        access, service, destination = self._index.parts(route)
        if route.rpt1 is not None or route.rpt2 is not None or route.ur is not None:
            fields = routing_fields(access, air, destination, route, self._identity)
            return fields.ur, fields.rpt1, fields.rpt2
        pair = self._rpts.get(service.key)
        if pair is None:
            pair = self._rpts[service.key] = computed_rpt(access, air)
        return computed_ur(destination, route.slot), *pair

    def _fusion(self, plain: Channel, route: Route, air: FusionAir) -> Channel:
        mapped = mapped_dgid(air, self._index.destinations[route.destination])
        usual = air.dgid_tx if mapped is None else mapped
        return replace(
            plain,
            way=route.way or fusion_way(air),
            dgid_tx=usual if route.dgid_tx is None else route.dgid_tx,
            dgid_rx=air.dgid_rx if route.dgid_rx is None else route.dgid_rx,
        )
