"""What can go wrong on the way to a radio, as one family.

TransferError
├── LinkError            the line
│   ├── NoPortError          the port does not open
│   ├── SilentError          nobody answers
│   └── UnpluggedError       the line went away
├── RadioError           the radio's own refusals
│   ├── WrongModelError      another kind of radio
│   ├── WriteLockedError     it does not let itself be written
│   ├── RadioFullError       it has no room
│   ├── OtherUnitError       another radio of the same kind
│   ├── ChangedRadioError    it no longer holds what was read
│   ├── LoadingError         its firmware is not whole
│   └── BatteryError         its battery is too low for that
├── FirmwareError        a firmware file that cannot be used
├── CardError            the memory card
│   ├── NoCardError          it is not here
│   ├── CardFullError        no room on it
│   ├── CardLockedError      it does not let itself be written
│   ├── CardGoneError        it was pulled in the middle
│   ├── CardFileError        a file on it that cannot be used
│   ├── PartOnlyError        the radio wrote only a part onto it
│   └── OlderError           what is on it is older than what was read last
├── AppError             the phone app
│   ├── NoPhoneError         nobody answers
│   ├── AppAsleepError       the phone sleeps
│   └── AppFormError         what it sends cannot be used
├── DriverError          a driver that is not there, or failed
├── ImageError           a memory file of another size, or a value that has no room in the radio's bytes
├── StaleError           what is to be written does not belong to what was read
├── CancelledError       the operator stopped it
├── ShelfError           a backup cannot be kept or read
└── NotProvenError       what was read back differs from what was written
"""


class TransferError(Exception):
    """A transfer that did not go through; the message says what happened, to what, and what to do."""


class LinkError(TransferError):
    """The line to the radio failed."""


class NoPortError(LinkError):
    """The port does not open."""


class SilentError(LinkError):
    """Nobody answers on the line."""


class UnpluggedError(LinkError):
    """The line went away in the middle."""


class RadioError(TransferError):
    """The radio refused."""


class WrongModelError(RadioError):
    """The radio is of another kind than the plan says."""


class WriteLockedError(RadioError):
    """The radio does not let itself be written."""


class RadioFullError(RadioError):
    """The radio has no room for a block."""


class OtherUnitError(RadioError):
    """Another radio of the same kind than the one that was read, or that a backup is of."""


class ChangedRadioError(RadioError):
    """The radio no longer holds what was read from it."""


class LoadingError(RadioError):
    """The radio is in loading state."""


class RadioBatteryError(RadioError):
    """The radio's battery is too low for what is asked."""


class FirmwareError(TransferError):
    """A firmware file that cannot be used, or must not be loaded now."""


class CardError(TransferError):
    """The way over a memory card failed."""


class NoCardError(CardError):
    """The card is not here."""


class CardFullError(CardError):
    """The card has no room."""


class CardLockedError(CardError):
    """The card does not let itself be written."""


class CardGoneError(CardError):
    """The card was pulled in the middle."""


class CardFileError(CardError):
    """A file on the card that cannot be used."""


class PartOnlyError(CardError):
    """The radio wrote only a part of its memory onto the card."""


class OlderError(CardError):
    """What is on the card is older than what was read from this radio last."""


class AppError(TransferError):
    """The way over a phone app failed."""


class NoPhoneError(AppError):
    """No app answers."""


class AppAsleepError(AppError):
    """The phone sleeps; its app has lost the radio."""


class AppFormError(AppError):
    """What an app sends, or a file of one, cannot be used."""


class DriverError(TransferError):
    """A driver of the operator's own is not installed, not switched on, or failed."""


class ImageError(TransferError):
    """An image that is not of this profile's size, or a memory that does not go into it."""


class StaleError(TransferError):
    """What is to be written was not made of what was read, or is not what the plan says now."""


class CancelledError(TransferError):
    """The operator stopped the transfer."""


class ShelfError(TransferError):
    """A backup cannot be kept or read."""


class NotProvenError(TransferError):
    """What was read back differs from what was written."""
