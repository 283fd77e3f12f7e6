"""Reach, exposure, battery and airtime declare themselves: the lines that the estimates themselves work by."""

from umbra_awl.core.asked.figure import Figure, FigureInput, WorkingLine
from umbra_awl.core.estimate.battery import USABLE, hours_of_use
from umbra_awl.core.estimate.exposure import distances
from umbra_awl.core.estimate.reach import End, reach
from umbra_awl.core.messages.blocks import BLOCK_BYTES, BURST
from umbra_awl.core.messages.cost import BLOCK_HEAD, POLL_BYTES, TURN_S, airtime_s
from umbra_awl.core.transfer.frames import OVERHEAD

_METHOD = "the method"
_NEAREST_KM = 0.05


def reach_figure(km: float, mhz: float, near: End, far: End, sources: tuple[str, str] = ("here", "there")) -> Figure:
    """The margin of a path in dB; `sources` say where the figures of the near and the far end came from."""
    here, there = sources
    lines = (
        WorkingLine("far_enough", "distance, not less than 50 m", f"max(km, {_NEAREST_KM})", "km"),
        WorkingLine("free", "loss in free space", "32.45 + 20 * log10(far_enough) + 20 * log10(mhz)", "dB"),
        WorkingLine("high", "the higher antenna", "max(near_m, far_m, 1)", "m"),
        WorkingLine("low", "the lower antenna", "max(min(near_m, far_m), 1)", "m"),
        WorkingLine("term", "its term", "76.3 - 10 * log10(low) if low <= 10 else 85.9 - 20 * log10(low)", "dB"),
        WorkingLine(
            "ground",
            "median loss over ground",
            "20 * log10(mhz) + 40 * log10(far_enough) - 20 * log10(high) + term",
            "dB",
        ),
        WorkingLine("loss", "the greater of the two", "max(free, ground)", "dB"),
        WorkingLine("up", "you arrive there with", "10 * log10(near_w) + 30 + near_dbi + far_dbi - loss", "dBm"),
        WorkingLine("down", "they arrive here with", "10 * log10(far_w) + 30 + near_dbi + far_dbi - loss", "dBm"),
        WorkingLine("margin", "over what is needed, the weaker way", "min(up - far_dbm, down - near_dbm)", "dB"),
    )
    inputs = (
        FigureInput("km", "distance", km, "km", "the two positions"),
        FigureInput("mhz", "frequency", mhz, "MHz", there, fixed=True),
        FigureInput("near_w", "your power", near.watts, "W", here),
        FigureInput("near_m", "your antenna's height", near.height_m, "m", here),
        FigureInput("near_dbi", "your antenna's gain", near.gain_dbi, "dBi", here),
        FigureInput("near_dbm", "what you need to hear", near.sensitivity_dbm, "dBm", "usual of the mode", fixed=True),
        FigureInput("far_w", "their power", far.watts, "W", there),
        FigureInput("far_m", "their antenna's height", far.height_m, "m", there),
        FigureInput("far_dbi", "their antenna's gain", far.gain_dbi, "dBi", there),
        FigureInput("far_dbm", "what they need to hear", far.sensitivity_dbm, "dBm", "usual of the mode", fixed=True),
    )
    return Figure(
        "reach", "Reach: margin over what is needed", reach(km, mhz, near, far).margin_db, "dB", lines, inputs,
        "J. J. Egli, Proc. IRE 45 (1957) 1383; ITU-R P.525. The median: half of all places are better, half worse.",
        note="10 dB above is likely, 10 dB below unlikely; hills in the way are not in it.",
    )  # fmt: skip


def exposure_figure(
    watts: float, gain_dbi: float, talk_share: float, mode_share: float, mhz: float, source: str = "your figures"
) -> Figure:
    """Metres to keep from an antenna by the stricter limits. Raises ExposureError."""
    far = max(distances(watts, gain_dbi, talk_share, mode_share, mhz), key=lambda item: item.public_m)
    lines = (
        WorkingLine("average", "average radiated power", "watts * talk * mode * 10 ** (gain / 10)", "W"),
        WorkingLine("metres", "where the limit is met", "sqrt(reflection * average / (4 * pi * limit))", "m"),
    )
    inputs = (
        FigureInput("watts", "power at the antenna", watts, "W", source),
        FigureInput("gain", "antenna's gain", gain_dbi, "dBi", source),
        FigureInput("talk", "share of the time talking", talk_share, "", source),
        FigureInput(
            "mode", "share of that at full power", mode_share, "", "the mode: 0.5 for one slot of two", fixed=True
        ),
        FigureInput("limit", "limit for the public", far.public_w_m2, "W/m²", far.limits.source, fixed=True),
        FigureInput("reflection", "reflecting ground", far.limits.reflection, "", "OET Bulletin 65 (1997)", fixed=True),
    )
    return Figure(
        "exposure", "Distance to keep from the antenna", far.public_m, "m", lines, inputs,
        f"{far.limits.source}; OET Bulletin 65 (1997), equation 6.", places=2,
        note="An estimate for the far field. Local rules decide; close to an antenna it says little.",
    )  # fmt: skip


def battery_figure(
    capacity_mah: float,
    currents_ma: tuple[float, float, float],
    shares: tuple[float, float],
    source: str = "the profile",
) -> Figure:
    """Hours of use; currents in transmit, receive and idle, shares of time in transmit and receive. Raises BatteryError."""
    transmit_ma, receive_ma, idle_ma = currents_ma
    transmit, receive = shares
    use = hours_of_use(capacity_mah, transmit_ma, receive_ma, idle_ma, transmit, receive)
    lines = (
        WorkingLine("idle", "share of the time idle", "1 - transmit - receive"),
        WorkingLine(
            "average", "average current", "transmit_ma * transmit + receive_ma * receive + idle_ma * idle", "mA"
        ),
        WorkingLine("usable", "what is there in daily use", "capacity * usable_share", "mAh"),
        WorkingLine("hours", "hours", "usable / average", "h"),
    )
    inputs = (
        FigureInput("capacity", "capacity as stated", capacity_mah, "mAh", source),
        FigureInput("usable_share", "usable part of it", USABLE, "", "a common rule of thumb", fixed=True),
        FigureInput("transmit_ma", "current in transmit", transmit_ma, "mA", source),
        FigureInput("receive_ma", "current in receive", receive_ma, "mA", source),
        FigureInput("idle_ma", "current idle", idle_ma, "mA", source),
        FigureInput("transmit", "share of the time in transmit", transmit, "", "your figures"),
        FigureInput("receive", "share of the time in receive", receive, "", "your figures"),
    )
    return Figure(
        "battery", "Hours of use from the battery", use.hours, "h", lines, inputs,
        "Capacity over the average of the currents by their share of time.",
        note="Cold, age and the display take their part.",
    )  # fmt: skip


def airtime_figure(length: int, rate_bps: int, loss: float, source: str = "carrier and speed") -> Figure:
    """Seconds until a picture of so many bytes is there."""
    seconds, _keyed = airtime_s(length, rate_bps, loss)
    sent = "max(1 - loss, 0.05)"
    tail = f"ln(max({BURST} * loss, 1)) / -ln(loss) + 1 if loss > 0 else 0"
    lines = (
        WorkingLine("blocks", "blocks", f"ceil(size / {BLOCK_BYTES})"),
        WorkingLine("sent", "blocks sent, lost ones again", f"blocks / {sent}"),
        WorkingLine("tail", "turns until the last is through", tail),
        WorkingLine("turns", "turns", f"(ceil(blocks / ({BURST} * {sent})) + tail) / {sent} ** 2"),
        WorkingLine(
            "over_air", "bytes over the air",
            f"size / blocks * sent + sent * {OVERHEAD + BLOCK_HEAD} + turns * {POLL_BYTES} + 2 * {OVERHEAD + 150}", "bytes",
        ),
        WorkingLine("keyed", "seconds keyed", "over_air * 8 / rate", "s"),
        WorkingLine("seconds", "with every turn", "keyed + (turns + 2) * turn", "s"),
    )  # fmt: skip
    inputs = (
        FigureInput("size", "size of the picture", length, "bytes", "the picture as it is cut"),
        FigureInput("rate", "useful rate", rate_bps, "bit/s", source),
        FigureInput("loss", "share of blocks lost", loss, "", "assumed", fixed=not loss),
        FigureInput("turn", "a turn", TURN_S, "s", _METHOD, fixed=True),
    )
    return Figure(
        "airtime", "Airtime of a picture", seconds, "s", lines, inputs,
        "The block transfer's own arithmetic; within a tenth of what the simulated transfer takes.", places=0,
    )  # fmt: skip
