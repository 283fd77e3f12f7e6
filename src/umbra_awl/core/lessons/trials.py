"""Trials that settle a radio's limits and the steps of its card: what is done, what is looked at, which value that is."""

from typing import NamedTuple

from msgspec.structs import replace

from umbra_awl.core.plan.model import Mode
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.radio.profile_edit import set_value
from umbra_awl.core.radio.taught import TaughtKeys, TriedLimit


class Trial(NamedTuple):
    """One trial: its key, what is done, what is asked, and the field that the answer settles.

    `answers` are those to choose from, each with the field's value (none: it is typed); `modes` those that it needs, `card`
    whether it needs a memory card. A trial without a field is kept with its answer, and nothing is fitted by it.
    """

    key: str
    do: str
    ask: str
    field: str = ""
    answers: tuple[tuple[str, str], ...] = ()
    modes: tuple[Mode, ...] = ()
    card: bool = False


_YES_NO = (("it is kept", ""), ("it is refused", ""))
TRIALS: tuple[Trial, ...] = (
    Trial("length", "Type the name ABCDEFGHIJKLMNOPQ (17 letters).", "How many letters are there at last?", "display.length"),
    Trial("small", "Type the name abc in small letters.", "What does it show?", "display.upper", (("abc", "no"), ("ABC", "yes"))),
    Trial("signs", "Go through all signs that a name may have.", "Which are there? Letters, digits and signs, one after another",
          "display.characters"),
    Trial("alike", "Keep two memories with the same name.", "What happens to the second?", "", _YES_NO),
    Trial("last", "Turn down from the first memory, or call up a memory of 999.", "Which number is the last?", "limits.channels"),
    Trial("zones", "Turn through the zones or banks to the last.", "How many are there?", "limits.zones"),
    Trial("full", "Put memories into one zone until it refuses.", "How many are in it?", "limits.zone_channels"),
    Trial("knob", "Turn the knob once round.", "How many places has it? 0 where it turns on and on", "knob_positions"),
    Trial("power", "Go through the power steps, without keying.", "Which are there, in watts, lowest first?", "power_watts"),
    Trial("receive", "Tune down and up until it refuses.", "From where to where, in MHz? 136-174, 400-480", "receive"),
    Trial("tone", "Set a tone of 69.3 Hz.", "Is it there?", "", (("yes", ""), ("no", ""))),
    Trial("color", "Set a color code of 15.", "Is it kept?", "", _YES_NO, ("dmr",)),
    Trial("calls", "Keep contacts until it refuses, or look into its manual.", "How many does it hold?", "limits.contacts",
          modes=("dmr",)),
    Trial("card out", "With its card in, write everything out by its menus.", "Which menus? SET › CARD › SAVE ALL",
          "card.write_out", card=True),
    Trial("card done", "Wait until it is done.", "What did its display say at the end?", "card.done", card=True),
    Trial("card folder", "Radio off, card out, look at it here.", "Which folder did it make for itself?", "card.folder",
          card=True),
    Trial("card backup", "Look for the newest file on it.", "In which folder inside that one is it?", "card.backup", card=True),
    Trial("card in", "Card in while off, radio on, read that same file in again.", "Which menus, in their order?",
          "card.read_in", card=True),
    Trial("card yes", "Count while it reads in.", "How often did it ask for a yes?", "card.yes", card=True),
    Trial("card restarts", "Look what it does after reading in.", "Does it restart by itself?", "card.restarts",
          (("yes", "yes"), ("no", "no")), card=True),
)  # fmt: skip
CAUTION = "None of these needs the key that sends. Where it sends is in its manual; try that into a load only."


def trials_for(profile: Profile) -> tuple[Trial, ...]:
    """The trials that a radio of these modes can be put to."""
    with_card = "card" in profile.ways_in
    return tuple(
        trial
        for trial in TRIALS
        if (not trial.modes or set(trial.modes) & set(profile.modes)) and (with_card or not trial.card)
    )


def answer_of(profile: Profile, trial: Trial) -> TriedLimit | None:
    """What a trial showed, where it was done."""
    taught = profile.taught or TaughtKeys()
    return next((item for item in taught.trials if item.trial == trial.key), None)


def tried_out(profile: Profile, trial: Trial, answer: str, day: str) -> Profile:
    """A profile with the outcome of a trial, and the value that it settles. Raises ValueError with a sentence."""
    answer = answer.strip()
    if not answer:
        raise ValueError("Type what the radio showed.")
    made = profile
    if trial.field:
        value = dict(trial.answers).get(answer, answer)
        made = set_value(made, trial.field, value)
    taught = made.taught or TaughtKeys()
    others = tuple(item for item in taught.trials if item.trial != trial.key)
    done: Profile = replace(made, taught=replace(taught, trials=(*others, TriedLimit(trial.key, answer, day))))
    return done


def settles(trial: Trial) -> str:
    """Which value a trial settles, in words."""
    return _SETTLES.get(trial.field, "kept beside the profile")


_SETTLES = {
    "display.length": "letters of a name",
    "display.upper": "capitals only",
    "display.characters": "characters of a name",
    "limits.channels": "memories",
    "limits.zones": "zones or banks",
    "limits.zone_channels": "memories in a zone",
    "limits.contacts": "contacts",
    "knob_positions": "places of the knob",
    "power_watts": "power steps",
    "receive": "what it receives",
    "card.write_out": "the menus that write everything out",
    "card.done": "how one sees that it is done",
    "card.folder": "the radio's folder on its card",
    "card.backup": "where its files lie",
    "card.read_in": "the menus that read everything in",
    "card.yes": "how often it asks",
    "card.restarts": "whether it restarts",
}
