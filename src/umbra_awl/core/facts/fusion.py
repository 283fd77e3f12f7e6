"""Numbers of System Fusion (C4FM): ways to send, DG-IDs, rooms.

Source: the mode's published user documentation: DN carries voice with data, VW wide voice, FM plain; automatic mode select
answers in the mode that arrives. DG-IDs run from 00 to 99, and 00 on receive opens for all of them.
"""

DGIDS = range(100)
HEARS_ALL = 0
WAY_WORDS = {"DN": "DN, voice with data", "VW": "VW, wide voice", "FM": "FM", "AMS": "automatic (AMS)"}
DIGITAL = frozenset({"DN", "VW"})
ROOM_NUMBERS = range(1, 100_000)


def dgid_fault(number: int) -> str:
    """Why a number cannot be a DG-ID, as a sentence; empty when it can."""
    return "" if number in DGIDS else f"{number} is not a DG-ID: 00 to 99 exist."


def room_fault(number: int | None) -> str:
    """Why a number cannot be a room's, as a sentence; empty when it can."""
    if number is None:
        return "A room has a number; it is what one types to connect."
    return "" if number in ROOM_NUMBERS else f"{number} is not a room: 1 to 99999 exist."


def shown_dgid(number: int) -> str:
    """A DG-ID as radios show it, two digits."""
    return f"{number:02d}"
