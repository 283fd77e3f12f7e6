"""The bands: what the region's table says, what is in force here and which plan sets it, and whether the licence has them."""

from collections.abc import Callable
from functools import partial

from msgspec.structs import replace

from umbra_awl.core.facts.bands import Band, bands_for
from umbra_awl.core.facts.frequency import FrequencyError, format_mhz, parse_hz
from umbra_awl.core.plan.edit.edit_station import licence_of, set_band_edges, set_licence, usual_band
from umbra_awl.core.plan.edit.edits import EditRefused
from umbra_awl.desk.held.workbench import Workbench
from umbra_awl.desk.parts.cards.fields import Act, Choice, Field

OWN = "set by the operator"


def edges_words(band: Band) -> str:
    """Both edges in MHz."""
    return f"{format_mhz(band.low_hz)} – {format_mhz(band.high_hz)}"


def parse_edges(text: str) -> tuple[int, int]:
    """Two edges in hertz from “430 - 440”. Raises ValueError with a sentence."""
    low, dash, high = text.replace("–", "-").replace(" to ", "-").partition("-")
    if not dash:
        raise ValueError("Type both edges, for example 430 - 440; or “usual” for the region's own.")
    return parse_hz(low), parse_hz(high)


def band_fields(bench: Workbench, band: Band, who: str) -> tuple[list[Field], list[Act]]:
    """The fields and actions of one band."""
    usual = next((item for item in bands_for(bench.plan.station.region) if item.name == band.name), None)
    licence = licence_of(bench.plan, who)
    has = not licence.bands or band.name in licence.bands
    reach = [
        Choice("yes", partial(_licence, bench, who, band.name, True), has),
        Choice("no", partial(_licence, bench, who, band.name, False), not has),
    ]
    fields = [
        Field("In force", edges_words(band), True, commit=_edges(bench, band), text=edges_words(band)),
        Field(
            "Set by",
            band.source or OWN,
            commit=_source(bench, band),
            text=band.source,
            tip="Which band plan or regulation these edges come from",
        ),
        *(
            []
            if usual is not None and edges_words(usual) == edges_words(band)
            else [Field("Region", edges_words(usual) if usual else "not in its table", True)]
        ),
        Field("Licence", "yes" if has else "no", tone="" if has else "stop", choices=reach),
    ]
    acts = (
        [Act("Usual edges" if usual else "Take it out", partial(bench.do, usual_band(band.name)))]
        if band != usual
        else []
    )
    return fields, acts


def _edges(bench: Workbench, band: Band) -> Callable[[str], str]:
    def commit(text: str) -> str:
        if not text or text.casefold() == "usual":
            bench.do(usual_band(band.name))
            return ""
        try:
            low, high = parse_edges(text)
            source = band.source if band.source and "article 5" not in band.source else OWN
            bench.do(set_band_edges(Band(band.name, low, high, source)))
        except (FrequencyError, EditRefused, ValueError) as error:
            return str(error)
        return ""

    return commit


def _source(bench: Workbench, band: Band) -> Callable[[str], str]:
    def commit(text: str) -> str:
        bench.do(set_band_edges(replace(band, source=text or OWN)))
        return ""

    return commit


def _licence(bench: Workbench, who: str, name: str, has: bool) -> None:
    """Give a band to the licence, or take it away; all bands of the table are named from then on."""
    now = licence_of(bench.plan, who).bands or tuple(band.name for band in bench.index.bands)
    bands = tuple(dict.fromkeys((*now, name))) if has else tuple(item for item in now if item != name)
    if not bands:
        bench.say("A licence reaches at least one band. While it is not granted, say so at Licence.", "stop")
        return
    bench.do(set_licence(f"{'Give' if has else 'Take'} {name} {'to' if has else 'from'} the licence", who, bands=bands))


def add_band(bench: Workbench, name: str, edges: str) -> str:
    """Add a band of the operator's own; the reason when that cannot be."""
    if not name.strip():
        return "A band needs a name, for example 1.2 GHz."
    if any(band.name == name.strip() for band in bench.index.bands):
        return f"{name.strip()} is in the table already."
    try:
        low, high = parse_edges(edges)
        bench.do(set_band_edges(Band(name.strip(), low, high, OWN)))
    except (FrequencyError, EditRefused, ValueError) as error:
        return str(error)
    return ""
