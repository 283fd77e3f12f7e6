"""What can go wrong with what comes from elsewhere."""


class SourceError(Exception):
    """Something from elsewhere cannot be read, kept or fetched; the message says what happened, to what, and what to do."""


class ReadError(SourceError):
    """A file cannot be read as what it should be."""
