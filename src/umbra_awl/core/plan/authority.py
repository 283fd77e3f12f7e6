"""By whose hand a field of the plan may change when something comes in from another's file: said once, here.

“mine”: by the operator's own hand alone; another's file never changes it, nor is it asked. “asked”: only after the operator has
answered for this very value. “free”: as whoever changed it last has it. What is not said here is mine.
Whatever takes a file in goes by this table: merging, a followed plan, packs, going back to a save, the shell.
"""

from typing import Any, Literal

import msgspec

from umbra_awl.core.facts.bands import Band
from umbra_awl.core.plan import model
from umbra_awl.core.plan.habits import Habits

Hand = Literal["mine", "asked", "free"]
Hands = dict[str, Hand]


def _all(kind: type[msgspec.Struct], hand: Hand, **others: Hand) -> Hands:
    """One hand for all fields of a kind of thing but some."""
    return {**dict.fromkeys(kind.__struct_fields__, hand), **others}


_FREE = (
    model.NameStyle, model.Short, model.Network, model.Call, model.FmAir, model.DmrAir, model.Static, model.DstarAir,
    model.FusionAir, model.Mapped, model.Service, model.AccessPoint, model.Destination, model.Zone, model.ScanList, model.Net,
    model.Evening, model.Traffic, model.Assumed, model.PinnedName, model.GivenCode, model.PeopleChoice, model.Use,
)  # fmt: skip
"""Things that say what there is and how one likes it: nothing is sent by them that might not have been sent before."""
_MINE = (
    model.Licence, model.Identity, model.RadioId, model.Phone, model.HomeWifi, model.Neighbour, Band, model.Trip, model.Reminder,
    model.Silence, model.Reading, model.Listened, model.Proof, model.BandHeard, Habits,
)  # fmt: skip
"""Who I am, what I may, where I am, what I measured, and what I have put aside."""
_ASKED = (model.Step, model.RadioSettings, model.KeySetting, model.OptionSetting, model.PinnedPower)

AUTHORITY: dict[type[msgspec.Struct], Hands] = {
    **{kind: _all(kind, "free") for kind in _FREE},
    **{kind: _all(kind, "mine") for kind in _MINE},
    **{kind: _all(kind, "asked") for kind in _ASKED},
    model.Plan: _all(
        model.Plan, "free",
        format="mine", version="mine", radios="asked", hotspots="asked", trips="mine", steps="asked", silenced="mine",
    ),
    model.Station: _all(model.Station, "mine", identities="asked", uses="asked"),
    model.Route: _all(model.Route, "free", receive_only="asked", encrypted="asked", power="asked"),
    model.OwnedRadio: _all(
        model.OwnedRadio, "free",
        identity="mine", powers="asked", settings="asked", profile="asked", firmware="asked", hardware="asked", updated="mine",
    ),
    model.Hotspot: _all(
        model.Hotspot, "free",
        transmit_hz="asked", receive_hz="asked", duplex="asked", rx_correction_hz="mine", tx_correction_hz="mine",
        id_label="mine", wifi="mine", locked="mine", readings="mine", listened="mine", proofs="mine",
        by_eye="mine", public_place="mine", about="mine",
    ),
}  # fmt: skip
ASKED_ROWS = frozenset(
    {name for name, hand in AUTHORITY[model.Plan].items() if hand == "asked"} | {"identities"}
)  # fmt: skip
"""Collections into which nothing of another's comes, and out of which nothing goes, without an answer."""


def hand_of(kind: type[msgspec.Struct], field: str) -> Hand:
    """By whose hand a field may change; mine where the table does not say it."""
    return AUTHORITY.get(kind, {}).get(field, "mine")


def default_of(kind: type[msgspec.Struct], field: str) -> Any:
    """What a field is where nobody told it; NODEFAULT where there is no such value."""
    for item in msgspec.structs.fields(kind):
        if item.name == field:
            return item.default_factory() if item.default_factory is not msgspec.NODEFAULT else item.default
    return msgspec.NODEFAULT
