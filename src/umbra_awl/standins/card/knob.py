"""The knob, the key and the display of the simulated radio with a card."""

from typing import TYPE_CHECKING

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.radio.memory import Channel
from umbra_awl.core.transfer.protocols import codec_of

if TYPE_CHECKING:
    from umbra_awl.standins.card.radio import CardRadio


class ChannelKnob:
    """Stands on one memory of the radio and shows it."""

    def __init__(self, owner: "CardRadio") -> None:
        self._radio = owner
        self.channel = 1

    def _channels(self) -> tuple[Channel, ...]:
        return codec_of(self._radio.profile).decode(self._radio.image).channels

    def turn(self, step: int = 1) -> None:
        """Turn the knob to the next memory."""
        count = len(self._channels())
        self.channel = (self.channel - 1 + step) % count + 1 if count else 1
        if self._radio.on:
            self.show_channel()

    def turn_to(self, name: str) -> None:
        """Turn to a memory by its name."""
        numbers = [channel.number for channel in self._channels() if channel.name == name]
        self.channel = numbers[0] if numbers else self.channel
        if self._radio.on:
            self.show_channel()

    def key(self) -> None:
        """Press the key: the display shows what it sends on, or refuses."""
        found = self._here()
        if not self._radio.on or found is None:
            return
        able = self._radio.profile.transmits(found.tx_hz)
        word = "RX ONLY" if found.receive_only else "OUT OF BAND" if not able else f"TX {format_mhz(found.tx_hz)}"
        self._radio.say(found.name, word)

    def _here(self) -> Channel | None:
        return next((item for item in self._channels() if item.number == self.channel), None)

    def show_channel(self) -> None:
        """Show the memory that the knob stands on."""
        found = self._here()
        self._radio.say(found.name, format_mhz(found.rx_hz)) if found is not None else self._radio.say("NO MEMORIES")
