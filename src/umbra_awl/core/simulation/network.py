"""What is carried where: always, on demand for a while, or by a link, which there is one of at a time."""

import math

Place = tuple[str, int]
"""A service and a slot of it."""


class Carried:
    """Which groups go out at which places, and until when (seconds of simulated time)."""

    def __init__(self) -> None:
        self._places: dict[str, dict[Place, float]] = {}
        self.linked: dict[str, str] = {}

    def always(self, group: str, place: Place) -> None:
        """Carry a group for good."""
        self._places.setdefault(group, {})[place] = math.inf

    def join(self, group: str, place: Place, until: float) -> bool:
        """Carry a group until a moment, or longer where it was; whether it is new there."""
        held = self._places.setdefault(group, {})
        fresh = place not in held
        held[place] = max(held.get(place, 0.0), until)
        return fresh

    def link(self, service: str, slot: int, group: str) -> None:
        """Link a service to a group, and let go of what it was linked to."""
        self.unlink(service)
        self.linked[service] = group
        self.always(group, (service, slot))

    def unlink(self, service: str) -> str:
        """Let go of a service's link; what it was, empty for none."""
        group = self.linked.pop(service, "")
        if group:
            held = self._places.get(group, {})
            for place in [item for item in held if item[0] == service]:
                del held[place]
        return group

    def drop(self, place: Place) -> tuple[str, ...]:
        """Let go of what was joined on demand at a place; what that was."""
        gone = tuple(group for group, held in self._places.items() if held.get(place, math.inf) < math.inf)
        for group in gone:
            del self._places[group][place]
        return gone

    def expire(self, group: str, place: Place, now: float) -> bool:
        """Let go of a group whose time is over; whether it was."""
        held = self._places.get(group, {})
        if held.get(place, math.inf) > now:
            return False
        del held[place]
        return True

    def carries(self, group: str, place: Place, now: float) -> bool:
        """Whether a group goes out at a place."""
        return self._places.get(group, {}).get(place, -1.0) > now

    def places(self, group: str, now: float) -> list[Place]:
        """Where a group goes out now."""
        held = self._places.get(group)
        return [place for place, until in held.items() if until > now] if held else []
