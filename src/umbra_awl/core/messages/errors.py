"""What can go wrong with texts and pictures, as one family.

MessageError
├── PictureError      a file that is no picture, or one that is not taken
├── MayNotSendError   guard, licence, or the mode forbid it
├── AirError          the radio does not key, or nobody answers
│   └── BrokenOffError    it broke off; it can be gone on with
└── NotTakenError     the far side refuses: not ready, or no card
"""


class MessageError(Exception):
    """A text or picture that did not go; the message says what happened, to what, and what to do."""


class PictureError(MessageError):
    """A file that is no picture, or one that is not taken."""


class MayNotSendError(MessageError):
    """Guard, licence or the mode forbid it."""


class AirError(MessageError):
    """The radio does not key, or its line fails."""


class BrokenOffError(AirError):
    """It broke off in the middle; what arrived is kept there."""


class NotTakenError(MessageError):
    """The far side refuses."""
