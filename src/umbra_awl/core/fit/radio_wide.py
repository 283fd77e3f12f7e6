"""What holds for a whole radio: keys, texts, position, time-out timer, automatic offset, free tuning, cut to what it takes."""

from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.facts.repeaters import USUAL_OFFSETS_HZ
from umbra_awl.core.fit.report import Line
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import OwnedRadio
from umbra_awl.core.plan.permit import guard_permit
from umbra_awl.core.plan.radios import TIME_OUT_OFF
from umbra_awl.core.radio.display import fold
from umbra_awl.core.radio.memory import Channel, HeldOption, HeldSettings, KeyPress
from umbra_awl.core.radio.profile import Extras, Profile


def fit_settings(
    index: PlanIndex, radio: OwnedRadio, profile: Profile, channels: list[Channel], lines: list[Line]
) -> HeldSettings:
    """The radio's settings; what it cannot take goes into the lines."""
    extras, wanted = profile.extras, radio.settings
    return HeldSettings(
        _startup(index, radio, profile),
        _quick_texts(radio, extras, profile, lines),
        wanted.position if wanted.position in extras.position else None,
        _time_out(wanted.time_out_s, extras, lines),
        _auto_offset(index, radio, extras, channels, lines),
        tuple(
            KeyPress(item.key, item.press, item.action)
            for item in wanted.keys
            if item.action in extras.actions
            and any(key.name == item.key and item.press in key.presses for key in extras.keys)
        ),
        _free_tuning(index, radio, profile, lines),
        _options(radio, profile, lines),
    )


def _options(radio: OwnedRadio, profile: Profile, lines: list[Line]) -> tuple[HeldOption, ...]:
    """Settings of its own that the plan says something of; those by its keys are told, since nothing writes them."""
    known = {option.label: option for option in profile.options}
    made: list[HeldOption] = []
    for item in radio.settings.options:
        option = known.get(item.option)
        if option is None or item.value not in option.values:
            lines.append(
                Line("left out", "", f"{item.option}: {item.value}", f"The {profile.name} has no such setting.")
            )
            continue
        made.append(HeldOption(item.option, item.value))
        where = f"Its keys: {' '.join(option.keys)}." if option.keys else "Its profile does not say by which keys."
        lines.append(Line("set", "", f"{item.option}: {item.value}", f"By hand, once for the whole radio. {where}"))
    return tuple(made)


def _free_tuning(index: PlanIndex, radio: OwnedRadio, profile: Profile, lines: list[Line]) -> bool | None:
    """Free tuning listens only while the guard is on, whatever was chosen: it is a channel that no memory holds back."""
    free = profile.free_tuning
    if free is None or not free.halves:
        return None
    guard = guard_permit(index.owners.station_of(radio).licence)
    if guard.allowed:
        return radio.settings.free_tuning
    way = "It is written with the memory." if free.by_cable else f"By hand: {free.how}." if free.how else ""
    lines.append(Line("set", "", "Free tuning listens only", f"{guard.reason} {way}".strip()))
    return False


def _startup(index: PlanIndex, radio: OwnedRadio, profile: Profile) -> str | None:
    identity = index.owners.identity_of(radio)
    text = radio.settings.startup
    if text is None:
        text = identity.startup or None if identity is not None else None
    if text is None or not profile.extras.startup:
        return None
    return fold(text, profile.display.rules)[: profile.extras.startup].strip()


def _quick_texts(radio: OwnedRadio, extras: Extras, profile: Profile, lines: list[Line]) -> tuple[str, ...]:
    wanted = radio.settings.quick_texts if extras.quick_texts else ()
    if len(wanted) > extras.quick_texts > 0:
        reason = f"The radio holds {extras.quick_texts} quick texts; {len(wanted)} are given."
        lines.append(Line("left out", "", f"{len(wanted) - extras.quick_texts} quick texts", reason))
    folded = [fold(text, profile.display.rules) for text in wanted[: extras.quick_texts]]
    for text in folded:
        if len(text) > extras.quick_length:
            reason = f"A quick text of this radio takes {extras.quick_length} characters."
            lines.append(Line("shortened", "", text[: extras.quick_length], reason))
    return tuple(text[: extras.quick_length].strip() for text in folded)


def _time_out(wanted_s: int, extras: Extras, lines: list[Line]) -> int:
    """The longest choice of the radio's timer that is not over the time wanted, in seconds; its shortest when all are.

    Off where it can be off, else the longest there is.
    """
    if wanted_s == TIME_OUT_OFF and extras.time_outs_s and not extras.time_out_off:
        longest = max(extras.time_outs_s)
        lines.append(Line("set", "", f"Time-out timer {longest} s", "This radio's cannot be switched off."))
        return longest
    if wanted_s == TIME_OUT_OFF:
        return TIME_OUT_OFF if extras.time_out_off else 0
    if not wanted_s or not extras.time_outs_s or wanted_s in extras.time_outs_s:
        return wanted_s if extras.time_outs_s else 0
    taken = max((item for item in extras.time_outs_s if item <= wanted_s), default=min(extras.time_outs_s))
    choices = ", ".join(map(str, extras.time_outs_s))
    lines.append(Line("set", "", f"Time-out timer {taken} s", f"for {wanted_s} s; the radio offers {choices} s."))
    return taken


def fighting(index: PlanIndex, channels: list[Channel]) -> int:
    """How many memories an automatic offset would shift otherwise than they are: it shifts everything in a band by one habit."""
    habit = {band.name: USUAL_OFFSETS_HZ.get(band.name, (0,))[0] for band in index.bands}
    bands = [band_at(index.bands, channel.rx_hz) for channel in channels]
    return sum(
        band is not None and abs(channel.tx_hz - channel.rx_hz) != habit[band.name]
        for band, channel in zip(bands, channels, strict=True)
    )


def _auto_offset(
    index: PlanIndex, radio: OwnedRadio, extras: Extras, channels: list[Channel], lines: list[Line]
) -> bool | None:
    if not extras.auto_offset:
        return None
    if radio.settings.auto_offset is not None:
        return radio.settings.auto_offset
    against = fighting(index, channels)
    if not against:
        return None
    reason = f"{against} of {counted(len(channels), 'memory')} have no offset or another one than the radio would set by itself."
    lines.append(Line("set", "", "Automatic offset off", reason))
    return False
