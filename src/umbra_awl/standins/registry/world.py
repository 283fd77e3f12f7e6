"""Generated access points and people, invented, spread over the world's land; the same for the same seed."""

import csv
import io
import random
from collections.abc import Iterator

from umbra_awl.core.facts.coast import Land, world_coast
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.facts.tones import CTCSS

_FIRST = "Al Bre Cor Dun El Far Gil Har In Jor Kel Lor Mar Nes Old Pel Quil Ros Sal Tor Um Ver Wren Yar Zel".split()
_LAST = (
    "bourne by combe dale den fell ford gate ham holm ley mere moor ness quay ridge stead stow ton wick worth".split()
)
_NAMES = "Adda Bram Cleo Dirk Edda Finn Gwen Hale Isla Joss Kira Lars Mina Odile Runa Tove Ulla Wren Yann Zita".split()
_SECOND = "a an ard e el en i ia in is na o on ra ric sa ta us ve wyn".split()
_FAMILIES = (
    "Ashlock Birkmoor Crane Dunlin Eider Fulmar Gannet Heron Knot Lapwing Merlin Osprey Plover Ruff Skua Tern".split()
)
COUNTRIES = (
    "Velmar Isles",
    "Amber Coast",
    "Quillon Bay",
    "Marrow Sound",
    "Sable Banks",
    "Ostrand",
    "Ferrow Isles",
    "Lower Deeps",
    "Hethering",
    "Corrow",
)
_LETTERS = "ABCDEFGHJKLMNOPRSTUVWXYZ"
_RASTERS = {-7.6: (438_200_000, 96), -9.4: (439_425_000, 44), 5.0: (430_400_000, 96), -1.6: (434_600_000, 30)}
"""For each 70 cm offset in MHz the lowest output and how many channels lie above it, all inside the band on both sides."""
ACCESS_HEADERS = (
    "Call sign",
    "Site",
    "Region",
    "Mode",
    "Output MHz",
    "Offset MHz",
    "Tone/CC",
    "Latitude",
    "Longitude",
    "Network",
    "Last confirmed",
)
PEOPLE_HEADERS = ("RADIO_ID", "CALLSIGN", "FIRST_NAME", "LAST_NAME", "CITY", "STATE", "COUNTRY")


def call_sign(chance: random.Random, digit: str = "") -> str:
    """An invented call sign: Q, a digit, two or three letters."""
    letters = "".join(chance.choice(_LETTERS) for _ in range(chance.choice((2, 3, 3))))
    return f"Q{digit or chance.randrange(10)}{letters}"


def site_name(chance: random.Random) -> str:
    """An invented place."""
    return chance.choice(_FIRST) + chance.choice(_LAST)


def given_name(chance: random.Random) -> str:
    """An invented first name; a few are common."""
    common = chance.random() < 0.2
    return chance.choice(_NAMES) if common else chance.choice(_FIRST) + chance.choice(_SECOND)


def family_name(chance: random.Random) -> str:
    """An invented family name."""
    return (
        chance.choice(_FAMILIES) if chance.random() < 0.2 else site_name(chance) + chance.choice(("", "er", "man", "s"))
    )


def access_rows(count: int, seed: int = 7) -> Iterator[tuple[str, ...]]:
    """Rows of a directory; about one in forty is wrong in a way that directories are."""
    chance = random.Random(seed)  # noqa: S311  (invented data)
    centres = _centres(chance, 700)
    for _at in range(count):
        lat, lon, region, offset_70 = chance.choice(centres)
        lat, lon = lat + chance.gauss(0, 0.35), lon + chance.gauss(0, 0.5)
        yield _access_row(chance, min(max(lat, -89.0), 89.0), lon, region, offset_70)


def _centres(chance: random.Random, count: int) -> list[tuple[float, float, str, float]]:
    land = Land(world_coast())
    found: list[tuple[float, float, str, float]] = []
    while len(found) < count:
        lat, lon = chance.uniform(-52, 66), chance.uniform(-178, 178)
        if land.holds(lat, lon):
            found.append((lat, lon, site_name(chance), chance.choice((-7.6, -7.6, -9.4, 5.0, -1.6))))
    return found


def _access_row(chance: random.Random, lat: float, lon: float, region: str, offset_70: float) -> tuple[str, ...]:
    mode = chance.choice(("FM", "FM", "DMR", "DMR", "D-STAR", "C4FM", "FM/DMR"))
    if chance.random() < 0.4 and "DMR" not in mode:
        hz, offset = 145_575_000 + 12_500 * chance.randrange(18), -0.6
    else:
        base_hz, channels = _RASTERS[offset_70]
        hz, offset = base_hz + 12_500 * chance.randrange(channels), offset_70
    opens = f"CC{chance.randrange(16)}" if "DMR" in mode else chance.choice(CTCSS[8:30]) if "FM" in mode else ""
    fault = chance.randrange(40)
    if fault == 0:
        offset = -offset
    elif fault == 1:
        lat, lon = lon / 2, lat
    elif fault == 2:
        opens = "103.4"
    confirmed = (
        f"{chance.choice((2019, 2023, 2025, 2026, 2026))}-{chance.randint(1, 11):02d}-{chance.randint(1, 28):02d}"
    )
    network = {"DMR": "Lattice", "D-STAR": "Skein", "C4FM": "Commons", "FM/DMR": "Lattice"}.get(mode, "")
    return (
        call_sign(chance, "0"), site_name(chance), region, mode, format_mhz(hz), f"{offset:+.1f}", opens,
        f"{lat:.4f}", f"{lon:.4f}", network, confirmed if fault != 3 else "",
    )  # fmt: skip


def people_rows(count: int, seed: int = 11) -> Iterator[tuple[str, ...]]:
    """Rows of a registry, IDs beginning with 999 in order; a few are doubled or have no number."""
    chance = random.Random(seed)  # noqa: S311  (invented data)
    for at in range(count):
        number = str(9_990_001 + at if at < 9_999 else 999_000_000 + at)
        fault = chance.randrange(20_000)
        number = "" if fault == 0 else str(9_990_001) if fault == 1 else number
        country = chance.choice(COUNTRIES)
        yield (
            number,
            call_sign(chance),
            given_name(chance),
            family_name(chance),
            site_name(chance),
            site_name(chance),
            country,
        )


TARGETS = """network,number,name,kind,country
Lattice,8,Local,group,
Lattice,99900,Isles-wide,group,Velmar Isles
Lattice,99901,Great Velmar,group,Velmar Isles
Lattice,99902,Nessa and Torrick,group,Velmar Isles
Lattice,99905,Exercise,group,Velmar Isles
Lattice,4200,Atlantic English,group,
Lattice,4210,Worldwide slow-speech,group,
Lattice,4299,Worldwide,group,
Lattice,4220,Northern Reach,group,
Lattice,4221,Southern Reach,group,
Lattice,4222,Amber Coast,group,
Lattice,4223,Quillon Bay,group,
Lattice,4224,Marrow Sound,group,
Lattice,4225,Sable Banks,group,
Lattice,4226,Ostrand,group,
Lattice,4227,Ferrow Isles,group,
Lattice,4228,Lower Deeps,group,
Lattice,4229,Upper Deeps,group,
Lattice,4230,Tallow Point,group,
Lattice,4231,Hethering,group,
Lattice,4232,Vane Islands,group,
Lattice,4233,Corrow Strait,group,
Lattice,4234,Pale Shelf,group,
Lattice,4235,Ondry,group,
Lattice,4236,East Skerries,group,
Lattice,4237,West Skerries,group,
Lattice,4238,Mirrow,group,
Lattice,4239,Saltmere,group,
Lattice,4240,Long Haven,group,
Lattice,4241,Dunmarrow,group,
Lattice,4242,Wychholm,group,
Lattice,4243,Far Ledges,group,
Lattice,4250,Evening round,group,Amber Coast
Skein,,VLR001 A,reflector,Velmar Isles
Skein,,VLR001 B,reflector,Velmar Isles
Skein,,VLR002 C,reflector,Quillon Bay
Commons,40010,Velmar Commons,room,Velmar Isles
Commons,40011,Amber Commons,room,Amber Coast
"""


def as_csv(headers: tuple[str, ...], rows: Iterator[tuple[str, ...]]) -> bytes:
    """Rows under headers as UTF-8 CSV."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(headers)
    writer.writerows(rows)
    return out.getvalue().encode()
