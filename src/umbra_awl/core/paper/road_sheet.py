"""The road sheet: what to do with a hotspot on a trip, on paper: there is no computer on the road. No password is on it."""

from typing import NamedTuple

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.hotspot.logs.ladder import RUNGS
from umbra_awl.core.hotspot.wifi.phones import page_words
from umbra_awl.core.hotspot.wifi.schools import PORTAL_WAYS, SCHOOL_WORDS, WHO_WORDS, WifiStep, wifi_steps
from umbra_awl.core.paper.letters import LINE, MARGIN, PAGE_HEIGHT, PAGE_WIDTH, SECOND, VIOLET, Paper
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import HomeWifi, Hotspot, Phone, Trip

_WIDE = PAGE_WIDTH - 2 * MARGIN
CAUTION = (
    "Low power is enough beside one's own hotspot. Not while driving. The licence of the place you are in decides."
)


class RoadSheet(NamedTuple):
    """What stands on it: title, facts as (name, value), steps at home and on the road, the ladder, ways past a login page."""

    title: str
    facts: tuple[tuple[str, str], ...]
    home: tuple[WifiStep, ...]
    road: tuple[WifiStep, ...]
    rungs: tuple[tuple[str, str], ...]
    ways: tuple[str, ...]
    rehearsed: str


IN_STORE, IN_HEAD = "in your key store, not on this sheet", "kept nowhere here: write them where only you look"


def road_sheet(
    index: PlanIndex, hotspot: Hotspot, trip: Trip | None, rehearsed: str = "", passwords: str = IN_STORE
) -> RoadSheet:
    """The road sheet of a hotspot, for a trip where one is chosen; `passwords` says where they are."""
    plan = index.plan
    access = index.access[hotspot.access]
    phone, home = plan.station.phone, plan.station.home_wifi
    where = f"{trip.name}, {trip.begins} to {trip.ends}" if trip is not None else "away from home"
    sends = format_mhz(hotspot.transmit_hz)
    pair = sends if hotspot.transmit_hz == hotspot.receive_hz else f"{sends}, hears {format_mhz(hotspot.receive_hz)}"
    facts = [
        ("Method", SCHOOL_WORDS[hotspot.school]),
        ("Phone shares", _shares(phone, home, pose=hotspot.school == "pose")),
        ("Hotspot knows", ", ".join(f"“{name}”" for name in hotspot.wifi) or "no Wi-Fi noted"),
        ("Page", page_words(hotspot, phone)),
        ("Frequency", f"{pair} MHz, color code {hotspot.color_code}"),
        ("Passwords", passwords),
    ]
    steps = wifi_steps(hotspot, phone)
    return RoadSheet(
        f"{access.site}: {where}",
        tuple(facts),
        tuple(step for step in steps if step.at == "home"),
        tuple(step for step in steps if step.at == "road"),
        tuple((rung.words, rung.todo) for rung in RUNGS),
        PORTAL_WAYS,
        rehearsed or "not rehearsed yet",
    )


def _shares(phone: Phone | None, home: HomeWifi | None, *, pose: bool) -> str:
    """Under which name the phone shares on the road: its own, or that of home where it poses as home."""
    if phone is None or not phone.sharing:
        return "name not noted"
    at = f"at {phone.band_ghz:g} GHz"
    if not pose:
        return f"“{phone.sharing}” {at}"
    return (
        f"“{home.name}”, the name of home, {at}" if home is not None else f"the name of home, which is not noted, {at}"
    )


def road_pdf(sheet: RoadSheet, day: str) -> bytes:
    """The sheet as a PDF on one A4 page. Raises PaperError."""
    paper = Paper(f"{sheet.title}: road sheet")
    paper.new_page()
    paper.text(MARGIN, MARGIN + 6, sheet.title, 17, face="bold", room=_WIDE - 40)
    paper.text(PAGE_WIDTH - MARGIN - 38, MARGIN + 6, f"road sheet · {day}", 9, tone=SECOND)
    y = MARGIN + 13
    for name, value in sheet.facts:
        paper.text(MARGIN, y, name, 10, tone=SECOND)
        paper.text(
            MARGIN + 34, y, value, 11, face="mono" if "“" in value or "MHz" in value else "sans", room=_WIDE - 34
        )
        y += 5.6
    paper.text(MARGIN, y, f"Rehearsal: {sheet.rehearsed}", 9, tone=SECOND, room=_WIDE)
    for head, steps in (("At home, before you go", sheet.home), ("There", sheet.road)):
        y = _steps(paper, head, steps, y + 8)
    y = _pairs(paper, "Proof, weak to strong: where it stops, do this", sheet.rungs, y + 4)
    y = _heading(paper, "A login page? Then one of these", y + 4)
    for way in sheet.ways:
        paper.text(MARGIN, y, f"– {way}", 9.5, room=_WIDE)
        y += 4.8
    paper.text(MARGIN, PAGE_HEIGHT - MARGIN, CAUTION, 8, tone=SECOND, room=_WIDE)
    return paper.data()


def _heading(paper: Paper, text: str, y: float) -> float:
    paper.text(MARGIN, y, text, 12, face="bold", tone=VIOLET)
    return y + 5.5


def _steps(paper: Paper, head: str, steps: tuple[WifiStep, ...], y: float) -> float:
    y = _heading(paper, head, y)
    for at, step in enumerate(steps, 1):
        paper.box(MARGIN, y - 3.2, 3.4, 3.4, line=LINE)
        paper.text(MARGIN + 5, y, f"{at}  {WHO_WORDS[step.who]}: {step.what}", 10, room=_WIDE - 8)
        told = f"see: {step.sees}" + (f"   if not: {step.else_}" if step.else_ else "")
        paper.text(MARGIN + 9, y + 4.2, told, 8.5, tone=SECOND, room=_WIDE - 10)
        y += 9.4
    return y


def _pairs(paper: Paper, head: str, rows: tuple[tuple[str, str], ...], y: float) -> float:
    y = _heading(paper, head, y)
    for at, (words, todo) in enumerate(rows, 1):
        paper.text(MARGIN, y, f"{at}  {words}", 9.5, room=66)
        paper.text(MARGIN + 68, y, todo, 9.5, tone=SECOND, room=_WIDE - 68)
        y += 4.8
    return y


def road_text(sheet: RoadSheet) -> str:
    """The sheet as plain text, for the phone."""
    lines = [sheet.title, "", *(f"{name}: {value}" for name, value in sheet.facts), f"Rehearsal: {sheet.rehearsed}"]
    for head, steps in (("At home, before you go", sheet.home), ("There", sheet.road)):
        lines += ["", head, *(_step_text(at, step) for at, step in enumerate(steps, 1))]
    lines += ["", "Proof, weak to strong"]
    lines += [f"{at}. {words}. If not: {todo}." for at, (words, todo) in enumerate(sheet.rungs, 1)]
    return "\n".join([*lines, "", "A login page?", *(f"- {way}" for way in sheet.ways), "", CAUTION]) + "\n"


def _step_text(at: int, step: WifiStep) -> str:
    other = f" If not: {step.else_}." if step.else_ else ""
    return f"{at}. {WHO_WORDS[step.who]}: {step.what}. See: {step.sees}.{other}"
