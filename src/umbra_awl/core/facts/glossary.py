"""The words that this application uses in a sense of its own, each for one thing only. All others are the field's own."""

from typing import NamedTuple


class Word(NamedTuple):
    """A word and what it means, in a sentence or two."""

    word: str
    meaning: str


GLOSSARY = (
    Word("access point", "Where you get onto the air: a repeater, a hotspot, or a frequency that is worked directly."),
    Word("service", "One mode of an access point on one pair of frequencies: its DMR, its D-STAR module, its FM."),
    Word(
        "destination",
        "Whom you want to reach: a talk group, a reflector, a room, a station, or whoever listens here (“local”).",
    ),
    Word("crossing", "Where a service and a destination meet on the punch sheet."),
    Word(
        "punch, hole",
        "To punch a crossing makes a route of it: the hole. Where there are two time slots, it stands left or right.",
    ),
    Word(
        "route",
        "A destination reached through a service, in a time slot where there are two. It becomes a channel in each radio.",
    ),
    Word("shade", "A crossing that cannot be: the two are of different modes or networks. Pointing at it says why."),
    Word("plan", "The one file with all of this: your station, access points, destinations, routes, zones and radios."),
    Word("station", "You: call sign, IDs, licence, place, networks."),
    Word("guard", "Keeps every channel to receiving, until the licence is granted and you lift it."),
    Word("profile", "What one kind of radio can do: its modes, bands, limits, display and keys."),
    Word(
        "fit",
        "The plan as one radio gets it: channels, contacts, lists and zones inside its limits, names cut to its display.",
    ),
    Word("memory", "What a radio holds, all of it. A place in it is a channel, or a memory with its number."),
    Word("over", "One transmission of somebody, from key down to key up. On the lanes it is a bar."),
    Word(
        "lane",
        "A row of the picture On air: you, your radio, the access point's slots, gateway, network, far listeners.",
    ),
    Word("scene", "A short play of something that happens on the air, on a practice plan or on your own."),
    Word("evening", "Two hours simulated with a seed: a thousand of them give shares and waits with their spread."),
    Word(
        "proof",
        "What the log says of a route: repeater heard, own key heard, echo, heard by somebody, answered; its age; its doubt.",
    ),
    Word("finding", "Something in the plan that is wrong or doubtful, with its reason and, mostly, a repair."),
    Word(
        "stop, warn, note",
        "The three grades of a finding: it would not work or must not be; it may not work; worth knowing.",
    ),
    Word("trace", "A key-up followed hop by hop, from you to the far listeners, before anything is written."),
    Word("hop", "One station on that way: you, the guard, the radio, the access point, the network, the far side."),
    Word("shelf", "The dated backups of what each radio held."),
    Word("prove", "To read a radio back after writing and find it equal. Until then nothing is said to be in it."),
    Word("call key", "A key of the radio that calls one contact, whatever the channel."),
    Word("bring in", "To make a plan of a radio that is programmed already, or to join it with yours."),
    Word(
        "directory",
        "What lists tell of access points, people and talk groups. Taking one from it puts it into the plan.",
    ),
    Word("layout", "Which column of a file is which of our fields, kept by a name."),
    Word(
        "link memory, talk memory",
        "On D-STAR: one memory links to a reflector, another talks. A thread joins their two holes.",
    ),
    Word(
        "ruler",
        "A band as one sees it when a place for a hotspot is sought: every channel with a score and its reasons.",
    ),
    Word("ladder", "The proofs that a hotspot works, weak to strong: from its display to somebody who answers."),
    Word("rehearsal", "The next morning played with a simulated home, phone and hotspot, before one leaves."),
    Word("road sheet", "What to do with the hotspot on a trip, on paper: steps, names, address, what to see."),
    Word("net", "People who meet at a set hour in their own time zone, on a destination of the plan."),
    Word("drill", "A practice: a fault sought in a copy of the plan, keys typed on a screen, a question."),
    Word("slip", "A mistake as operators make it. A drill seeds one to three of them."),
    Word(
        "ancestor",
        "What two plans come from. What one side changed since then comes by itself, what both did is asked.",
    ),
    Word("club pack", "A zip that a club hands round: base plan, profiles, layouts, rules, with checksums."),
    Word("figure", "A number that can be asked by F4: how it is worked out, from what, and what would change it most."),
)


def page() -> str:
    """The glossary as a page of Markdown."""
    lines = [f"- **{item.word}**: {item.meaning}" for item in GLOSSARY]
    return "\n".join(["# Words", "", "Each of these is used for one thing only.", "", *lines, ""])
