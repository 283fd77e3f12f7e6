"""What in a profile contradicts itself, each fault with the field it is about and a sentence."""

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.keep.naming import path_name
from umbra_awl.core.radio.keypad import Keypad
from umbra_awl.core.radio.profile import FreeTuning, ImageRegion, NumberSpan, Profile

MOST = 1_000_000


class ProfileFault(NamedTuple):
    """A contradiction: the field it is about (“limits.channels”), and the sentence."""

    field: str
    text: str


def profile_faults(profile: Profile) -> list[ProfileFault]:
    """Everything in a profile that contradicts itself; empty when it can be fitted to."""
    return [
        *_naming(profile),
        *_numbers(profile),
        *_bands(profile),
        *_power(profile),
        *_kinds(profile),
        *_extras(profile),
        *(_free_tuning(profile.free_tuning, profile) if profile.free_tuning is not None else ()),
        *(_keypad(profile.keypad, profile) if profile.keypad is not None else ()),
        *(_image(profile) if profile.by_cable or profile.image.size else ()),
        *_card(profile),
    ]


def _naming(profile: Profile) -> Iterator[ProfileFault]:
    if not profile.name.strip():
        yield ProfileFault("name", "The profile needs a name.")
    if not profile.modes:
        yield ProfileFault("modes", "“modes” must name at least one of fm, dmr, dstar and fusion.")
    if not profile.ways_in:
        yield ProfileFault("ways_in", "“ways_in” must name at least one of cable, card, app, keypad and file.")
    display = profile.display
    if not 4 <= display.length <= 64 or len(set(display.characters)) < 11:
        yield ProfileFault("display", "The display must show 4 to 64 characters and know letters and digits.")
    if display.upper and display.characters != display.characters.upper():
        yield ProfileFault(
            "display", "The display is said to know capitals only, and small letters are among its characters."
        )


def _numbers(profile: Profile) -> Iterator[ProfileFault]:
    limits = profile.limits
    for name in limits.__struct_fields__:
        least = 0 if name in {"access_list", "call_signs", "rooms"} else 1
        value = getattr(limits, name)
        if value < least:
            yield ProfileFault(f"limits.{name}", f"The limit “{name}” must be at least {least}.")
        elif value > MOST:
            yield ProfileFault(f"limits.{name}", f"The limit “{name}” is over {MOST}; no radio holds so much.")
    if limits.zone_channels > limits.channels:
        held = counted(limits.channels, "channel")
        text = f"A zone of {counted(limits.zone_channels, 'channel')} is longer than the {held} of the radio."
        yield ProfileFault("limits.zone_channels", text)
    if profile.knob_positions < 0 or profile.knob_positions > 64:
        yield ProfileFault("knob_positions", "A knob has 0 (it turns on and on) to 64 positions.")


def _bands(profile: Profile) -> Iterator[ProfileFault]:
    for name, spans in (("receive", profile.receive), ("transmit", profile.transmit)):
        for span in spans:
            if not 0 < span.low_hz < span.high_hz:
                text = f"A range under “{name}” from {span.low_hz} to {span.high_hz} Hz has no width; give the lower edge first."
                yield ProfileFault(name, text)
    if not profile.receive:
        yield ProfileFault("receive", "“receive” must give at least one range: a radio hears something.")
    for span in profile.transmit:
        if not any(_inside(span, other) for other in profile.receive):
            text = (
                f"It is said to transmit from {span.low_hz / 1e6:g} to {span.high_hz / 1e6:g} MHz, where it does not receive. "
                "Widen “receive”, or narrow “transmit”."
            )
            yield ProfileFault("transmit", text)


def _inside(span: NumberSpan, other: NumberSpan) -> bool:
    return other.low_hz <= span.low_hz and span.high_hz <= other.high_hz


def _power(profile: Profile) -> Iterator[ProfileFault]:
    watts = list(profile.power_watts)
    if not watts or watts != sorted(watts) or watts[0] <= 0:
        yield ProfileFault("power_watts", "The power steps must be given in watts, lowest first.")
    battery = profile.battery
    if battery is not None and len(battery.transmit_ma) != len(watts):
        yield ProfileFault("battery", "The battery's transmit currents must be as many as the power steps.")
    if (
        battery is not None
        and min(battery.capacity_mah, battery.receive_ma, battery.idle_ma, *battery.transmit_ma) <= 0
    ):
        yield ProfileFault("battery", "The battery's capacity and currents must be above zero.")
    if not profile.admit:
        yield ProfileFault("admit", "“admit” must name at least one of always, free and color.")


def _kinds(profile: Profile) -> Iterator[ProfileFault]:
    limits, modes = profile.limits, profile.modes
    if (limits.access_list or limits.call_signs) and "dstar" not in modes:
        yield ProfileFault(
            "limits.access_list", "An access list and call-sign memories belong to D-STAR, which “modes” does not name."
        )
    if limits.rooms and "fusion" not in modes:
        yield ProfileFault("limits.rooms", "Rooms belong to System Fusion, which “modes” does not name.")
    keys = [item.key for item in profile.firmware]
    if len(keys) != len(set(keys)):
        yield ProfileFault("firmware", "Two firmware variants have the same key.")
    if any(item.people for item in profile.firmware) and profile.people is None:
        yield ProfileFault("people", "A firmware holds people; give [people] with the columns and their order.")
    if profile.people is not None and not profile.people.columns:
        yield ProfileFault("people", "The people list needs at least the column “id”.")


def _extras(profile: Profile) -> Iterator[ProfileFault]:
    extras = profile.extras
    names = [key.name for key in extras.keys]
    if len(names) != len(set(names)):
        yield ProfileFault("extras.keys", "Two keys have the same name.")
    if extras.keys and not extras.actions:
        yield ProfileFault("extras.actions", "Keys are named, and no action that they can be set to.")
    if "one-touch" in extras.actions and not extras.one_touch:
        yield ProfileFault("extras.one_touch", "“one-touch” is among the actions, and “one_touch” is off.")
    if not extras.position:
        yield ProfileFault("extras.position", "“position” must name at least “none”.")


def _free_tuning(free: FreeTuning, profile: Profile) -> Iterator[ProfileFault]:
    if len(set(free.halves)) != len(free.halves):
        yield ProfileFault("free_tuning.halves", "Two halves have the same name.")
    if free.by_cable and not profile.image.settings_at:
        text = "Free tuning is said to be set by cable, and the image has no “settings_at” where it would lie."
        yield ProfileFault("free_tuning.by_cable", text)


def _keypad(keypad: Keypad, profile: Profile) -> Iterator[ProfileFault]:
    fields = [menu.field for menu in keypad.menus]
    for needed in ("rx", "name", "save"):
        if needed not in fields:
            yield ProfileFault("keypad", f"The keypad has no menu for “{needed}”.")
    typed = {char for item in keypad.letters for char in item.types}
    typed |= {char.lower() for char in typed} if keypad.case else set()
    lost = sorted(set(profile.display.characters) - typed)
    if lost:
        yield ProfileFault("keypad", f"The display knows {' '.join(map(repr, lost[:6]))}, which no key types.")
    for menu in keypad.menus:
        if menu.field == "power" and len(menu.values) != len(profile.power_watts):
            text = f"The menu for power has {len(menu.values)} values, and the radio {len(profile.power_watts)} power steps."
            yield ProfileFault("keypad", text)
    for item in keypad.begin:
        if item.want not in item.values:
            yield ProfileFault(
                "keypad.begin", f"“{item.label}” is to show “{item.want}”, which is not among its values."
            )
    if keypad.free_tuning is not None and "off" not in keypad.free_tuning.values:
        yield ProfileFault("keypad.free_tuning", "The menu for free tuning needs the value “off”.")
    if "keypad" not in profile.ways_in:
        yield ProfileFault("ways_in", "A keypad is described, and “ways_in” does not name it.")


def _image(profile: Profile) -> Iterator[ProfileFault]:
    image, limits = profile.image, profile.limits
    baud = profile.line.baud or bool(profile.way)
    if profile.by_cable and (not image.size or not baud or profile.line.block < 1):
        yield ProfileFault("image", "A radio with a cable needs [line] and [image].")
        return
    if profile.codec:
        return  # where its tables lie is its driver's knowledge
    yield from _records(profile)
    spans = sorted(
        (region.at, region.at + region.record * count, name)
        for name, region, count in (
            ("channels", image.channels, limits.channels),
            ("contacts", image.contacts, limits.contacts),
            ("group_lists", image.group_lists, limits.group_lists),
            ("zones", image.zones, limits.zones),
            ("scans", image.scans, limits.scan_lists),
            ("access_list", image.access_list, limits.access_list),
            ("call_signs", image.call_signs, limits.call_signs),
            ("rooms", image.rooms, limits.rooms),
            ("settings", ImageRegion(image.settings_at, profile.settings_length), 1 if image.settings_at else 0),
        )
    )
    for (_low, end, name), (start, _high, other) in pairwise(span for span in spans if span[1] > span[0]):
        if end > start:
            yield ProfileFault("image", f"In the image, “{name}” reaches into “{other}”.")
    if spans[-1][1] > image.size:
        yield ProfileFault("image", f"In the image, “{spans[-1][2]}” reaches beyond its size.")
    yield from _unit(image.unit.at, image.unit.at + image.unit.length, spans, image.size)


def _records(profile: Profile) -> Iterator[ProfileFault]:
    """A name longer than its record, and whatever else of a row finds no room in it, would run into the next one."""
    width, longest = profile.display.length, profile.limits.zone_channels
    least = {"channels": width + 20, "zones": 1 + width + 2 * longest}
    for name, needed in least.items():
        record = getattr(profile.image, name).record
        if record < needed:
            yield ProfileFault("image", f"In the image, a record of “{name}” has {record} bytes and needs {needed}.")


def _card(profile: Profile) -> Iterator[ProfileFault]:
    card = profile.card
    if card is None:
        return
    if "card" not in profile.ways_in:
        yield ProfileFault("ways_in", "A memory card is described, and “ways_in” does not name it.")
    if not profile.image.size:
        yield ProfileFault("card", "A radio with a described memory card needs [image].")
    names = [card.folder, card.backup, *([card.around.folder] if card.around is not None else [])]
    for name in names:
        if path_name(name) != name:
            yield ProfileFault("card.folder", f"“{name}” is no name for a folder: letters, digits, - and _ only.")
    if len({name.casefold() for name in names[1:]}) < len(names) - 1:
        yield ProfileFault("card.around.folder", "The list around needs a folder of its own on the card.")
    if not 1 <= card.yes <= 5:
        yield ProfileFault("card.yes", "“yes” says how often the radio asks: 1 to 5 times.")
    if not card.write_out or not card.read_in:
        yield ProfileFault("card", "Give the menus: “write_out” and “read_in”, last the word for everything.")


def _unit(start: int, end: int, spans: list[tuple[int, int, str]], size: int) -> Iterator[ProfileFault]:
    """The bytes that tell one radio from another must lie in the image, and not where a memory is written."""
    if start < 0 or end > size or end < start:
        yield ProfileFault("image", "In the image, “unit” reaches beyond its size.")
    for low, high, name in spans:
        if start < high and low < end:
            yield ProfileFault("image", f"In the image, “unit” reaches into “{name}”.")
