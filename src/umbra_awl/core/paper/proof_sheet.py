"""The proofs of a plan's routes on paper and as CSV: by access point, each with its shape and what it says in words."""

import csv
import io
from collections.abc import Mapping
from typing import NamedTuple

from umbra_awl.core.keep.cells import guarded
from umbra_awl.core.logbook.model import SHARES
from umbra_awl.core.logbook.proof import RouteProof, proof_words, share_of
from umbra_awl.core.paper.letters import LINE, MARGIN, PAGE_HEIGHT, PAGE_WIDTH, PAPER, SECOND, STOP, VIOLET, Paper
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.places import module_word, place_word

HEAD = (
    "site",
    "place",
    "destination",
    "route",
    "grade",
    "utc",
    "hears",
    "is heard",
    "age",
    "changed",
    "failed",
    "words",
)
_STEP, _FOOT, _TOLD = 4.4, PAGE_HEIGHT - MARGIN - 8, MARGIN + 78
_MOST_LINES = 30
_LEGEND = (
    "Hollow: never tried. Quarter: repeater heard. Half: own key. Three quarters: echo. Whole with a hole: heard by somebody. "
    "Whole: answered. Cross: failed. Ring: doubtful or old."
)


class ProofLine(NamedTuple):
    """A route on the sheet: its access point, its slot or module, what it reaches, and its proof."""

    site: str
    place: str
    destination: str
    proof: RouteProof


def proof_lines(index: PlanIndex, found: Mapping[str, RouteProof]) -> tuple[ProofLine, ...]:
    """Every route, by access point in plan order and then in the order of destinations."""
    made: dict[str, list[ProofLine]] = {key: [] for key in index.access}
    order = {key: at for at, key in enumerate(index.destinations)}
    for route in sorted(index.routes.values(), key=lambda item: (order[item.destination], item.slot)):
        access, service, destination = index.parts(route)
        place = " ".join(filter(None, (module_word(service), place_word(service, destination, route.slot))))
        made[access.key].append(
            ProofLine(access.by_site, place, destination.name, found.get(route.key, RouteProof(route.key)))
        )
    return tuple(line for lines in made.values() for line in lines)


def proof_csv(lines: tuple[ProofLine, ...]) -> str:
    """The lines as CSV with a head, moments in UTC; text that a spreadsheet would run is guarded."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(HEAD)
    for site, place, destination, proof in lines:
        said = (site, place, destination, proof.route, proof.grade or "never tried", proof.utc)
        both = ("yes" if proof.hears else "no", "yes" if proof.is_heard else "no", proof.age)
        more = ("; ".join(proof.changed), proof.failed, proof_words(proof))
        writer.writerow([guarded(text) for text in (*said, *both, *more)])
    return out.getvalue()


def proof_pdf(lines: tuple[ProofLine, ...], plan: str, day: str) -> bytes:
    """The lines as a PDF on A4 pages. Raises PaperError."""
    paper = Paper(f"{plan}: what is proven")
    shares = share_of({line.proof.route: line.proof for line in lines}, [line.proof.route for line in lines])
    told = f"{shares.proven} of {shares.routes} proven both ways, {shares.never} never tried, {shares.failed} failed"
    y, site = _FOOT + 1, ""
    for line in lines:
        words = paper.wrapped(proof_words(line.proof), 8.5, PAGE_WIDTH - MARGIN - _TOLD)
        if len(words) > _MOST_LINES:
            words = [*words[:_MOST_LINES], "… the rest stands in the log"]
        if y + (8 if line.site != site else 0) + _STEP * len(words) > _FOOT:
            y, site = _page(paper, plan, told, day), ""
        if line.site != site:
            site, y = line.site, _site(paper, line.site, y)
        y = _line(paper, line, words, y)
    if not lines:
        _page(paper, plan, "no route yet", day)
    return paper.data()


def _page(paper: Paper, plan: str, told: str, day: str) -> float:
    paper.new_page()
    wide = PAGE_WIDTH - 2 * MARGIN
    paper.text(MARGIN, MARGIN + 6, f"{plan}: what is proven", 15, face="bold", room=wide - 50)
    paper.text(PAGE_WIDTH - MARGIN - 30, MARGIN + 6, f"{day} · page {paper.pages}", 9, tone=SECOND)
    paper.text(MARGIN, MARGIN + 12, told, 9.5, tone=SECOND, room=wide)
    paper.text(MARGIN, PAGE_HEIGHT - MARGIN, _LEGEND, 7.5, tone=SECOND, room=wide)
    return MARGIN + 17


def _site(paper: Paper, site: str, y: float) -> float:
    paper.text(MARGIN, y + 3, site, 11, face="bold", tone=VIOLET, room=PAGE_WIDTH - 2 * MARGIN)
    return y + 8


def _line(paper: Paper, line: ProofLine, words: list[str], y: float) -> float:
    _shape(paper, line.proof, MARGIN + 3, y - 1.1)
    paper.text(MARGIN + 8, y, line.place, 8.5, tone=SECOND, room=13)
    paper.text(MARGIN + 22, y, line.destination, 9.5, room=_TOLD - MARGIN - 24)
    for at, text in enumerate(words):
        paper.text(_TOLD, y + at * _STEP, text, 8.5, tone=SECOND, room=PAGE_WIDTH - MARGIN - _TOLD)
    below = y + _STEP * max(len(words), 1)
    paper.rule(MARGIN, below - 3.2, PAGE_WIDTH - 2 * MARGIN, LINE)
    return below + 0.6


def _shape(paper: Paper, proof: RouteProof, x: float, y: float) -> None:
    if proof.grade != "failed":
        paper.disc(x, y, 1.3, SHARES.get(proof.grade, 0.0))
    if proof.grade == "heard-by":
        paper.disc(x, y, 0.4, 1.0, PAPER)
    if proof.grade == "failed" or proof.failed:
        paper.cross(x, y, 1.3, STOP)
    elif proof.changed or proof.age == "old":
        paper.disc(x, y, 1.9, 0.0)
