"""All computation, without any interface."""

import sys


def _load_msgspec() -> None:
    """Load msgspec without `typing_extensions`, which it asks first: of that it wants nothing that `typing` has not.

    It falls back to `typing` by itself where the other is not there. That is so while it loads, and saves each start about 13 ms,
    half of what the whole of msgspec takes. Whoever wants `typing_extensions` afterwards finds it.
    """
    if "typing_extensions" in sys.modules or "msgspec" in sys.modules:
        return
    sys.modules["typing_extensions"] = None  # type: ignore[assignment]
    try:
        import msgspec  # noqa: F401
    finally:
        del sys.modules["typing_extensions"]


_load_msgspec()
