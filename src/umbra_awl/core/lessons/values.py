"""The values of one memory as they may be typed or chosen: numbers by their last digit, words as they stand in a menu, texts."""

from typing import NamedTuple

from umbra_awl.core.radio.memory import Channel, Memory
from umbra_awl.core.radio.profile import Profile

TENTHS = 10


class Values(NamedTuple):
    """Numbers (hertz; tones in tenths of a hertz), words and texts of a memory, by field."""

    numbers: dict[str, int]
    words: dict[str, str]
    texts: dict[str, str]

    def text(self, field: str) -> str:
        """A value as it is said: “438.6125”, “88.5”, “group”, “NESSA”; empty where the memory has none."""
        if field in self.numbers:
            return said_number(field, self.numbers[field])
        return self.words.get(field) or self.texts.get(field, "")


def said_number(field: str, value: int) -> str:
    """A number as it is said: frequencies in MHz, tones in hertz."""
    if field in {"rx", "tx", "offset"}:
        mhz = f"{value / 1e6:.6f}".rstrip("0")
        return mhz if len(mhz.partition(".")[2]) >= 3 else f"{value / 1e6:.3f}"
    return f"{value / TENTHS:.1f}" if field == "tone_tx" else str(value)


def memory_values(channel: Channel, memory: Memory, profile: Profile) -> Values:
    """The values of a channel of a memory, on a radio of a profile."""
    numbers = {"rx": channel.rx_hz, "tx": channel.tx_hz, "number": channel.number}
    shift = "off" if channel.tx_hz == channel.rx_hz else "+" if channel.tx_hz > channel.rx_hz else "−"
    if shift != "off":
        numbers["offset"] = abs(channel.tx_hz - channel.rx_hz)
    words = {
        "mode": channel.mode,
        "shift": shift,
        "width": "wide" if channel.width_hz > 12_500 else "narrow",
        "receive_only": "on" if channel.receive_only else "off",
        "tone": channel.tone_tx or "off",
    }
    if channel.power < len(profile.power_watts):
        words["power"] = f"{profile.power_watts[channel.power]:g} W"
    texts = {"name": channel.name}
    words["mode_width"] = f"{channel.mode} {words['width']}"
    _tone(channel.tone_tx, numbers, words)
    _digital(channel, memory, numbers, words, texts)
    return Values(numbers, words, texts)


def _tone(tone: str, numbers: dict[str, int], words: dict[str, str]) -> None:
    words["tone_kind"] = "code" if tone.startswith("D") else "tone" if tone else "off"
    if tone.startswith("D"):
        numbers["code_tx"] = int("".join(filter(str.isdigit, tone)))
    elif tone:
        numbers["tone_tx"] = round(float(tone) * TENTHS)


def _digital(
    channel: Channel, memory: Memory, numbers: dict[str, int], words: dict[str, str], texts: dict[str, str]
) -> None:
    slot = str(channel.slot or 1) if channel.mode == "dmr" else ""
    words["mode_slot"] = f"{channel.mode} {slot}".strip()
    words["mode_ring"] = f"{words['mode_width']} {slot}".strip()
    if channel.mode == "dmr":
        numbers["color_code"] = channel.color_code
        words |= {"slot": str(channel.slot or 1), "admit": channel.admit}
        if 0 < channel.contact <= len(memory.contacts):
            contact = memory.contacts[channel.contact - 1]
            numbers["contact"], words["call_kind"] = contact.call, contact.kind
    elif channel.mode == "dstar":
        texts |= {"ur": channel.ur.rstrip(), "rpt1": channel.rpt1.rstrip(), "rpt2": channel.rpt2.rstrip()}
    elif channel.mode == "fusion":
        numbers |= {"dgid_tx": channel.dgid_tx, "dgid_rx": channel.dgid_rx}
        words["way"] = channel.way
