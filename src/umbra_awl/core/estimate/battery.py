"""Hours of use from a battery: its capacity over the average of the currents by their share of time."""

from typing import NamedTuple

USABLE = 0.85
"""Part of the stated capacity that is there in daily use (age, cold, cut-off voltage): a common rule of thumb."""


class BatteryError(ValueError):
    """Figures that no battery can have."""


class BatteryUse(NamedTuple):
    """Hours, and the average current in mA behind them."""

    hours: float
    average_ma: float
    usable_mah: float


def hours_of_use(
    capacity_mah: float, transmit_ma: float, receive_ma: float, idle_ma: float, transmit: float, receive: float
) -> BatteryUse:
    """Hours at these shares of time (0 to 1) in transmit and receive, the rest idle. Currents in mA. Raises BatteryError."""
    if capacity_mah <= 0 or min(transmit_ma, receive_ma, idle_ma) < 0 or transmit_ma + receive_ma + idle_ma <= 0:
        raise BatteryError("Capacity and currents must be more than nothing.")
    if min(transmit, receive) < 0 or transmit + receive > 1:
        raise BatteryError("Transmit and receive together are at most 100 % of the time.")
    average = transmit_ma * transmit + receive_ma * receive + idle_ma * (1 - transmit - receive)
    if average <= 0:
        raise BatteryError("With these shares no current flows at all; give an idle current.")
    usable = capacity_mah * USABLE
    return BatteryUse(usable / average, average, usable)
