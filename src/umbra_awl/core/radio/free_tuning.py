"""Free tuning in words: it is a channel of its own for each half, and no memory that only listens holds it back."""

from umbra_awl.core.radio.profile import Profile

_UNSAID = "The profile does not say which menu; look for it in the radio's manual"


def still_sends(profile: Profile) -> str:
    """That free tuning is outside the guard, and what prohibits it; empty for a radio that has only memories."""
    free = profile.free_tuning
    if free is not None and not free.halves:
        return ""
    halves = free.halves if free is not None else ()
    each = f", on {' and '.join(f'half {half}' for half in halves)} each" if len(halves) > 1 else ""
    return f"Free tuning still sends outside the memories{each}. {prohibited_by(profile)}"


def prohibited_by(profile: Profile) -> str:
    """What keeps free tuning from sending, as sentences."""
    free = profile.free_tuning
    how = free.how if free is not None else ""
    cable = "A write by cable prohibits it. " if free is not None and free.by_cable else ""
    return f"{cable}By hand: {how}." if how else f"{cable}{_UNSAID}."
