"""Whose a radio is, and under whose licence it transmits, as it stands on the day of the index."""

from functools import cached_property
from typing import TYPE_CHECKING

from msgspec.structs import replace

from umbra_awl.core.plan.model import (
    Identity,
    Licence,
    OwnedRadio,
    Station,
)
from umbra_awl.core.plan.permit import in_force

if TYPE_CHECKING:
    from umbra_awl.core.plan.index import PlanIndex


class Owners:
    """Identities, stations and licences of one plan."""

    def __init__(self, owner: "PlanIndex") -> None:
        self._index = owner

    def identity_of(self, radio: OwnedRadio) -> Identity | None:
        """The identity a radio carries: its own choice, or the owner's where it has none; None when who it names is not there."""
        identities = self._index.plan.station.identities
        if not radio.identity:
            return identities[0] if identities else None
        return next((item for item in identities if item.key == radio.identity), None)

    @cached_property
    def station(self) -> Station:
        """The station with its licence as it stands today: one granted on a day to come is not granted yet."""
        return self._under(self._index.plan.station.licence)

    def station_of(self, radio: OwnedRadio) -> Station:
        """The station as one radio's owner has it: with the licence of the identity that the radio carries."""
        identity = self.identity_of(radio)
        if identity is None:
            return self.station if not radio.identity else self._under(Licence())
        return self._under(self.licence_of(identity))

    def licence_of(self, identity: Identity) -> Licence:
        """Whose licence an identity transmits under: its own, or the station's for the owner and whoever was let share it."""
        if identity.licence is not None:
            return identity.licence
        owner = self._index.plan.station.identities[0]
        shares = identity.key == owner.key or identity.shares_licence
        return self._index.plan.station.licence if shares else Licence()

    def _under(self, licence: Licence) -> Station:
        standing = in_force(licence, self._index.today)
        return (
            self._index.plan.station
            if standing is self._index.plan.station.licence
            else replace(self._index.plan.station, licence=standing)
        )
