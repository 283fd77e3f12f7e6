"""A layout: which column of somebody's file is which of our fields, kept as TOML and used again for the next file.

The form is documented in docs/formats.md.
"""

from pathlib import Path
from typing import Literal

import msgspec

from umbra_awl.core.directory.errors import LayoutError
from umbra_awl.core.keep.atomic import write_over
from umbra_awl.core.keep.limits import plain_reason
from umbra_awl.core.keep.toml_form import from_toml, place_for, text_of, to_toml

FORMAT = "umbra-awl directory layout"
VERSION = 1
What = Literal["access", "people", "destinations"]
WHAT_WORDS: dict[What, str] = {
    "access": "access points",
    "people": "people",
    "destinations": "talk groups, reflectors and rooms",
}

FIELDS: dict[What, dict[str, tuple[str, str]]] = {
    "access": {
        "call": ("Call sign", "call sign callsign call rufzeichen indicatif repeater relais station"),
        "site": ("Site", "site name location qth standort standortname site name repeater name"),
        "place": ("Place", "place region area district county ort city town gebiet land state island insel ile"),
        "rx": (
            "Output, heard",
            "output output frequency rx receive downlink frequency freq ausgabe ausgabefrequenz tx repeater mhz",
        ),
        "tx": ("Input, sent on", "input input frequency tx transmit uplink eingabe eingabefrequenz rx repeater"),
        "offset": ("Offset", "offset shift ablage duplex offset shift mhz split"),
        "sign": ("Offset sign", "sign offset direction shift direction duplex plus minus vorzeichen dup"),
        "tone": ("Tone", "tone ctcss pl tone encode subton tone hz access tone uplink tone tone enc ctcss enc encode"),
        "tone_rx": ("Tone sent back", "tone decode tsq downlink tone rx tone tone squelch tone dec ctcss dec decode"),
        "tone_kind": (
            "Kind of tone",
            "tone mode tone type kind of tone squelch mode squelch type tone kind tone squelch mode tonart tonmodus",
        ),
        "code": ("DCS code", "dcs dtcs dpl dcs code dtcs code digital code"),
        "code_sense": ("Sense of the code", "dcs polarity dtcs polarity polarity sense dcs sense code polarity"),
        "color_code": ("Color code", "color code colour code cc color farbcode"),
        "opens": (
            "Tone or color code",
            "tone or color code access tone/cc tone cc zugang opens opens with opened with",
        ),
        "mode": ("Mode", "mode modes betriebsart type of emission modulation system digital"),
        "module": ("D-STAR module", "module modul d-star module rpt1"),
        "dgid": ("DG-ID", "dg-id dgid dg id transmit dg-id"),
        "network": ("Network", "network netz netzwerk net linked"),
        "slots": ("Slots", "slots slot time slots ts timeslot"),
        "width": ("Width", "width bandwidth bandbreite channel width"),
        "lat_side": ("North or south", "n s ns n/s north south hemisphere lat dir lat hemisphere nord sued nord sud"),
        "lon_side": ("East or west", "e w ew e/w east west hemisphere lon dir lon hemisphere ost west est ouest"),
        "status": (
            "On the air",
            "status operational op status on air betrieb betriebsstatus etat estado stato",
        ),
        "lat": ("Latitude", "latitude lat breite breitengrad y"),
        "lon": ("Longitude", "longitude lon long lng laenge laengengrad x"),
        "position": ("Position", "position coordinates koordinaten gps latlon lat/lon"),
        "locator": ("Locator", "locator grid grid square maidenhead qra loc"),
        "kind": ("Kind", "kind category station type art"),
        "watts": ("Power", "power watts erp leistung w"),
        "height": ("Antenna height", "height antenna height hoehe agl antenna m"),
        "confirmed": (
            "Last confirmed",
            "confirmed last confirmed last seen updated verified stand datum date last update",
        ),
        "note": ("Note", "note notes remark remarks comment comments bemerkung description info"),
    },
    "people": {
        "id": ("DMR ID", "dmr id id radio id radio_id dmrid number subscriber"),
        "call": ("Call sign", "call sign callsign call rufzeichen indicatif"),
        "name": ("Name", "name first name fname vorname given name"),
        "surname": ("Surname", "surname last name family name nachname"),
        "place": ("Place", "place city town ort qth ville"),
        "region": ("Region", "region state county province bundesland"),
        "country": ("Country", "country land pays nation"),
    },
    "destinations": {
        "number": ("Number", "number id talk group talkgroup tg dmr id room number"),
        "name": ("Name", "name title label talk group name description"),
        "kind": ("Kind", "kind type category"),
        "network": ("Network", "network net system mode"),
        "country": ("Country", "country region area"),
    },
}
NEEDED: dict[What, tuple[tuple[str, ...], ...]] = {
    "access": (("call", "site"), ("rx", "tx")),
    "people": (("id",), ("call",)),
    "destinations": (("number", "name"), ("name", "number")),
}


NO_INPUT = (
    "No column tells where the repeaters listen: neither an input nor an offset was found. Choose its column, or say that the "
    "list holds simplex stations."
)


class TableLayout(msgspec.Struct, frozen=True, forbid_unknown_fields=True, omit_defaults=True):
    """Columns by our field names, and how values are written.

    `offset_70cm_mhz` is for files that tell only a sign; `simplex` for those whose stations send on what they hear.
    """

    what: What
    columns: dict[str, str]
    name: str = ""
    source: str = ""
    mode: str = ""
    offset_70cm_mhz: float = 0.0
    simplex: bool = False
    day_first: bool = True
    format: str = FORMAT
    version: int = VERSION

    def faults(self, headers: list[str]) -> list[str]:
        """What keeps this layout from being used on a file with these headers, as sentences."""
        known = FIELDS[self.what]
        found = [
            f"“{field}” is not a field of {WHAT_WORDS[self.what]}." for field in self.columns if field not in known
        ]
        found += [
            f"The file has no column “{column}” (wanted for {known[field][0]})."
            for field, column in self.columns.items()
            if field in known and column not in headers
        ]
        used: dict[str, str] = {}
        for field, column in self.columns.items():
            if column in used and {field, used[column]} - {"lat", "lon"} and field in known and used[column] in known:
                found.append(
                    f"The column “{column}” stands for two fields: {known[used[column]][0]} and {known[field][0]}."
                )
            used[column] = field
        told = {"tx", "offset", "sign", "kind"} & self.columns.keys()
        if self.what == "access" and "rx" in self.columns and not (self.simplex or told):
            found.append(NO_INPUT)
        for group in NEEDED[self.what]:
            if not any(field in self.columns for field in group):
                words = " or ".join(known[field][0] for field in group)
                found.append(f"No column is chosen for {words}. Choose it in the row of headings.")
        return found


def parse_layout(text: str, source: str = "The layout") -> TableLayout:
    """The layout in a TOML text. Raises LayoutError."""
    return from_toml(text, TableLayout, (FORMAT, VERSION), source, LayoutError)


def read_layout(path: Path) -> TableLayout:
    """The layout in a file. Raises LayoutError."""
    try:
        return parse_layout(text_of(path), f"“{path.name}”")
    except (OSError, UnicodeDecodeError) as error:
        raise LayoutError(f"“{path.name}” cannot be read: {plain_reason(error)}.") from None


def layout_text(layout: TableLayout) -> str:
    """The layout as TOML."""
    return to_toml(layout, (FORMAT, VERSION))


def save_layout(layout: TableLayout, folder: Path) -> Path:
    """Keep a layout under its name; the file. Raises LayoutError."""
    path = place_for(folder, layout.name, "layout", _name_in)
    try:
        folder.mkdir(parents=True, exist_ok=True)
        write_over(path, layout_text(layout).encode())
    except OSError as error:
        raise LayoutError(f"The layout cannot be kept: {error.strerror or error}.") from None
    return path


def _name_in(path: Path) -> str | None:
    try:
        return read_layout(path).name
    except LayoutError:
        return None


def kept_layout(folder: Path, headers: list[str], what: What | None = None) -> TableLayout | None:
    """The kept layout that fits most of these headers without a fault."""
    best: TableLayout | None = None
    for path in sorted(folder.glob("*.toml")):
        try:
            layout = parse_layout(text_of(path), path.name)
        except (LayoutError, OSError, UnicodeDecodeError):
            continue
        fits = not layout.faults(headers) and (what is None or layout.what == what)
        if fits and (best is None or len(layout.columns) > len(best.columns)):
            best = layout
    return best
