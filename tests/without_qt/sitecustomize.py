"""Put on PYTHONPATH, this makes PyQt6 unfindable in the process and all it starts: the core must not need it."""

import sys


class _NoQt:
    @staticmethod
    def find_spec(name, path=None, target=None):
        if name.partition(".")[0] == "PyQt6":
            raise ModuleNotFoundError(f"No module named {name!r} (hidden by the tests)", name=name)


sys.meta_path.insert(0, _NoQt)
