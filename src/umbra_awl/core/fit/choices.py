"""What can be decided about a line of the report: each choice is an edit of the radio, so the plan remembers it."""

from typing import Any, NamedTuple

from msgspec.structs import replace

from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.edit.edits import Edit, EditRefused, swap_item
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import (
    KeySetting,
    OptionSetting,
    OwnedRadio,
    PeopleChoice,
    PinnedName,
    PinnedPower,
    Plan,
    Press,
    RadioSettings,
)
from umbra_awl.core.radio.display import NameRules, fold


class Decision(NamedTuple):
    """A choice for one line: its words and the edit."""

    label: str
    edit: Edit


def set_radio(radio: OwnedRadio, sentence: str, **fields: Any) -> Edit:
    """An edit that sets fields of one radio."""

    def apply(plan: Plan) -> Plan:
        return replace(plan, radios=swap_item(plan.radios, radio.key, lambda item: replace(item, **fields)))

    return Edit(sentence, apply)


def decisions(index: PlanIndex, radio: OwnedRadio, line: Line) -> list[Decision]:
    """What can be decided about a line of a radio's report; the first one is the usual."""
    if line.key in index.routes:
        return _of_route(radio, line)
    zone = next((item for item in index.plan.zones if item.key == line.key), None)
    if zone is None:
        return []
    if line.kind == "split":
        return [
            Decision(
                "Keep the first part only",
                set_radio(radio, f"Cut {zone.name} on {radio.name}", cut=(*radio.cut, zone.key)),
            ),
            Decision("Leave the zone out", _without_zone(index, radio, zone.key, zone.name)),
        ]
    if line.kind == "left out":
        return [Decision("Leave the zone out", _without_zone(index, radio, zone.key, zone.name))]
    if line.kind == "cut":
        cut = tuple(key for key in radio.cut if key != zone.key)
        return [Decision("Split it again", set_radio(radio, f"Split {zone.name} on {radio.name}", cut=cut))]
    return []


def leave_all(radio: OwnedRadio, lines: list[Line]) -> Decision:
    """Leave every route of some lines out of the radio."""
    keys = tuple(dict.fromkeys(line.key for line in lines if line.key not in radio.leave))
    edit = set_radio(radio, f"Leave {len(keys)} out of {radio.name}", leave=(*radio.leave, *keys))
    return Decision(f"Leave all {len(keys)} out", edit)


def _of_route(radio: OwnedRadio, line: Line) -> list[Decision]:
    key, title = line.key, line.title
    if line.kind == "by choice":
        left = tuple(item for item in radio.leave if item != key)
        return [Decision("Take it along again", set_radio(radio, f"Take {title} onto {radio.name}", leave=left))]
    drop = Decision("Leave it out", set_radio(radio, f"Leave {title} out of {radio.name}", leave=(*radio.leave, key)))
    if line.kind == "left out" and "channels and the plan asks" in line.reason:
        keep = set_radio(radio, f"Keep {title} on {radio.name}", first=(*radio.first, key))
        return [Decision("Keep it before others", keep), drop]
    if line.kind in {"shortened", "told apart", "characters", "receive-only"}:
        return [drop]
    return []


def _without_zone(index: PlanIndex, radio: OwnedRadio, key: str, name: str) -> Edit:
    zones = radio.zones if radio.zones is not None else tuple(zone.key for zone in index.plan.zones)
    return set_radio(
        radio, f"Leave the zone {name} out of {radio.name}", zones=tuple(item for item in zones if item != key)
    )


def name_on_radio(radio: OwnedRadio, route: str, name: str, rules: NameRules) -> Edit:
    """Name a route on this radio only; an empty name takes the plan's again. Refused when the display cannot show it."""
    others = tuple(item for item in radio.names if item.route != route)
    if not name.strip():
        return set_radio(radio, f"Name by the house style on {radio.name}", names=others)
    shown = fold(name, rules)
    if len(shown) > rules.length:
        raise EditRefused(f"“{shown}” has {len(shown)} characters; {radio.name} shows {rules.length}.")
    if not shown:
        raise EditRefused(
            f"{radio.name} can show none of the characters of “{name}”. It knows {rules.characters.strip()}"
        )
    return set_radio(radio, f"Name it {shown} on {radio.name}", names=(*others, PinnedName(route, shown)))


def power_on_radio(radio: OwnedRadio, route: str, step: int | None, words: str) -> Edit:
    """Send a route with one power step on this radio only; None takes the plan's again."""
    others = tuple(item for item in radio.powers if item.route != route)
    powers = others if step is None else (*others, PinnedPower(route, step))
    return set_radio(radio, f"Power on {radio.name}: {words}", powers=powers)


def set_settings(radio: OwnedRadio, sentence: str, **fields: Any) -> Edit:
    """An edit of what holds for the whole radio."""
    settings: RadioSettings = replace(radio.settings, **fields)
    return set_radio(radio, sentence, settings=settings)


def set_option(radio: OwnedRadio, option: str, value: str) -> Edit:
    """Set a setting of the radio's own; an empty value leaves it as the radio has it."""
    others = tuple(item for item in radio.settings.options if item.option != option)
    options = (*others, OptionSetting(option, value)) if value else others
    sentence = f"{option} of {radio.name}: {value or 'as the radio has it'}"
    return set_settings(radio, sentence, options=options)


def set_key(radio: OwnedRadio, key: str, press: Press, action: str) -> Edit:
    """Set what a press of a key does; an empty action leaves it as the radio has it."""
    others = tuple(item for item in radio.settings.keys if (item.key, item.press) != (key, press))
    keys = (*others, KeySetting(key, press, action)) if action else others
    return set_settings(radio, f"Key {key}, {press}: {action or 'as the radio has it'}", keys=keys)


def set_people(radio: OwnedRadio, sentence: str, **fields: Any) -> Edit:
    """An edit of which people go onto the radio."""
    return set_radio(radio, sentence, people=replace(radio.people or PeopleChoice(), **fields))
