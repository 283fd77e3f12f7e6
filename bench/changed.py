"""Putting a changed module in place of one that is loaded already."""

import gc
import importlib.abc
import importlib.util
import sys
from types import CodeType, FunctionType


def put_in(name: str, path, tree) -> None:
    """Give the loaded functions of a module their changed code; where that is not all of the change, load everything anew."""
    code = compile(tree, str(path), "exec")
    before = compile(path.read_text("utf-8"), str(path), "exec")
    if _frame(code) != _frame(before) or not _exchange(code, str(path)):
        for loaded in [item for item in sys.modules if item.split(".")[0] in ("umbra_awl", "tests")]:
            del sys.modules[loaded]
        sys.meta_path.insert(0, _Changed(name, path, code))


def _inner(code: CodeType) -> list[CodeType]:
    return [item for item in code.co_consts if isinstance(item, CodeType)]


def _is_class(code: CodeType) -> bool:
    return "__qualname__" in code.co_names and not code.co_flags & 2  # no optimised locals: a class body


def _frame(code: CodeType) -> tuple:
    """What runs when the module is loaded: its own code and that of its classes."""
    plain = tuple(item for item in code.co_consts if not isinstance(item, CodeType))
    return (code.co_code, repr(plain), *(_frame(item) for item in _inner(code) if _is_class(item)))


def _all(code: CodeType) -> dict[tuple[str, int], CodeType]:
    found = {(code.co_qualname, code.co_firstlineno): code}
    for item in _inner(code):
        found |= _all(item)
    return found


def _exchange(code: CodeType, path: str) -> bool:
    """Exchange the code of every function of the module that there is; False when one does not fit."""
    changed = _all(code)
    loaded = [item for item in gc.get_objects() if type(item) is FunctionType and item.__code__.co_filename == path]
    for item in loaded:
        new = changed.get((item.__code__.co_qualname, item.__code__.co_firstlineno))
        if new is None or len(new.co_freevars) != len(item.__code__.co_freevars):
            return False
        item.__code__ = new
    return bool(loaded)


class _Changed(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Gives a changed module in place of its file."""

    def __init__(self, name, path, code):
        self._name, self._path, self._code = name, path, code

    def find_spec(self, name, _path, _target=None):
        if name != self._name:
            return None
        return importlib.util.spec_from_file_location(name, self._path, loader=self)

    def create_module(self, _spec):
        return None

    def exec_module(self, module):
        exec(self._code, module.__dict__)  # noqa: S102
