"""Rules that follow what the operator chose where practitioners disagree; without a choice none of them speaks."""

from collections.abc import Iterator, Mapping

from umbra_awl.core.findings.model import Finding, Repair, Rule, Target
from umbra_awl.core.fit.choices import set_settings
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.profile import Profile

NO_TIME_OUT = Rule(
    "time-out-not-set",
    "note",
    "Time-out is not set",
    "You chose to set it: a key that sticks is off the air by itself then.",
)
TIME_OUT = Rule(
    "time-out-set",
    "note",
    "Time-out is set",
    "You chose to leave it off: it cuts a long over in the middle.",
)
NOT_LOOKED_AT = Rule(
    "settings-not-looked-at",
    "note",
    "Settings nobody looked at",
    "You chose to look through all settings of a radio once. What is not said yet stays as the radio has it.",
)
NOT_ALONE = Rule(
    "settings-not-left-alone",
    "note",
    "Settings that could be left alone",
    "You chose to leave settings alone that are not needed; these are changed by the plan.",
)
DATA_BY_ITSELF = Rule(
    "data-by-themselves",
    "note",
    "Data go along by themselves",
    "You chose speech only on a shared channel; this radio sends data along with it.",
)
NO_DATA = Rule(
    "data-wait-for-key",
    "note",
    "Data wait for a key",
    "You chose texts beside speech; this radio sends them only by a key of their own.",
)
USUAL_S = 180
"""Three minutes: what repeaters' own timers mostly are."""


def check_habits(index: PlanIndex, profiles: Mapping[str, Profile]) -> Iterator[Finding]:
    """All findings on radios that are set otherwise than their operator chose."""
    for radio in index.plan.radios:
        profile = profiles.get(radio.profile)
        if profile is not None:
            yield from _time_out(index, radio, profile)
            yield from _settings(index, radio, profile)
            yield from _texts(index, radio, profile)


def _time_out(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> Iterator[Finding]:
    habit, now, offered = index.plan.station.habits.time_out, radio.settings.time_out_s, profile.extras.time_outs_s
    target = Target("radio", radio.key)
    if habit == "set" and offered and now <= 0:
        seconds = max((item for item in offered if item <= USUAL_S), default=min(offered))
        edit = set_settings(radio, f"Set the time-out of {radio.name} to {seconds} s", time_out_s=seconds)
        yield Finding(
            NO_TIME_OUT, target, f"The time-out of {radio.name} is not set.", Repair(f"Set {seconds} s", edit)
        )
    if habit == "off" and now > 0:
        off = TIME_OUT_OFF if profile.extras.time_out_off else 0
        label = "Switch it off" if off else "Leave it as the radio has it"
        edit = set_settings(radio, f"{label}: time-out of {radio.name}", time_out_s=off)
        yield Finding(TIME_OUT, target, f"{radio.name} stops by itself after {now} s.", Repair(label, edit))


def _settings(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> Iterator[Finding]:
    habit, target = index.plan.station.habits.settings, Target("radio", radio.key)
    said = {item.option for item in radio.settings.options}
    left = [option.label for option in profile.options if option.label not in said]
    if habit == "all" and left:
        text = f"Of {radio.name} nobody looked at {', '.join(left)}. Choose a value, or write down what it has."
        yield Finding(NOT_LOOKED_AT, target, text)
    if habit == "alone" and said:
        edit = set_settings(radio, f"Leave the settings of {radio.name} alone", options=())
        text = f"The plan changes {', '.join(sorted(said))} of {radio.name}."
        yield Finding(NOT_ALONE, target, text, Repair("Leave them as the radio has them", edit))


def _texts(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> Iterator[Finding]:
    habit, now = index.plan.station.habits.texts, radio.settings.data_by_itself
    if profile.extras.data == "none":
        return
    target = Target("radio", radio.key)
    if habit == "alone" and now:
        edit = set_settings(radio, f"Let {radio.name} send data by a key only", data_by_itself=False)
        yield Finding(
            DATA_BY_ITSELF, target, f"{radio.name} sends data along by itself.", Repair("By a key only", edit)
        )
    if habit == "beside" and now is False:
        edit = set_settings(radio, f"Let {radio.name} send data by itself", data_by_itself=True)
        yield Finding(NO_DATA, target, f"{radio.name} sends data by a key only.", Repair("Beside speech", edit))
