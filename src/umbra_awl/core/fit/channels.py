"""From routes to channels: the access point's values, the route's own where it has them, inside licence and radio."""

from functools import cached_property
from typing import Any

from umbra_awl.core.facts.emissions import Emission
from umbra_awl.core.fit.book import Contacts, GroupLists
from umbra_awl.core.fit.hearing import Hearing
from umbra_awl.core.fit.report import Line
from umbra_awl.core.modes.table import MODES, sent_by
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Admit, Call, DstarAir, Mode, OwnedRadio, Route, Service
from umbra_awl.core.plan.permit import transmit_permit
from umbra_awl.core.radio.memory import Channel
from umbra_awl.core.radio.profile import Profile
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
        self._station = index.owners.station_of(radio)
        self._identity = index.owners.identity_of(radio)
        self._profile = profile
        self._contacts, self._groups = lists
        self._hearing = Hearing(index, self._contacts)
        self._names = names
        self._powers = {item.route: item.step for item in radio.powers}
        self._lines = lines
        self._known = self._known_channels(index, radio, profile)
        self._held: dict[Emission, str] = {}
        self._of_service: dict[str, str] = {}
        self._usual: dict[str, dict[str, Any]] = {}

    @staticmethod
    def _known_channels(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> "dict[str, _Known]":
        """The channels of this radio that were made before, while all that they are made of besides their route stays."""
        parts = ("access", "station", "destinations", "networks")
        latest: list[tuple[OwnedRadio, Profile, dict[str, _Known]]] = index.memo(("channels", radio.key), list, parts)
        made = next(iter(latest), None)
        if made is None or made[0] is not radio or made[1] is not profile:
            made = (radio, profile, {})
            latest[:] = [made]
        return made[2]

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
        kind = service.mode
        tables = self.calls_and_hears(route, service, call) if kind == "dmr" else _NO_TABLES
        known = self._known.get(key)
        if known is not None and known[0] is route and known[1] == (number, name, tables):
            return known[2]
        said = len(self._lines)
        channel = self._fresh(number, name, route, (access, service), tables)
        if said == len(self._lines):
            self._known[key] = (route, (number, name, tables), channel)
        return channel

    def _fresh(
        self, number: int, name: str, route: Route, through: tuple[AccessPoint, Service], tables: tuple[int, int]
    ) -> Channel:
        (access, service), key = through, route.key
        reason = self._reason(access, service, route)
        if reason:
            self._lines.append(Line("receive-only", key, name, reason))
        kind = service.mode
        values = self._values(kind, access, service, route)
        if kind == "dmr":
            values.update(contact=tables[0], group_list=tables[1], slot=route.slot)
            values.update(promiscuous=route.promiscuous, encrypted=route.encrypted)
        elif kind == "dstar":
            values["zero_offset"] = self._zero_offset(name, route, service, values)
        values["admit"] = self._admit(values["admit"])
        return Channel(
            number,
            name,
            kind,
            service.rx_hz,
            service.tx_hz,
            receive_only=bool(reason),
            power=self._power(access, route),
            route=key,
            **values,
        )

    def _values(self, kind: Mode, access: AccessPoint, service: Service, route: Route) -> dict[str, Any]:
        """What the mode's channels hold; where all of a service's are asked alike, that is worked out once."""
        mode, usual = MODES[kind], self._usual.get(service.key)
        if usual is None:
            usual = mode.usual(access, service.air, self._index.destinations[route.destination], route.slot)
            if mode.asks_alike:
                self._usual[service.key] = usual
        return mode.values(route, usual)

    def _reason(self, access: AccessPoint, service: Service, route: Route) -> str:
        """Why a channel only listens; empty when it may send."""
        if access.kind == "receive":
            return "The access point is only listened to."
        if route.receive_only:
            return "Set to receive-only in the plan."
        if route.width_hz is not None or route.way is not None:
            return self._held_reason(sent_by(service, route))
        if isinstance(service.air, DstarAir) and not service.air.module:
            return "The module of its access point is not told."
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

    def _power(self, access: AccessPoint, route: Route) -> int:
        """The power step: this radio's own for the route, else the least beside one's own hotspot, the most elsewhere."""
        pinned = self._powers.get(route.key)
        if pinned is not None and self._steps:
            return max((step for step in self._steps if step <= pinned), default=self._steps[0])
        wanted = route.power if route.power != "auto" else "low" if access.kind == "hotspot" else "high"
        return self._watts_step(wanted) or 0

    def _admit(self, wanted: Admit) -> Admit:
        return wanted if wanted in self._profile.admit else self._profile.admit[0]

    def calls_and_hears(self, route: Route, service: Service, call: Call | None) -> tuple[int, int]:
        """What a DMR channel calls and hears, by the numbers of this radio's tables: its contact and its group list."""
        members, title = self._hearing.members(route, service, call)
        title = title or self._index.destinations[route.destination].name
        return self._contacts.number_of(call), self._groups.number_for(members, title, route.key)

    def _zero_offset(self, name: str, route: Route, service: Service, values: dict[str, Any]) -> bool:
        """Whether a D-STAR memory must be duplex with an offset of 0 for its fields to be filled."""
        zero = self._profile.needs.zero_offset and service.rx_hz == service.tx_hz and bool(values["rpt1"].strip())
        if zero:
            reason = "This radio fills RPT1 and RPT2 only in duplex memories, so it is duplex with an offset of 0."
            self._lines.append(Line("made duplex", route.key, name, reason))
        return zero


_Known = tuple[Route, tuple[int, str, tuple[int, int]], Channel]
"""A route, what its channel was made of besides, and the channel."""
_NO_TABLES = (0, 0)
