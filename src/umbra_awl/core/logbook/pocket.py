"""What to prove next, for the pocket: a short text with the key-ups in their order, and what each is to show."""

from collections.abc import Iterable, Mapping

from umbra_awl.core.fit.fitting import Fit
from umbra_awl.core.logbook.proof import KeyUp
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.places import module_word, place_word
from umbra_awl.core.routes.order import order_of_use

_BOXES = "   heard it [ ]  own key [ ]  echo [ ]  heard by [ ]  answered [ ]  failed [ ]"


def next_words(index: PlanIndex, item: KeyUp) -> str:
    """A key-up in a line: where, on which slot or module, to whom."""
    route = index.routes[item.route]
    access, service, destination = index.parts(route)
    place = " ".join(filter(None, (access.by_site, module_word(service), place_word(service, destination, route.slot))))
    return f"{place}: {destination.name}"


def pocket_text(index: PlanIndex, fits: Mapping[str, Fit], listed: Iterable[KeyUp]) -> str:
    """The list as a text: which radio, zone and knob, what is called, what it proves, and a line to note what came of it."""
    lines = [f"{index.plan.name}: prove next", ""]
    for number, item in enumerate(listed, 1):
        channel = fits[item.radio].channel_of(item.route)
        name = index.radios[item.radio].name
        memory = fits[item.radio].memory
        zone = next((zone for zone in memory.zones if channel is not None and channel.number in zone.members), None)
        knob = (
            f", zone {zone.name}, knob {zone.members.index(channel.number) + 1}" if zone is not None and channel else ""
        )
        lines.append(f"{number}. {next_words(index, item)}")
        lines.append(f"   {name}: {channel.name if channel is not None else '?'}{knob}")
        lines += [f"   - {step}" for step in order_of_use(index, index.routes[item.route])]
        others = [next_words(index, KeyUp(key, item.radio, ())) for key in item.proves if key != item.route]
        if others:
            lines.append(f"   Proves the way to it for: {', '.join(others)}")
        lines += [
            _BOXES,
            "   call, report, BER, spot: ",
            "",
        ]
    lines.append("Listen first. Key, wait a second, speak. Identify. Not while driving.")
    return "\n".join(lines) + "\n"
