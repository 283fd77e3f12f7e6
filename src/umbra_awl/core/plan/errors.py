"""What can go wrong with a plan on disk, as one family.

StoreError                 it could not be opened, saved or copied
├── ChangedOutsideError    the file is no longer what was opened or saved here
└── TakenError             there is something of that name already
"""


class StoreError(Exception):
    """A plan that could not be opened or saved; the message says what happened, to what, and what to do."""


class ChangedOutsideError(StoreError):
    """Another program has changed the file since it was opened or saved here; nothing was written."""


class TakenError(StoreError):
    """Something of that name is there already; nothing was written."""


def why(error: OSError) -> str:
    """An operating system's reason as the end of a sentence."""
    return (error.strerror or str(error)).rstrip(".").lower()
