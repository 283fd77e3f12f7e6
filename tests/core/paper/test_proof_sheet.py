"""The proof sheet: every route once with its shape and words, pages as long as needed, CSV that a spreadsheet cannot run."""

import csv
import io
from datetime import UTC, datetime

import pytest
from msgspec.structs import replace

from umbra_awl.core.logbook.model import RANK, Entry
from umbra_awl.core.logbook.proof import RouteProof, proof_words, proofs
from umbra_awl.core.paper.letters import MARGIN, PAGE_HEIGHT, PAGE_WIDTH, Paper
from umbra_awl.core.paper.proof_sheet import ProofLine, proof_csv, proof_lines, proof_pdf

NOW = datetime(2026, 11, 27, tzinfo=UTC)
WW = "travel-dmr>worldwide@2"


@pytest.fixture
def found(index):
    grades = [grade for grade in RANK if grade]
    keys = list(index.routes)[: len(grades)]
    made = [
        Entry(f"k{at}", "2026-11-20T10:00:00Z", grade, key, note="no beep" if grade == "failed" else "")
        for at, (key, grade) in enumerate(zip(keys, grades, strict=True))
    ]
    return proofs(index, made, NOW)


@pytest.fixture
def drawn(monkeypatch):
    """What is put on paper: texts with their feet, discs, crosses."""
    seen = {"text": [], "wide": [], "disc": [], "cross": []}
    for name, real in (("text", Paper.text), ("disc", Paper.disc), ("cross", Paper.cross)):

        def watched(self, *given, _name=name, _real=real, **more):
            seen[_name].append((self.pages, *given))
            made = _real(self, *given, **more)
            if _name == "text":
                seen["wide"].append(made)
            return made

        monkeypatch.setattr(Paper, name, watched)
    return seen


def test_every_route_stands_on_it_once_by_access_point_in_plan_order(index, found):
    lines = proof_lines(index, found)
    assert sorted(line.proof.route for line in lines) == sorted(index.routes)
    sites = [line.site for line in lines]
    assert list(dict.fromkeys(sites)) == [access.by_site for access in index.access.values() if access.by_site in sites]
    assert [site for at, site in enumerate(sites) if not at or sites[at - 1] != site] == list(dict.fromkeys(sites))


def test_the_csv_reads_back_and_says_both_proofs(index, found):
    rows = list(csv.DictReader(io.StringIO(proof_csv(proof_lines(index, found)))))
    assert len(rows) == len(index.routes)
    by_route = {row["route"]: row for row in rows}
    for key, proof in found.items():
        row = by_route[key]
        assert row["grade"] == (proof.grade or "never tried")
        assert (row["hears"], row["is heard"]) == ("yes" if proof.hears else "no", "yes" if proof.is_heard else "no")
        assert row["words"] == proof_words(proof)


def test_a_note_that_looks_like_a_formula_is_not_run_by_a_spreadsheet():
    text = proof_csv((ProofLine("=1+1", "", "@x", RouteProof("a>b@0", "failed", utc="2026-11-20", failed="=cmd()")),))
    row = next(iter(csv.reader(io.StringIO(text.split("\r\n", 1)[1]))))
    assert not [cell for cell in row if cell.startswith(("=", "@", "+", "-"))]


def test_every_grade_has_its_shape_and_nothing_runs_off_the_page(index, found, drawn):
    lines = proof_lines(index, found)
    assert proof_pdf(lines, "Home, town and Nessa", "2026-11-27").startswith(b"%PDF")
    texts = [given[3] for given in drawn["text"]]
    assert texts.count("Home, town and Nessa: what is proven") == max(given[0] for given in drawn["text"])
    for line in lines:
        assert line.destination in texts
    assert {given[4] for given in drawn["disc"]} == {0.0, 0.25, 0.5, 0.75, 1.0}
    assert len(drawn["cross"]) == 1
    assert all(MARGIN <= given[2] <= PAGE_HEIGHT - MARGIN for given in drawn["text"])


def test_a_long_cause_takes_the_lines_it_needs_and_breaks_the_page_before_it(drawn):
    cause = "nobody came back and the lamp stayed dark " * 12
    lines = tuple(
        ProofLine(
            "Blackfell", "slot 2", f"Group {at}", RouteProof(f"a>{at}@2", "failed", utc="2026-11-20", failed=cause)
        )
        for at in range(12)
    )
    proof_pdf(lines, "Plan", "2026-11-27")
    assert max(given[0] for given in drawn["text"]) > 1
    assert all(given[2] <= PAGE_HEIGHT - MARGIN for given in drawn["text"])
    assert sum(given[3] == "Blackfell" for given in drawn["text"]) == max(given[0] for given in drawn["text"])


@pytest.mark.parametrize("cause", ["x" * 900, "word " * 9_000])
def test_a_cause_without_measure_stays_on_the_page(drawn, cause):
    proof_pdf(
        (ProofLine("Blackfell", "", "Echo", RouteProof("a>b@2", "failed", utc="2026-11-20", failed=cause)),),
        "Plan",
        "2026-11-27",
    )
    assert all(given[2] <= PAGE_HEIGHT - MARGIN for given in drawn["text"])
    for given, wide in zip(drawn["text"], drawn["wide"], strict=True):
        assert given[1] + wide <= PAGE_WIDTH - MARGIN + 0.1


def test_a_doubtful_proof_has_a_ring_about_its_disc(index, drawn):
    entry = Entry("a", "2026-11-20T10:00:00Z", "echo", WW, stood={"slot": "9"})
    sound = proof_lines(index, proofs(index, [replace(entry, stood={})], NOW))
    doubtful = proof_lines(index, proofs(index, [entry], NOW))
    counts = []
    for lines in (sound, doubtful):
        drawn["disc"].clear()
        proof_pdf(tuple(line for line in lines if line.proof.route == WW), "Plan", "2026-11-27")
        counts.append(len(drawn["disc"]))
    assert counts == [1, 2]


def test_a_plan_without_routes_has_a_page_that_says_so(drawn):
    assert proof_pdf((), "Plan", "2026-11-27").startswith(b"%PDF")
    assert "no route yet" in [given[3] for given in drawn["text"]]
