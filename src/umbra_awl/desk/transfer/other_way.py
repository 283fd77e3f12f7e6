"""What stands on the page of a way that the chosen radio does not go: how it is fed, and the step that leads there."""

from umbra_awl.core.radio.profile import WAY_WORDS, Profile, WayIn
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.blank import Blank, goes
from umbra_awl.desk.parts.pictures import radio

_PAGES = (("slot", "Go to the memory card"), ("cable", "Go to the cable"), ("app", "Go to the phone app"))


def other_way(bench: Workbench, profile: Profile, way: WayIn, page: str) -> Blank:
    """The blank for a radio that is not fed by `way`; `page` is the one of its own way, empty where it has none."""
    ways = " or ".join(WAY_WORDS[item] for item in profile.ways_in)
    acts = [(words, goes(bench, "transfer", name, "act")) for name, words in _PAGES if name == page]
    if "keypad" in profile.ways_in:
        acts.append(("Key sheet", goes(bench, "transfer", "keys")))
    acts.append(("As files", goes(bench, "transfer", "files")))
    text = f"{profile.name} takes its memory by {ways}. Its field card and its files are made here all the same."
    return Blank(f"No {WAY_WORDS[way]} for this radio", text, radio, tuple(acts[:3]))
