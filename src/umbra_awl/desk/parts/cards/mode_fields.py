"""The fields of a service that its mode has: network, slots, group lists; module and gateway; ways and DG-IDs."""

from collections.abc import Callable, Iterator
from functools import partial
from typing import Any

from umbra_awl.core.facts.dstar import module_fault
from umbra_awl.core.facts.fusion import dgid_fault, shown_dgid
from umbra_awl.core.facts.modes import ByMode
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.model import AccessPoint, DmrAir, DstarAir, FusionAir, Mapped, Service, Static
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Choice, Commit, Field
from umbra_awl.desk.parts.cards.late_choices import LateChoices

HEARS_WORDS = {"own": "its own talk group", "slot": "all of its slot", "access": "all of the access point"}
_DATA_WORDS = {"none": "voice only", "slow": "slow data beside voice", "fast": "slow and fast data"}
_ADMIT_WORDS = {"always": "always", "free": "channel free", "color": "color code free"}


def mode_fields(bench: Workbench, access: AccessPoint, service: Service) -> list[Field]:
    """The fields that the service's mode has beside its frequencies."""
    made = _FIELDS[service.mode]
    if made is None:
        return []
    choose = _Chooser(bench, access, service)
    return [choose.network(), *made(bench, access, service, service.air, choose)]


class _Chooser:
    """Makes fields whose value is chosen among a few."""

    def __init__(self, bench: Workbench, access: AccessPoint, service: Service) -> None:
        self._bench = bench
        self._service = service
        self._where = access.by_call

    def one(self, label: str, field: str, options: dict[Any, str]) -> Field:
        """A choice of a value of the air side."""
        now = getattr(self._service.air, field)
        choices = [
            Choice(words, partial(self._bench.do, self._edit(label, words, field, value)), value == now)
            for value, words in options.items()
        ]
        return Field(label, options.get(now, str(now)), choices=choices)

    def _edit(self, label: str, words: str, field: str, value: Any) -> Any:
        return set_air(self._service.key, f"{label} of {self._where}: {words}", **{field: value})

    def network(self) -> Field:
        """The network behind the service."""
        there = [item for item in self._bench.plan.networks if item.mode == self._service.mode]
        return self.one("Network", "network", {"": "none", **{item.key: item.name for item in there}})


def _dmr_fields(bench: Workbench, _access: AccessPoint, service: Service, air: DmrAir, choose: _Chooser) -> list[Field]:
    fields = [
        choose.one("Slots", "slots", {(1, 2): "1 and 2", (1,): "1 only", (2,): "2 only"}),
        choose.one("Admit", "admit", _ADMIT_WORDS),
        choose.one("Group lists", "hears", HEARS_WORDS),
    ]
    further = [item for item in bench.plan.networks if item.mode == "dmr" and item.key != air.network]
    if further:
        options: dict[Any, str] = {
            (): "none",
            **{(item.key,): f"{item.name}, prefix {item.prefix or '?'}" for item in further},
        }
        fields.append(choose.one("Also", "also", options))
    fields.append(_static_field(bench, service, air))
    return fields


def talk_groups(bench: Workbench, service: str, air: DmrAir) -> list[str]:
    """The talk groups a DMR service can carry, those punched through it or always carried first."""
    networks = {air.network, *air.also}
    crossings = bench.index.by_crossing
    near = {item.destination for item in air.static}
    keys = [key for key, item in bench.index.destinations.items() if item.kind == "group" and item.network in networks]
    return sorted(keys, key=lambda key: key not in near and (service, key) not in crossings)


def _static_field(bench: Workbench, service: Service, air: DmrAir) -> Field:
    """What is always carried; choosing one puts it on a slot or takes it off."""
    there = bench.index.destinations
    held = {(item.slot, item.destination) for item in air.static}

    def choices() -> Iterator[Choice]:
        for key in talk_groups(bench, service.key, air):
            for slot in air.slots:
                item = Static(slot, key)
                on = (slot, key) in held
                static = tuple(entry for entry in air.static if entry != item) if on else (*air.static, item)
                words = f"{'Carry no more' if on else 'Always carry'} {there[key].name} on slot {slot}"
                edit = set_air(service.key, words, static=static)
                yield Choice(f"{there[key].name}, slot {slot}", partial(bench.do, edit), on)

    names = [f"{there[item.destination].name} {item.slot}" for item in air.static if item.destination in there]
    shown = ", ".join(names) or "on demand only"
    return Field("Carries", shown, choices=LateChoices(choices), tip="What it always carries, by slot")


def _dstar_fields(
    bench: Workbench, access: AccessPoint, service: Service, air: DstarAir, choose: _Chooser
) -> list[Field]:
    where = access.by_call

    def module(text: str) -> str:
        letter = text.strip().upper()
        fault = module_fault(letter)
        if not fault:
            bench.do(set_air(service.key, f"Make {where} module {letter}", module=letter))
        return fault

    return [
        Field("Module", air.module, True, commit=module, text=air.module, tip="By custom A 1.2 GHz, B 70 cm, C 2 m"),
        choose.one("Gateway", "gateway", {True: "has one", False: "none: local only"}),
        choose.one("Data", "data", _DATA_WORDS),
    ]


def _fusion_fields(
    bench: Workbench, access: AccessPoint, service: Service, air: FusionAir, choose: _Chooser
) -> list[Field]:
    where = access.by_call
    return [
        choose.one("Takes", "ways", {("DN",): "DN", ("VW",): "VW", ("DN", "VW"): "DN and VW"}),
        choose.one("FM too", "auto_mode", {True: "answers in what arrives", False: "digital only"}),
        _dgid_field("DG-ID", air.dgid_tx, _dgid(bench, service, where, "dgid_tx")),
        _dgid_field("Sends", air.dgid_rx, _dgid(bench, service, where, "dgid_rx")),
        choose.one("Rooms", "node", {True: "connected to by number", False: "by DG-ID only"}),
        _mapped_field(bench, service, air),
    ]


def _dgid_field(label: str, value: int, commit: Commit) -> Field:
    return Field(label, shown_dgid(value), True, commit=commit, text=str(value), half=True)


def _dgid(bench: Workbench, service: Service, where: str, field: str) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if not text.isascii() or not text.isdigit() or dgid_fault(int(text)):
            return f"“{text}” is not a DG-ID: 00 to 99 exist."
        bench.do(set_air(service.key, f"Set the DG-ID of {where} to {shown_dgid(int(text))}", **{field: int(text)}))
        return ""

    return commit


def _mapped_field(bench: Workbench, service: Service, air: FusionAir) -> Field:
    """Which DG-ID leads where, typed as “40 Velmar Commons, 41 Torrick Watch”."""
    there = bench.index.destinations
    shown = ", ".join(
        f"{item.dgid:02d} {there[item.destination].name}" for item in air.mapped if item.destination in there
    )

    def commit(text: str) -> str:
        made: list[Mapped] = []
        for part in filter(None, map(str.strip, text.split(","))):
            number, _, name = part.partition(" ")
            match = next((item for item in there.values() if item.name.casefold() == name.strip().casefold()), None)
            if not number.isdecimal() or len(number) > 9 or dgid_fault(int(number)) or match is None:
                return f"“{part}” is not a DG-ID with a destination of the plan. Write for example: 40 Velmar Commons."
            made.append(Mapped(int(number), match.key))
        bench.do(set_air(service.key, "Set which DG-ID leads where", mapped=tuple(made)))
        return ""

    return Field("Leads to", shown or "no DG-ID leads to a room", commit=commit, text=shown)


_FIELDS: ByMode[Callable[[Workbench, AccessPoint, Service, Any, _Chooser], list[Field]] | None] = {
    "fm": None,
    "dmr": _dmr_fields,
    "dstar": _dstar_fields,
    "fusion": _fusion_fields,
}
"""What each mode has beside its network; FM has nothing."""
