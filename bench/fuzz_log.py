"""What comes to the log and from other hands, for the fuzzing of everything that is read."""

from collections.abc import Callable
from pathlib import Path

import msgspec

from umbra_awl.core.agenda.net_calendar import nets_ics, read_ics
from umbra_awl.core.agenda.steps import TemplateError, parse_template, template_text
from umbra_awl.core.drills.schedule import DrillCard, Practice, read_practice
from umbra_awl.core.facts.bands import bands_for
from umbra_awl.core.hands.followed import followed_by, place_of
from umbra_awl.core.hands.kinds import BandPlan, band_plan_text, parse_band_plan
from umbra_awl.core.hands.merge import merge
from umbra_awl.core.hands.pack import PackError, make_pack, own_parts, read_pack
from umbra_awl.core.logbook.adif import adif_text
from umbra_awl.core.logbook.csv_log import csv_text, read_csv
from umbra_awl.core.logbook.joining import read_file
from umbra_awl.core.logbook.log_file import LogError, LogRecord, held_in, record_line
from umbra_awl.core.logbook.model import Entry
from umbra_awl.core.plan.disk.file_form import PlanFormError, parse_plan, plan_bytes
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.tables.table import open_table

Row = tuple[str, bytes, Callable[[bytes], object], type[Exception] | tuple[type[Exception], ...]]


def text_of_bytes(parse: Callable[[str], object]) -> Callable[[bytes], object]:
    """What reads a text, for bytes."""
    return lambda data: parse(data.decode("utf-8", "replace"))


def _by_file(path: Path, read: Callable[[Path], object]) -> Callable[[bytes], object]:
    def by_file(data: bytes) -> object:
        path.write_bytes(data)
        return read(path)

    return by_file


def log_readers(folder: Path, plan: Plan) -> tuple[Row, ...]:
    """What comes to the log and from other hands: ADIF, CSV, calendars, the log itself, plans to merge, packs, practice."""
    entries = [
        Entry(f"k{at}", "2026-11-27T10:00:00Z", call="Q3AMB", note="on the balcony", more={"MY_RIG": "x"})
        for at in range(3)
    ]
    pack = make_pack("Velmar", "2026-11-27", own_parts(plan, ()))
    steps = template_text("x", "y", plan.steps)
    theirs = plan_bytes(rename_plan("Theirs").apply(plan))

    def merged(data: bytes) -> object:
        found = merge(plan, plan, parse_plan(data))
        return parse_plan(plan_bytes(found.plan)) if not found.faults else found

    def followed(data: bytes) -> object:
        place_of(folder / "f.awl.json").write_bytes(data)
        found = followed_by(folder / "f.awl.json")
        return found.taken() if found is not None else None

    return (
        ("ADIF", adif_text(entries).encode(), read_file, ()),
        (
            "log as CSV",
            csv_text(entries).encode(),
            _by_file(folder / "l.csv", lambda p: read_csv(open_table(p))),
            SourceError,
        ),
        ("iCalendar", nets_ics(plan.nets), lambda data: read_ics(data, "Etc/UTC"), ValueError),
        (
            "the log",
            b"umbra-awl log 1\n" + b"".join(record_line(LogRecord("put", item)) for item in entries),
            held_in,
            LogError,
        ),
        ("a plan to merge", theirs, merged, PlanFormError),
        ("club pack", pack, read_pack, PackError),
        ("what is followed", b'{"path":"x","plan":' + theirs + b"}", followed, ()),
        ("template of steps", steps.encode(), text_of_bytes(parse_template), TemplateError),
        (
            "band plan",
            band_plan_text(BandPlan("x", (), bands_for(1))).encode(),
            text_of_bytes(parse_band_plan),
            ValueError,
        ),
        (
            "practice",
            msgspec.json.encode(Practice({"k": DrillCard(1, "2026-11-01", 2, 1)})),
            _by_file(folder / "p.json", read_practice),
            (),
        ),
    )
