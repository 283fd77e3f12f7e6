"""What can go wrong between this computer and a hotspot, each with a sentence."""


class HotspotError(OSError):
    """Base: the message says what happened and what to do."""


class NoHotspotError(HotspotError):
    """Nobody answers at that address."""


class StrangeAnswerError(HotspotError):
    """Something answers that is no hotspot, too much, too slowly, or elsewhere."""


class WrongKeyError(HotspotError):
    """The page's password is not that."""


class NotNowError(HotspotError):
    """The hotspot refuses, as it is just now."""
