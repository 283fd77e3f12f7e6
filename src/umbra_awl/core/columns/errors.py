"""The refusal of a layout, or of a file read by one."""


class ColumnsError(ValueError):
    """A layout or a file that cannot be used by it; the message says where and why."""
