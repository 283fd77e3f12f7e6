"""The window fixtures, for the tests of this folder."""

from tests.desk_fixtures import demo, demo_window, empty_window, laid_out, qapp_args, window

__all__ = ["demo", "demo_window", "empty_window", "laid_out", "qapp_args", "window"]
