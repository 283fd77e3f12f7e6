"""A network's numbers, editable in place."""

from collections.abc import Callable

from umbra_awl.core.plan.edit.edits import set_fields
from umbra_awl.core.plan.model import Call, Network
from umbra_awl.core.plan.parts import NETWORKS
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Field
from umbra_awl.desk.parts.cards.text_fields import text_field
from umbra_awl.desk.station.conventions import parse_call, parse_number, parse_span


def network_fields(bench: Workbench, network: Network) -> list[Field]:
    """A network's conventions; only DMR networks have numbers of their own."""
    name = text_field(bench, NETWORKS, network.key, "Name", "name", network.name)
    if network.mode != "dmr":
        return [name, Field("Numbers", "none: its mode uses call signs and rooms")]
    return [name, *_dmr_fields(bench, network)]


def _dmr_fields(bench: Workbench, network: Network) -> list[Field]:
    dialled = f"{network.dial_low} to {network.dial_high}" if network.dial_low is not None else "none"
    return [
        Field("Master", network.master, True, commit=_master(bench, network), text=network.master),
        Field(
            "Echo test",
            _call_words(network.echo),
            True,
            commit=_convention(bench, network, "echo", parse_call),
            tip=_CALL_TIP,
        ),
        Field(
            "Disconnect",
            _call_words(network.disconnect),
            True,
            commit=_convention(bench, network, "disconnect", parse_call),
        ),
        Field(
            "Local",
            str(network.local_group or "none"),
            True,
            commit=_convention(bench, network, "local_group", parse_number),
        ),
        Field(
            "Dialled",
            dialled,
            True,
            commit=_dialled(bench, network),
            tip="The range dialled through the local talk group",
        ),
        Field(
            "Quiet time",
            f"{network.quiet_minutes} minutes",
            commit=_convention(bench, network, "quiet_minutes", lambda text: parse_number(text) or 0),
            text=str(network.quiet_minutes),
            tip="After so long without a call an on-demand talk group leaves",
        ),
        Field(
            "Prefix",
            network.prefix or "none",
            True,
            commit=_prefix(bench, network),
            text=network.prefix,
            tip="Stands before its six-digit numbers where it is reached through another network's hotspot",
        ),
    ]


def _prefix(bench: Workbench, network: Network) -> Callable[[str], str]:
    def commit(text: str) -> str:
        prefix = "" if text.casefold() == "none" else text
        if prefix and not (prefix.isascii() and prefix.isdigit()):
            return f"“{text}” is not a prefix: digits only, for example 7."
        bench.do(set_fields(NETWORKS, network.key, f"Set the prefix of {network.name}", prefix=prefix))
        return ""

    return commit


_CALL_TIP = "A number and how it is called, for example 999097 private"


def _convention(bench: Workbench, network: Network, field: str, read: Callable[[str], object]) -> Callable[[str], str]:
    def commit(text: str) -> str:
        plain = "" if text.casefold() == "none" else text.removesuffix(" call")
        try:
            value = read(plain)
        except ValueError as error:
            return str(error)
        word = field.replace("_", " ")
        bench.do(
            set_fields(
                NETWORKS, network.key, f"Set the {word} of {network.name} to {plain or 'none'}", **{field: value}
            )
        )
        return ""

    return commit


def _dialled(bench: Workbench, network: Network) -> Callable[[str], str]:
    def commit(text: str) -> str:
        try:
            low, high = parse_span("" if text.casefold() == "none" else text.replace(" to ", "-"))
        except ValueError as error:
            return str(error)
        bench.do(
            set_fields(NETWORKS, network.key, f"Set the dialled range of {network.name}", dial_low=low, dial_high=high)
        )
        return ""

    return commit


def _call_words(call: Call | None) -> str:
    return f"{call.number} {call.kind} call" if call else "none"


def _master(bench: Workbench, network: Network) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_fields(NETWORKS, network.key, f"Set the master of {network.name}", master=text))
        return ""

    return commit
