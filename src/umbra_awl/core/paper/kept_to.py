"""What its operator keeps to where practitioners disagree, as lines for a radio's sheet and card."""

from collections.abc import Iterator

from umbra_awl.core.facts.habits import habit_questions
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.profile import Profile


def kept_to(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> tuple[str, ...]:
    """A line for each choice that concerns this radio, with what is to be done at its menus; none where nothing was chosen."""
    habits = index.plan.station.habits
    lines: list[str] = []
    for question in habit_questions():
        way = question.way(getattr(habits, question.field))
        if way is not None:
            told = " ".join(_here(question.field, way.key, radio, profile))
            lines.append(f"{question.topic}: {way.words}. {told}".strip())
    return tuple(lines)


def _here(field: str, key: str, radio: OwnedRadio, profile: Profile) -> Iterator[str]:
    """What the choice comes to on this radio."""
    if field == "time_out" and radio.settings.time_out_s:
        seconds = radio.settings.time_out_s
        yield "Off." if seconds == TIME_OUT_OFF else f"{seconds} s."
    if field == "settings" and key == "all":
        said = {item.option: item.value for item in radio.settings.options}
        for option in profile.options:
            keys = f" ({' '.join(option.keys)})" if option.keys else ""
            value = said.get(option.label, f"look: {', '.join(option.values)}")
            yield f"☐ {option.label}{keys}: {value}."
    if field == "updates" and key == "first" and profile.loading is not None:
        yield "☐ Is there a newer one? Before the memory is written."
