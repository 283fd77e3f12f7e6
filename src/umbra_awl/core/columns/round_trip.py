"""What a layout keeps: a memory written, read back and compared, field by field."""

from collections import Counter
from typing import NamedTuple

from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import Notes, WrittenFile, write_files
from umbra_awl.core.columns.fields import FIELDS, MemoryRows, What
from umbra_awl.core.columns.layout import ColumnLayout
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.facts.counting import counted
from umbra_awl.core.radio.memory import Memory

_OF_CHANNELS = frozenset({"zone", "scan"})


class RoundTrip(NamedTuple):
    """The files, what reading them gave back, and what of the memory was lost on the way, as sentences."""

    written: WrittenFile
    back: Memory
    lost: tuple[str, ...]


def round_trip(memory: Memory, layout: ColumnLayout) -> RoundTrip:
    """Write a memory through a layout and read it again. Raises ColumnsError."""
    written = write_files(memory, layout)
    sheets = read_files(written.files, layout)
    maker = MemoryMaker(sheets, memory.profile)
    back = maker.make()
    again = Notes()
    for fault in sheets.faults:
        again.add(f"{fault.file}, {fault.text}", f"line {fault.line}")
    faults = again.lines()
    lost = [*written.notes, *faults, *(fault.text for fault in maker.faults), *_differences(memory, back, layout)]
    return RoundTrip(written, back, tuple(lost))


def _differences(memory: Memory, back: Memory, layout: ColumnLayout) -> list[str]:
    before, after = MemoryRows(memory), MemoryRows(back)
    sheets = {sheet.what: sheet for sheet in layout.sheet}
    found: list[str] = []
    for what in FIELDS:
        was = before.rows(what)
        if not was or (what in {"zones", "scan lists"} and what not in sheets and not _in_channels(what, layout)):
            if was:
                found.append(f"No file holds the {what}.")
            continue
        if what not in sheets and what not in {"zones", "scan lists", "contacts"}:
            found.append(f"No file holds the {what}.")
            continue
        found += _of_table(what, was, after.rows(what))
    return found


def _in_channels(what: What, layout: ColumnLayout) -> bool:
    """Whether the channels' own rows name their zones or scan lists."""
    field = "zone" if what == "zones" else "scan"
    return any(column.field == field for sheet in layout.sheet if sheet.what == "channels" for column in sheet.column)


def _of_table(what: What, was: list[dict[str, str]], now: list[dict[str, str]]) -> list[str]:
    if what == "contacts":
        return _of_contacts(was, now)
    wrong: Counter[str] = Counter()
    there = {row.get("name", ""): row for row in now}
    gone = sum(row.get("name", "") not in there for row in was)
    for row in was:
        other = there.get(row.get("name", ""))
        if other is None:
            continue
        for field, value in row.items():
            if (
                field != "number"
                and other.get(field, "") != value
                and not (what == "channels" and field in _OF_CHANNELS)
            ):
                wrong[field] += 1
    words = [
        f"{FIELDS[what][field].label}: {count} of {len(was)} {what} come back otherwise."
        for field, count in wrong.items()
    ]
    return [*([f"{gone} of {len(was)} {what} do not come back."] if gone else []), *words]


def _of_contacts(was: list[dict[str, str]], now: list[dict[str, str]]) -> list[str]:
    back = {(row["call"], row["kind"]) for row in now}
    gone = sum((row["call"], row["kind"]) not in back for row in was)
    return [f"{gone} of {counted(len(was), 'contact')} do not come back."] if gone else []
