"""Which channels stand in which zone of a simulated radio."""

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from umbra_awl.core.simulation.controls import Controls


class ZoneMembers:
    """Looks for the controls."""

    def __init__(self, owner: "Controls") -> None:
        self._controls = owner

    def members(self) -> list[int]:
        """The channels of the zone that the radio is in."""
        if not 0 <= self._controls.zone < len(self._controls.memory.zones):
            return list(range(len(self._controls.ears)))
        place = {ear.channel.number: at for at, ear in enumerate(self._controls.ears)}
        return [place[number] for number in self._controls.memory.zones[self._controls.zone].members if number in place]

    def zone_of(self, at: int) -> int:
        """The zone that a channel stands in."""
        number = self._controls.ears[at].channel.number if self._controls.ears else 0
        return next((place for place, zone in enumerate(self._controls.memory.zones) if number in zone.members), -1)
