"""Generated bad inputs over the readers: each must be read or refused in its own words; anything else is counted."""

import contextlib
import random
import tempfile
from collections import Counter
from pathlib import Path

from umbra_awl.core.bring.recognise import recognise
from umbra_awl.core.directory.entry import RefusedError, RowReader
from umbra_awl.core.directory.errors import DirectoryError
from umbra_awl.core.directory.export import as_geojson, as_gpx
from umbra_awl.core.directory.guess import guess
from umbra_awl.core.directory.layout import Layout, layout_text, parse_layout
from umbra_awl.core.directory.table import open_table
from umbra_awl.core.directory.track import read_track
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.fit.memory import MemoryFormError, memory_bytes, parse_memory
from umbra_awl.core.fit.profile_file import SHIPPED, ProfileError, parse_profile, shipped_profiles
from umbra_awl.core.hotspot.compatible import SHIPPED as PARTS
from umbra_awl.core.hotspot.compatible import PartsError, parse_parts
from umbra_awl.core.plan.form import PlanFormError, parse_plan, plan_bytes
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.journal import Record, parse_line, record_line
from umbra_awl.core.sheets.csv_guess import guess_layout as guess_columns
from umbra_awl.core.sheets.csv_guess import take_sample
from umbra_awl.core.sheets.csv_in import read_files
from umbra_awl.core.sheets.csv_out import write_files
from umbra_awl.core.sheets.errors import ColumnsError
from umbra_awl.core.sheets.layout import faults as column_faults
from umbra_awl.core.sheets.layout import layout_text as columns_text
from umbra_awl.core.sheets.layout import parse_layout as parse_columns
from umbra_awl.core.sheets.layout import shipped_layouts
from umbra_awl.core.sheets.memory_in import MemoryMaker
from umbra_awl.core.transfer.frames import Decoder, Frame, Identity, Kind, encode
from umbra_awl.demo.fresh import demo_plan, lay_out


def spoiled(chance: random.Random, data: bytes) -> bytes:
    """The bytes with a few of them changed, cut out, doubled or cut off."""
    made = bytearray(data)
    for _time in range(chance.randint(1, 4)):
        if not made:
            break
        at = chance.randrange(len(made))
        kind = chance.randrange(4)
        if kind == 0:
            made[at] = chance.randrange(256)
        elif kind == 1:
            del made[at : at + chance.randint(1, 40)]
        elif kind == 2:
            made[at:at] = made[at : at + chance.randint(1, 40)]
        else:
            del made[at:]
    return bytes(made)


def _radio_readers(memory: bytes):
    """The readers of layouts, of a radio's files and of hotspot parts."""
    wide = shipped_layouts()[0]
    written = write_files(parse_memory(memory)[0], wide).files["channels.csv"]

    def by_layout(data):
        recognise(MemoryMaker(read_files({"channels.csv": data}, wide)).make())

    def guessed(data):
        made = guess_columns([take_sample("x.csv", data)], "x")
        if not column_faults(made):
            recognise(MemoryMaker(read_files({"x.csv": data}, made)).make())

    def text(parse):
        return lambda data: parse(data.decode("utf-8", "replace"))

    return (
        ("columns", columns_text(wide).encode(), text(parse_columns), ColumnsError),
        ("radio's CSV", written, by_layout, ColumnsError),
        ("radio's CSV, guessed", written, guessed, ColumnsError),
        ("hotspot parts", PARTS.read_bytes(), text(parse_parts), PartsError),
    )


def run(count: int) -> None:
    """Feed spoiled inputs to every reader in turn and print what came of them."""
    chance = random.Random(3)
    plan = demo_plan()
    index = PlanIndex(plan)
    memory = memory_bytes(fit(index, plan.radios[0], shipped_profiles()["tarn16"]).memory, b"own" * 50)
    profile = (SHIPPED / "1-tarn16.toml").read_bytes()
    frame = encode(Frame(Kind.IDENTITY, 1, Identity("tarn16", "1", 65536, 512).pack()))
    folder = Path(tempfile.mkdtemp())
    demo = lay_out(folder / "demo").plan.parent
    nasty = (demo / "velmar-directory.csv").read_bytes()
    points = as_geojson(plan.access).encode()
    waypoints = as_gpx(plan.access).encode()
    track = (demo / "ferry-to-nessa.gpx").read_bytes()
    layout = layout_text(Layout("access", {"call": "A", "rx": "B"}, "x")).encode()

    def table(name):
        def read(data):
            path = folder / name
            path.write_bytes(data)
            found = open_table(path)
            rows = RowReader(guess(found, "access"), found.headers)
            for row in found.rows():
                with contextlib.suppress(RefusedError):
                    rows.read(row.cells)

        return read

    def gpx_track(data):
        (folder / "t.gpx").write_bytes(data)
        read_track(folder / "t.gpx")

    readers = (
        ("CSV directory", nasty, table("d.csv"), DirectoryError),
        ("GeoJSON", points, table("d.geojson"), DirectoryError),
        ("GPX waypoints", waypoints, table("d.gpx"), DirectoryError),
        ("GPX track", track, gpx_track, DirectoryError),
        ("directory layout", layout, lambda data: parse_layout(data.decode("utf-8", "replace")), DirectoryError),
        ("plan", plan_bytes(plan), parse_plan, PlanFormError),
        ("memory", memory, parse_memory, MemoryFormError),
        ("profile", profile, lambda data: parse_profile(data.decode("utf-8", "replace")), ProfileError),
        *_radio_readers(memory),
        ("journal", record_line(Record("base", "x" * 40)), lambda data: parse_line(data.rstrip()), ()),
        ("frames", frame * 3, lambda data: Decoder().feed(data), ()),
    )
    tally: Counter[str] = Counter()
    for at in range(count):
        name, data, read, refusal = readers[at % len(readers)]
        bad = spoiled(chance, data)
        try:
            read(bad)
            tally[f"{name}: read"] += 1
        except refusal:
            tally[f"{name}: refused"] += 1
        except Exception as error:  # noqa: BLE001  (exactly what is being counted)
            tally[f"{name}: FAULT {error!r}"[:100]] += 1
    for line in sorted(tally):
        print(f"{tally[line]:>8}  {line}")
