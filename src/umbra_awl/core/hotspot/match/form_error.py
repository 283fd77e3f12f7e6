"""The error of a settings file that cannot be read or written."""


class FormError(ValueError):
    """A settings file that cannot be read; the message says why."""


MOST_DEPTH = 12
"""Settings are not nested deeper."""
