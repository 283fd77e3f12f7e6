"""The files of a radio as bytes, within limits."""

from collections.abc import Iterable
from pathlib import Path

from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.keep.limits import WHOLE_TABLE_BYTES, read_within

MOST_FILES = 40


def files_of(paths: Iterable[Path]) -> dict[str, bytes]:
    """File names to their bytes. Raises ColumnsError for one that cannot be read, or is larger than any radio's."""
    found: dict[str, bytes] = {}
    for path in paths:
        if path.name in found:
            raise ColumnsError(f"Two of the files have the name “{path.name}”. Give one of them another.")
        if len(found) == MOST_FILES:
            raise ColumnsError(f"More than {MOST_FILES} files are given; a radio has fewer.")
        try:
            found[path.name] = read_within(path, WHOLE_TABLE_BYTES)
        except OSError as error:
            raise ColumnsError(f"“{path.name}” cannot be read: {error.strerror or error}.") from None
    return found
