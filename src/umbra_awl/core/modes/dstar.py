"""D-STAR: RPT1 addresses the module, RPT2 its gateway, and UR says whom; links are made by a memory of their own."""

from functools import lru_cache
from typing import TYPE_CHECKING, Any

from umbra_awl.core.facts.dstar import (
    CQ,
    ECHO,
    FIELD_LENGTH,
    INFO,
    LINK_CALL,
    UNLINK,
    Ur,
    padded,
    room_fault,
    rpt_field,
    shown,
    target_of,
    ur_field,
    whole,
)
from umbra_awl.core.modes.behaviour import Behaviour, Crossing, no_crossing
from umbra_awl.core.modes.opening import OnAir
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import AccessPoint, Destination, DstarAir, Service
from umbra_awl.core.plan.places import LINKED, LINKS, PAIR

if TYPE_CHECKING:
    from umbra_awl.core.radio.memory import Channel

ORDER_LINKED = (
    "Key the link memory for a second, then let go.",
    "Wait until the voice or the display confirms the link.",
    "Change to the talk memory (CQCQCQ), listen, then call; who answers is shown with a call sign.",
    "When done, key the unlink memory; the voice says that nothing is linked.",
)


def computed_ur(destination: Destination, slot: int) -> str:
    """The eight characters of UR that ask for a destination; a pair's second place talks through what the first linked."""
    kind = destination.kind
    if kind in LINKED:
        return ur_field(Ur("link", *target_of(destination.text or destination.name))) if slot == LINKS else CQ
    if kind == "repeater":
        return ur_field(Ur("repeater", *target_of(destination.text or destination.name)))
    if kind == "station":
        return whole(destination.text.strip().upper() or destination.name.strip().upper())
    return {"disconnect": UNLINK, "echo": ECHO, "info": INFO}.get(kind, CQ)


def computed_rpt(access: AccessPoint, air: DstarAir) -> tuple[str, str]:
    """RPT1, the access module, and RPT2, its gateway; without a gateway RPT2 names the module itself.

    G stands in RPT2 for local calls too: then whatever is linked hears them, and one memory serves both.
    """
    return _rpt(access.call, air.module, air.gateway)


@lru_cache(4096)
def _rpt(call: str, module: str, gateway: bool) -> tuple[str, str]:
    return rpt_field(call, module), rpt_field(call, "G" if gateway else module)


class Dstar(Behaviour[DstarAir]):
    """D-STAR, voice with slow data, and fast data where a module has it."""

    mode = "dstar"
    opened_by = "module"
    kinds = frozenset({"local", "reflector", "direct", "repeater", "station", "echo", "info", "disconnect"})
    listens_for = "Listens for D-STAR only."

    def opener(self, air: DstarAir) -> str:
        """The module's letter."""
        return air.module

    def said(self, channel: "Channel") -> str:
        """What UR asks for."""
        return shown(channel.ur)

    def brief(self, channel: "Channel") -> str:
        """The module that RPT1 addresses."""
        return channel.rpt1[-1:]

    def asked(self, channel: "Channel") -> str:
        """The module's letter, from RPT1."""
        return channel.rpt1.strip()[-1:]

    def columns(self, air: DstarAir) -> dict[str, str]:
        """Module and network."""
        return {"module": air.module, "network": air.network}

    def crossing(self, _index: PlanIndex, where: str, air: DstarAir, destination: Destination) -> Crossing:
        """A pair of memories where it links; all but local needs a gateway."""
        if destination.kind == "local":
            return Crossing(True, (0,), "")
        if not air.gateway:
            return no_crossing(f"{where} module {air.module} has no gateway; it reaches only who listens to it.")
        if destination.kind in LINKED | {"repeater"}:
            call, module = target_of(destination.text or destination.name)
            if not module:
                return no_crossing(
                    f"{destination.name} has no call and module, such as “VLR001 C”. Give them at the destination."
                )
            if fault := room_fault(call, LINK_CALL):
                return no_crossing(fault)
        return Crossing(True, PAIR if destination.kind in LINKED else (0,), "")

    def usual(self, access: AccessPoint, air: DstarAir, destination: Destination, place: int) -> dict[str, Any]:
        """UR, RPT1 and RPT2."""
        rpt1, rpt2 = computed_rpt(access, air)
        return {"ur": computed_ur(destination, place), "rpt1": rpt1, "rpt2": rpt2, "admit": "always"}

    def written(self, field: str, value: Any) -> Any:
        """A field typed by hand is padded to eight; one that is longer stands as typed, so that it is told."""
        return padded(value) if field != "admit" and len(value) <= FIELD_LENGTH else value

    def order_of_use(self, _index: PlanIndex, _service: Service, destination: Destination) -> tuple[str, ...]:
        """Link, talk, unlink."""
        return ORDER_LINKED if destination.kind in LINKED else ()

    def on_air(self, _index: PlanIndex, _service: Service, _destination: Destination, sent: OnAir) -> OnAir:
        """Everybody on the module hears it, whatever UR asks for."""
        return sent._replace(color_code=0, slot=0)
