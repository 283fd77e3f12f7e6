"""The refusals of layouts, of files read by them, and of paper."""


class ColumnsError(ValueError):
    """A layout or a file that cannot be used by it; the message says where and why."""


class PaperError(ValueError):
    """A page that cannot be made; the message says why."""
