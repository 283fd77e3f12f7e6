"""Generated bad inputs over the readers: each must be read or refused in its own words; anything else is counted."""

import contextlib
import csv
import io
import random
import re
import resource
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from typing import NamedTuple
from xml.sax.saxutils import escape

import httpx
import msgspec
from PIL import Image

from bench.days import LOCAL, TODAY
from bench.fuzz_log import log_readers
from umbra_awl.core.bring.recognise import recognise
from umbra_awl.core.columns.csv_guess import guess_layout as guess_columns
from umbra_awl.core.columns.csv_in import read_files
from umbra_awl.core.columns.csv_out import write_files
from umbra_awl.core.columns.errors import ColumnsError
from umbra_awl.core.columns.layout import faults as column_faults
from umbra_awl.core.columns.layout import layout_text as columns_text
from umbra_awl.core.columns.layout import parse_layout as parse_columns
from umbra_awl.core.columns.layout import shipped_layouts
from umbra_awl.core.columns.memory_in import MemoryMaker
from umbra_awl.core.columns.sample import take_sample
from umbra_awl.core.directory.download import offers_in
from umbra_awl.core.directory.errors import DownloadError
from umbra_awl.core.directory.export import as_geojson, as_gpx
from umbra_awl.core.directory.lists.entry import RefusedError, RowReader
from umbra_awl.core.directory.lists.guess import guess
from umbra_awl.core.directory.lists.layout import TableLayout, layout_text, parse_layout
from umbra_awl.core.directory.track import read_track
from umbra_awl.core.fit.fitting import fit
from umbra_awl.core.fit.people import calls_in_log
from umbra_awl.core.hotspot.compatible import SHIPPED as PARTS
from umbra_awl.core.hotspot.compatible import PartsError, parse_parts
from umbra_awl.core.hotspot.logs.reading import read_log_bytes
from umbra_awl.core.hotspot.logs.rules import SHIPPED as LOG_RULES
from umbra_awl.core.hotspot.logs.rules import RulesError, parse_rules
from umbra_awl.core.hotspot.logs.rules import shipped_rules as shipped_log_rules
from umbra_awl.core.hotspot.logs.symptoms import SHIPPED as SYMPTOMS
from umbra_awl.core.hotspot.logs.symptoms import SymptomsError, parse_symptoms
from umbra_awl.core.hotspot.match.form_error import FormError
from umbra_awl.core.hotspot.match.layout import (
    SettingsLayoutError,
    guessed,
    read_settings,
    write_settings,
)
from umbra_awl.core.hotspot.match.layout import layout_text as settings_layout_text
from umbra_awl.core.hotspot.match.layout import parse_layout as parse_settings_layout
from umbra_awl.core.hotspot.match.layout import shipped_layouts as settings_layouts
from umbra_awl.core.hotspot.pairing.devices import SHIPPED as DEVICES
from umbra_awl.core.hotspot.pairing.devices import DevicesError, parse_devices
from umbra_awl.core.hotspot.place.uses import SHIPPED as USES
from umbra_awl.core.hotspot.place.uses import UsesError, parse_uses
from umbra_awl.core.hotspot.seek.errors import HotspotError
from umbra_awl.core.hotspot.seek.pasted import devices
from umbra_awl.core.hotspot.seek.talk import Talk
from umbra_awl.core.messages.blocks import IncomingPicture, make_offer
from umbra_awl.core.messages.carriers import SHIPPED as CARRIERS
from umbra_awl.core.messages.carriers import CarrierError, parse_carriers
from umbra_awl.core.messages.errors import PictureError
from umbra_awl.core.messages.frames import (
    AirFormError,
    AirKind,
    Text,
    block_payload,
    have_payload,
    offer_payload,
    read_block,
    read_have,
    read_offer,
    read_text,
    text_payload,
)
from umbra_awl.core.messages.history import NAME, MessageHistory, Said
from umbra_awl.core.messages.picture import open_picture
from umbra_awl.core.plan.disk.file_form import PlanFormError, parse_plan, plan_bytes
from umbra_awl.core.plan.disk.journal import journal_path, parse_line
from umbra_awl.core.plan.disk.store import Document
from umbra_awl.core.plan.edit.edits import rename_plan, set_fields
from umbra_awl.core.plan.errors import StoreError
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Plan
from umbra_awl.core.plan.parts import ROUTES
from umbra_awl.core.radio.memory import MemoryFormError, memory_bytes, parse_memory
from umbra_awl.core.radio.profile_file import SHIPPED, ProfileError, parse_profile, shipped_profiles
from umbra_awl.core.simulation.parameters import SHIPPED as WORLD
from umbra_awl.core.simulation.parameters import ParameterError, parse_world
from umbra_awl.core.simulation.scenes import SHIPPED as SCENES
from umbra_awl.core.simulation.scenes import SceneError, parse_scenes
from umbra_awl.core.tables.errors import SourceError
from umbra_awl.core.tables.table import open_table
from umbra_awl.core.transfer.app.form import AppList, app_bytes, parse_app
from umbra_awl.core.transfer.card.form import CardFile, CardHeader
from umbra_awl.core.transfer.card.form import pack as pack_card
from umbra_awl.core.transfer.card.form import parse as parse_card
from umbra_awl.core.transfer.card.look import Looker
from umbra_awl.core.transfer.card.steps import Past, found_out
from umbra_awl.core.transfer.errors import AppFormError, CardFileError, FirmwareError, ImageError
from umbra_awl.core.transfer.firmware.form import FirmwareFile, FirmwareHeader
from umbra_awl.core.transfer.firmware.form import pack as pack_firmware
from umbra_awl.core.transfer.firmware.form import parse as parse_firmware
from umbra_awl.core.transfer.frames import Decoder, Frame, FrameKind, RadioIdentity, encode
from umbra_awl.core.transfer.image import decode, merge
from umbra_awl.core.transfer.table.roster import Done, Roster, read_roster
from umbra_awl.demo.fresh import demo_plan, lay_out
from umbra_awl.demo.hotspots import settings_text
from umbra_awl.desk.settings import Settings

_ODD = (
    b"-1", b"0", b"1", b"3", b"255", b"65536", b"99999999999999999999", b"1e308", b"nan", b"null", b"true", b"[]", b"{}", b'""',
    b'"x"', b"\xff", b"\\ud800", b"\xd9\xa3", b"=1+1", b"a\\nb", b"../x", b"W" * 300, b"",
)  # fmt: skip
_TOKEN = re.compile(rb'-?\d+(?:\.\d+)?|"[^"\n]{0,60}"|(?<=[>,;])[^<,;"\n]{1,30}')


def odd_values(chance: random.Random, data: bytes) -> bytes:
    """The same with one or two of its values exchanged for odd ones: the form stays, so that it is looked at further."""
    for _time in range(chance.randint(1, 2)):
        found = _TOKEN.search(data, chance.randrange(max(1, len(data))))
        if found:
            data = data[: found.start()] + chance.choice(_ODD) + data[found.end() :]
    return data


def spoiled(chance: random.Random, data: bytes) -> bytes:
    """The bytes with a few of them changed, cut out, doubled or cut off, or with odd values in them."""
    if chance.random() < 0.5:
        return odd_values(chance, data)
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


class Reader(NamedTuple):
    """A way in: its name, a good input, what reads it, and how it may refuse."""

    name: str
    data: bytes
    read: Callable[[bytes], object]
    refusal: type[Exception] | tuple[type[Exception], ...] = ()


def _text(parse: Callable[[str], object]) -> Callable[[bytes], object]:
    return lambda data: parse(data.decode("utf-8", "replace"))


def _by_file(folder: Path, name: str, read: Callable[[Path], object]) -> Callable[[bytes], object]:
    """A reader of files as one of bytes."""

    def by_file(data: bytes) -> object:
        path = folder / name
        path.write_bytes(data)
        return read(path)

    return by_file


def _rows(path: Path) -> None:
    found = open_table(path)
    rows = RowReader(guess(found, "access"), found.headers)
    for row in found.rows():
        with contextlib.suppress(RefusedError):
            rows.read(row.cells)


def _directory_readers(folder: Path, demo: Path, plan: Plan) -> list[Reader]:
    nasty = (demo / "velmar-directory.csv").read_bytes()
    layout = layout_text(TableLayout("access", {"call": "A", "rx": "B"}, "x")).encode()
    return [
        Reader("CSV directory", nasty, _by_file(folder, "d.csv", _rows), SourceError),
        Reader("XLSX directory", _book(folder, nasty), _by_file(folder, "d.xlsx", _rows), SourceError),
        Reader("XLSX, its sheet", _sheet(nasty), lambda data: _rows(_packed(folder, data)), SourceError),
        Reader("GeoJSON", as_geojson(plan.access).encode(), _by_file(folder, "d.geojson", _rows), SourceError),
        Reader("GPX waypoints", as_gpx(plan.access).encode(), _by_file(folder, "d.gpx", _rows), SourceError),
        Reader(
            "GPX track",
            (demo / "ferry-to-nessa.gpx").read_bytes(),
            _by_file(folder, "t.gpx", read_track),
            SourceError,
        ),
        Reader("directory layout", layout, _text(parse_layout), SourceError),
    ]


_MAIN = "http://schemas.openxmlformats.org/spreadsheetml/2006/main"
_RELATIONS = "http://schemas.openxmlformats.org/package/2006/relationships"


def _sheet(table: bytes) -> bytes:
    """A table of CSV as the XML of a sheet."""
    rows = csv.reader(io.StringIO(table.decode("utf-8", "replace")))
    cells = ("".join(f'<c t="inlineStr"><is><t>{escape(cell)}</t></is></c>' for cell in row) for row in rows)
    rows_xml = "".join(f"<row>{row}</row>" for row in cells)
    return f'<worksheet xmlns="{_MAIN}"><sheetData>{rows_xml}</sheetData></worksheet>'.encode()


def _packed(folder: Path, sheet: bytes) -> Path:
    """A spreadsheet around a sheet."""
    path = folder / "packed.xlsx"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as book:
        named = '<sheets><sheet name="a" sheetId="1" r:id="r1"/></sheets>'
        book.writestr("xl/workbook.xml", f'<workbook xmlns="{_MAIN}" xmlns:r="urn:r">{named}</workbook>')
        relation = '<Relationship Id="r1" Target="worksheets/sheet1.xml"/>'
        book.writestr("xl/_rels/workbook.xml.rels", f'<Relationships xmlns="{_RELATIONS}">{relation}</Relationships>')
        book.writestr("xl/worksheets/sheet1.xml", sheet)
    return path


def _book(folder: Path, table: bytes) -> bytes:
    return _packed(folder, _sheet(table)).read_bytes()


def _radio_readers(plan: Plan) -> list[Reader]:
    """The readers of memories, profiles, layouts, a radio's files, of hotspot parts and of frames."""
    memory = memory_bytes(fit(PlanIndex(plan, TODAY), plan.radios[0], shipped_profiles()["tarn16"]).memory, b"own" * 50)
    wide = shipped_layouts()[0]
    written = write_files(parse_memory(memory)[0], wide).files["channels.csv"]
    frame = encode(Frame(FrameKind.IDENTITY, 1, RadioIdentity("tarn16", "1", 65536, 512).pack()))

    def by_layout(data):
        recognise(MemoryMaker(read_files({"channels.csv": data}, wide)).make())

    def guessed(data):
        made = guess_columns([take_sample("x.csv", data)], "x")
        if not column_faults(made):
            recognise(MemoryMaker(read_files({"x.csv": data}, made)).make())

    profile = (SHIPPED / "1-tarn16.toml").read_bytes()
    return [
        Reader("memory", memory, parse_memory, MemoryFormError),
        Reader("profile", profile, _text(parse_profile), ProfileError),
        Reader("columns", columns_text(wide).encode(), _text(parse_columns), ColumnsError),
        Reader("radio's CSV", written, by_layout, ColumnsError),
        Reader("radio's CSV, guessed", written, guessed, ColumnsError),
        Reader("hotspot parts", PARTS.read_bytes(), _text(parse_parts), PartsError),
        Reader("frames", frame * 3, lambda data: Decoder().feed(data)),
        Reader("identity", RadioIdentity("tarn16", "1", 65536, 512, "A7").pack(), RadioIdentity.unpack, ValueError),
    ]


_LOG = "ADIF export <EOH>" + "".join(f"<CALL:5>Q4AB{end}<QSO_DATE:8>20261101<MODE:3>DMR<EOR>\n" for end in "CDEFG")


def _plan_readers(folder: Path, plan: Plan) -> list[Reader]:
    """The plan, its journal as records and as a whole behind a plan that opens, settings, logs, and a service's list."""
    path = folder / "p.awl.json"
    path.write_bytes(plan_bytes(plan))
    journal = _journal_of(path, plan)

    def opened(data):
        path.write_bytes(plan_bytes(plan))
        journal_path(path).write_bytes(data)
        document = Document.open(path, LOCAL)
        rest = document.plan
        document.close()
        parse_plan(plan_bytes(rest))
        for left in folder.glob("*aside*"):
            left.unlink()

    index = (
        b'{"files":[{"name":"people.csv","what":"people","size":9000,"sha256":"ab","words":"x","date":"2026-11-01"}]}'
    )
    return [
        Reader("plan", plan_bytes(plan), parse_plan, PlanFormError),
        Reader("journal, one record", journal.splitlines()[1], parse_line),
        Reader("journal, opened with its plan", journal, opened, StoreError),
        Reader("settings", _kept(folder), _by_file(folder, "s.json", Settings)),
        Reader("ADIF log", _LOG.encode(), _text(calls_in_log)),
        Reader("service's list", index, lambda data: offers_in(data, "there"), DownloadError),
    ]


def _journal_of(path: Path, plan: Plan) -> bytes:
    document = Document.open(path, LOCAL)
    document.edit(rename_plan("Other"))
    document.edit(set_fields(ROUTES, plan.routes[0].key, "x", power="low"))
    data = journal_path(path).read_bytes()
    document.close()
    path.write_bytes(plan_bytes(plan))
    return data


def _kept(folder: Path) -> bytes:
    place = folder / "kept.json"
    settings = Settings(place)
    settings.keep(scale=1.2)
    return place.read_bytes()


class Cost(NamedTuple):
    """The longest that a reader took, in seconds, and the most that the process grew by meanwhile, in megabytes."""

    seconds: float = 0.0
    grown_mb: float = 0.0


def _resident_mb() -> float:
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def _way_readers(folder: Path, plan: Plan) -> tuple[Reader, ...]:
    """What comes over cards, apps and tables: files, folders of a card, lists, firmware."""
    fell = shipped_profiles()["fell-d2"]
    made = fit(PlanIndex(plan, TODAY), next(item for item in plan.radios if item.profile == "fell-d2"), fell).memory
    image = bytes(fell.image.size)
    file = pack_card(CardFile(CardHeader("fell-d2", number=3), merge(image, made, fell)))
    kept = folder / "card" / fell.card.folder / fell.card.backup
    kept.mkdir(parents=True)
    app = app_bytes(AppList("fell-d2", made.access_list, made.call_signs))
    firmware = pack_firmware(FirmwareFile(FirmwareHeader("moor4k", "people", "2"), b"body" * 40))
    roster = folder / "t.table.json"

    def card(data: bytes) -> object:
        (kept / "SAVE0003.AWC").write_bytes(data)
        return found_out(Looker().look(folder / "card", fell), fell, Past())

    def table(data: bytes) -> object:
        roster.write_bytes(data)
        return read_roster(roster)

    return (
        Reader("card file", file, parse_card, CardFileError),
        Reader("a card", file, card, CardFileError),
        Reader("image", merge(image, made, fell), lambda data: decode(data, fell), ImageError),
        Reader("app list", app, parse_app, AppFormError),
        Reader("firmware", firmware, lambda data: parse_firmware(data, shipped_profiles()["moor4k"]), FirmwareError),
        Reader("table", msgspec.json.encode(Roster((Done("tarn", "u", "now", "h"),))), table, CardFileError),
    )


def _hotspot_readers() -> tuple[Reader, ...]:
    """What comes from hotspots: settings in three forms, layouts, logs, rules, symptoms, lists of devices, answers of its page."""
    ini, _json, _env = settings_layouts()
    log = "\n".join(rule.example for rule in shipped_log_rules().rule).encode()
    status = b'{"name":"x","state":"up","left_s":0,"modem":"ready","calls":["Q9ODL to 99900"],"display":["a"]}'

    def answered(data: bytes) -> object:
        return Talk("spot.test", "", httpx.MockTransport(lambda _asked: httpx.Response(200, content=data))).status()

    settings = settings_text(demo_plan(TODAY), "home")
    return (
        Reader("hotspot settings", settings.encode(), _text(lambda text: read_settings(text, ini)), FormError),
        Reader(
            "hotspot settings, written",
            settings.encode(),
            _text(lambda text: write_settings(text, ini, {"call": "Q"})),
            FormError,
        ),
        Reader("hotspot settings, guessed", settings.encode(), _text(guessed), FormError),
        Reader(
            "settings layout", settings_layout_text(ini).encode(), _text(parse_settings_layout), SettingsLayoutError
        ),
        Reader("hotspot log", log, read_log_bytes),
        Reader("log rules", LOG_RULES.read_bytes(), _text(parse_rules), RulesError),
        Reader("symptoms", SYMPTOMS.read_bytes(), _text(parse_symptoms), SymptomsError),
        Reader("pairing devices", DEVICES.read_bytes(), _text(parse_devices), DevicesError),
        Reader("band uses", USES.read_bytes(), _text(parse_uses), UsesError),
        Reader("list of devices", b"192.0.2.14 q4wrn\nname x\n", _text(lambda text: devices(text, ("q4wrn",)))),
        Reader("hotspot's answer", status, answered, HotspotError),
    )


def _message_readers() -> tuple[Reader, ...]:
    """Pictures of several kinds, frames from the air, the history, and the tables of the simulated world."""
    picture = Image.effect_noise((60, 40), 50).convert("RGB")
    offer = offer_payload(make_offer(b"x" * 900, "Q4WRN", "", (160, 120), "coarse"))
    kinds = [
        Reader(f"picture {form}", _picture(picture, form), open_picture, PictureError)
        for form in ("JPEG", "PNG", "GIF", "TIFF")
    ]

    def heard(data: bytes) -> object:
        incoming = IncomingPicture("Q4WRN", lambda: "")
        return [incoming.hear(Frame(kind, 1, data)) for kind in AirKind]

    def history(data: bytes) -> object:
        with tempfile.TemporaryDirectory() as name:
            (Path(name) / NAME).write_bytes(data)
            return MessageHistory(Path(name)).read()

    line = msgspec.json.encode(Said("2026-11-27T10:00:00Z", "mine", "Q4WRN", "", "hello"))
    return (
        *kinds,
        Reader("offer of a picture", offer, read_offer, AirFormError),
        Reader("frames from the air", offer, heard),
        Reader("text from the air", text_payload(Text("Q4WRN", "hello", "Q3AMB")), read_text, AirFormError),
        Reader("block from the air", block_payload(b"abcd", 3, b"x" * 50), read_block, AirFormError),
        Reader("answer from the air", have_payload(b"abcd", {1, 5}, 9), read_have, AirFormError),
        Reader("messages", line + b"\n" + line, history),
        Reader("scenes", SCENES.read_bytes(), _text(parse_scenes), SceneError),
        Reader("simulated world", WORLD.read_bytes(), _text(parse_world), ParameterError),
        Reader("carriers", CARRIERS.read_bytes(), _text(parse_carriers), CarrierError),
    )


def _picture(image: Image.Image, form: str) -> bytes:
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x010F] = "Invented"
    image.save(out, form, **({"exif": exif} if form in {"JPEG", "PNG"} else {}))
    return out.getvalue()


def run(count: int) -> None:
    """Feed spoiled inputs to every reader in turn and print what came of them, the longest time and the most memory."""
    chance, plan = random.Random(3), demo_plan(TODAY)
    folder = Path(tempfile.mkdtemp())
    demo = lay_out(folder / "demo", TODAY).plan.parent
    readers = (
        *_directory_readers(folder, demo, plan),
        *_radio_readers(plan),
        *_way_readers(folder, plan),
        *(Reader(*item) for item in log_readers(folder, plan)),
        *_plan_readers(folder, plan),
        *_hotspot_readers(),
        *_message_readers(),
    )
    tally: Counter[str] = Counter()
    costs: dict[str, Cost] = {}
    for at in range(count):
        reader = readers[at % len(readers)]
        bad = spoiled(chance, reader.data)
        start, before = time.perf_counter(), _resident_mb()
        tally[f"{reader.name}: {_came_of(reader, bad)}"] += 1
        cost = costs.get(reader.name, Cost())
        costs[reader.name] = Cost(
            max(cost.seconds, time.perf_counter() - start), max(cost.grown_mb, _resident_mb() - before)
        )
    for line in sorted(tally):
        print(f"{tally[line]:>8}  {line}")
    print("\nthe longest one took, and the most that memory grew by:")
    for name, cost in sorted(costs.items()):
        print(f"{cost.seconds * 1000:>7.0f} ms {cost.grown_mb:>6.1f} MB  {name}")


def _came_of(reader: Reader, bad: bytes) -> str:
    try:
        reader.read(bad)
    except reader.refusal:
        return "refused"
    except Exception as error:  # noqa: BLE001  (exactly what is being counted)
        return f"FAULT {error!r}"[:90]
    return "read"
