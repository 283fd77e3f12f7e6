"""What a picture costs before it is sent: blocks, airtime, battery and heat, against a repeater's time-out."""

import math
from typing import NamedTuple

from umbra_awl.core.messages.blocks import BLOCK_BYTES, BURST
from umbra_awl.core.messages.carriers import Carrier
from umbra_awl.core.plan.model import DataSpeed
from umbra_awl.core.radio.profile import Profile
from umbra_awl.core.transfer.frames import OVERHEAD

BLOCK_HEAD = 6
POLL_BYTES = OVERHEAD + 4
TURN_S = 0.8
"""From letting go of the key until the answer is in: turn round, a short answer, turn round."""
TIME_OUT_S = 180.0
WARM_S, HOT_S = 60.0, 180.0
"""Seconds at full duty after which a handheld gets warm, and hot, at its highest power. Own estimate; the case tells."""


class Cost(NamedTuple):
    """Bytes, blocks; seconds on the air as things are, with somebody speaking, and with a share of blocks lost.

    `longest_turn_s` is the longest time keyed at a stretch, `keyed_s` all of it; charge in mAh, its share of the battery.
    """

    size: int
    blocks: int
    seconds: float
    with_voice_s: float
    with_loss_s: float
    longest_turn_s: float
    keyed_s: float
    mah: float
    battery: float
    heat: str


class Means(NamedTuple):
    """By what it is sent: carrier, the radio's data speed and profile, its power step, the share of blocks that are lost."""

    carrier: Carrier
    speed: DataSpeed
    profile: Profile
    step: int = 0
    loss: float = 0.2


def airtime_s(length: int, rate_bps: int, loss: float = 0.0) -> tuple[float, float]:
    """Seconds until a picture of so many bytes is there, and seconds keyed of it, at a useful rate and a share of lost blocks.

    A lost block is sent again: each goes out 1 / (1 - loss) times on average. Offer and end are a turn each.
    """
    blocks = -(-length // BLOCK_BYTES)
    sent = blocks / max(1.0 - loss, 0.05)
    turns = _turns(blocks, loss)
    over_air = length / blocks * sent + sent * (OVERHEAD + BLOCK_HEAD) + turns * POLL_BYTES + 2 * (OVERHEAD + 150)
    keyed = over_air * 8 / rate_bps
    return keyed + (turns + 2) * TURN_S, keyed


def _turns(blocks: int, loss: float) -> float:
    """How many turns it takes: full bursts, then shrinking ones until the last block is through; lost answers are asked again."""
    full = blocks / (BURST * max(1.0 - loss, 0.05))
    tail = math.log(max(BURST * loss, 1.0)) / -math.log(loss) + 1 if 0 < loss < 1 else 0.0
    return (math.ceil(full) + tail) / max(1.0 - loss, 0.05) ** 2


def cost_of(length: int, means: Means) -> Cost:
    """What a picture of so many bytes costs."""
    carrier, profile = means.carrier, means.profile
    rate = carrier.rate_bps(means.speed)
    plain, _ = airtime_s(length, rate)
    voice, _ = airtime_s(length, carrier.rate_bps(means.speed, voice=True))
    lossy, keyed = airtime_s(length, rate, means.loss)
    burst = min(BURST, -(-length // BLOCK_BYTES)) * (BLOCK_BYTES + OVERHEAD + BLOCK_HEAD) * 8 / rate
    mah, share = _charge(profile, means.step, keyed)
    return Cost(
        length,
        -(-length // BLOCK_BYTES),
        plain,
        voice,
        lossy,
        burst,
        keyed,
        mah,
        share,
        _heat(profile, means.step, keyed),
    )


def _charge(profile: Profile, step: int, keyed_s: float) -> tuple[float, float]:
    battery = profile.battery
    if battery is None or not battery.transmit_ma:
        return 0.0, 0.0
    mah = battery.transmit_ma[min(step, len(battery.transmit_ma) - 1)] * keyed_s / 3600
    return mah, mah / battery.capacity_mah if battery.capacity_mah else 0.0


def _heat(profile: Profile, step: int, keyed_s: float) -> str:
    """How warm it gets, from the power of the step over the highest."""
    watts = profile.power_watts
    share = watts[min(step, len(watts) - 1)] / max(watts) if watts else 1.0
    if keyed_s * share > HOT_S:
        return "hot: pause between pictures, least power"
    return "warm" if keyed_s * share > WARM_S else "stays cool"


def cost_words(cost: Cost) -> tuple[str, str]:
    """The price in two lines: airtime; battery, heat and the time-out."""
    plain, voice, lossy = map(seconds_words, (cost.seconds, cost.with_voice_s, cost.with_loss_s))
    airtime = f"{cost.blocks} blocks: {plain} on the air, {voice} while somebody speaks, {lossy} with losses."
    battery = f"{cost.mah:.0f} mAh, {100 * cost.battery:.1f} % of the battery; " if cost.mah else ""
    over = "inside" if cost.longest_turn_s < TIME_OUT_S else "beyond"
    keyed = f"keyed {seconds_words(cost.longest_turn_s)} at a stretch, {over} a repeater's usual time-out of {TIME_OUT_S:.0f} s."
    return airtime, f"{battery}{cost.heat}; {keyed}"


def seconds_words(seconds: float) -> str:
    """“8 s”, “2 min 40 s”."""
    whole = round(seconds)
    return f"{whole} s" if whole < 100 else f"{whole // 60} min {whole % 60:02d} s"
