"""The refusal of a page."""


class PaperError(ValueError):
    """A page that cannot be made; the message says why."""
