"""The refusal of layouts and of files read by them."""


class ColumnsError(ValueError):
    """A layout or a file that cannot be used by it; the message says where and why."""
