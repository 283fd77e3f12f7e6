"""A layout begun from sample files: their first rows, and what each column is guessed to be."""

from pathlib import Path
from typing import NamedTuple

from umbra_awl.core.columns.csv_guess import guess_layout
from umbra_awl.core.columns.layout import ColumnLayout
from umbra_awl.core.columns.sample import Sample, take_sample
from umbra_awl.core.keep.limits import open_regular

_SAMPLE_BYTES = 262_144


class Begun(NamedTuple):
    """First rows of each file, and the guessed layout."""

    samples: list[Sample]
    layout: ColumnLayout


def begun_layout(paths: list[Path]) -> Begun:
    """What sample files suggest. Raises OSError and ColumnsError."""
    samples = [take_sample(path.name, _beginning(path)) for path in paths]
    return Begun(samples, guess_layout(samples, paths[0].stem.replace("-", " ").capitalize() if paths else ""))


def _beginning(path: Path) -> bytes:
    """The first whole lines of a file: a sample needs no more. Raises OSError."""
    with open_regular(path) as file:
        data = file.read(_SAMPLE_BYTES)
    return data if len(data) < _SAMPLE_BYTES or b"\n" not in data else data[: data.rindex(b"\n") + 1]
