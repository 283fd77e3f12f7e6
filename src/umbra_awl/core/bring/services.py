"""Which channels share a service, and which services share a site: by frequency pair and what opens it, and by their names."""

from collections import Counter
from typing import NamedTuple

from umbra_awl.core.bring.notes import Note
from umbra_awl.core.facts.bands import band_at
from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.modes.table import MODES
from umbra_awl.core.plan.index import PlanIndex
from umbra_awl.core.plan.model import Air, DmrAir, DstarAir, FmAir, FusionAir, Mode, Service, SiteKind
from umbra_awl.core.radio.memory import Channel

Pair = tuple[Mode, int, int, str]
_MODE_WORDS = frozenset({"fm", "dmr", "dstar", "d-star", "fusion", "c4fm", "analog", "digital"})


class Group(NamedTuple):
    """The channels of one service: the pair with what tells services on it apart, and the site their names speak of."""

    pair: Pair
    channels: tuple[Channel, ...]
    site: str

    @property
    def mode(self) -> Mode:
        """Their mode."""
        return self.pair[0]


def groups_of(channels: tuple[Channel, ...], notes: list[Note]) -> list[Group]:
    """The services behind some channels, in the order of their first channel."""
    by_pair: dict[Pair, list[Channel]] = {}
    for channel in channels:
        by_pair.setdefault(_pair(channel), []).append(channel)
    _put_slips_back(by_pair, notes)
    return [Group(pair, tuple(held), _site(held)) for pair, held in by_pair.items()]


def _pair(channel: Channel) -> Pair:
    opener = (
        str(channel.color_code) if channel.mode == "dmr" else channel.rpt1.strip() if channel.mode == "dstar" else ""
    )
    return (channel.mode, channel.rx_hz, channel.tx_hz, opener)


def _put_slips_back(by_pair: dict[Pair, list[Channel]], notes: list[Note]) -> None:
    """A lone channel whose name speaks of the same site as others on its pair, with another color code, is a copy's slip."""
    for pair in [item for item in by_pair if item[0] == "dmr" and len(by_pair[item]) == 1]:
        alone = by_pair[pair][0]
        fuller = max(
            (item for item in by_pair if item[:3] == pair[:3] and item != pair),
            key=lambda item: len(by_pair[item]),
            default=None,
        )
        if fuller is None or len(by_pair[fuller]) < 2 or _first_word(alone.name) != _site(by_pair[fuller]):
            continue
        by_pair[fuller].append(by_pair.pop(pair)[0])
        text = (
            f"It has color code {pair[3]} where the others on {format_mhz(pair[1])} have {fuller[3]}; kept as it is, and found "
            "by the findings."
        )
        notes.append(Note("doubtful", alone.name, text))


def _first_word(name: str) -> str:
    return name.split(maxsplit=1)[0] if name.split() else name


def _site(channels: list[Channel]) -> str:
    """The words that all names begin with; of a single name all but its last word or mode."""
    parts = [channel.name.split() for channel in channels]
    if len(parts) > 1:
        shared: list[str] = []
        for column in zip(*parts, strict=False):
            if len(set(column)) > 1:
                break
            shared.append(column[0])
        if shared:
            return " ".join(shared)
        return Counter(words[0] for words in parts if words).most_common(1)[0][0] if any(parts) else ""
    words = parts[0]
    bare = [word for word in words if word.casefold() not in _MODE_WORDS]
    return " ".join(bare[:1] if len(words) > 1 else words) or channels[0].name


def spoken(channel: Channel, site: str) -> str:
    """What a channel's name says besides its site."""
    rest = channel.name.removeprefix(site).strip() if channel.name.startswith(site) else channel.name
    return rest or channel.name


def site_kind(group: Group, index: PlanIndex) -> SiteKind:
    """A repeater where two frequencies are used; else a hotspot where it is digital, a simplex frequency, or only heard."""
    _mode, rx_hz, tx_hz, _opener = group.pair
    if rx_hz != tx_hz:
        return "repeater"
    if all(channel.receive_only for channel in group.channels) and band_at(index.bands, rx_hz) is None:
        return "receive"
    return "simplex" if group.mode == "fm" else "hotspot"


def air_of(group: Group) -> Air:
    """What opens the service, as most of its channels have it."""
    channels = group.channels
    if group.mode == "fm":
        return FmAir(_most(channels, "tone_tx"), "", _most(channels, "width_hz"))
    if group.mode == "dmr":
        used = tuple(sorted({channel.slot or 1 for channel in channels}))
        slots = used if group.pair[1] == group.pair[2] else (1, 2)  # one frequency carries one slot at a time
        return DmrAir(int(group.pair[3] or 1), slots=slots, admit=_most(channels, "admit"))
    if group.mode == "dstar":
        rpt1, rpt2 = _most(channels, "rpt1"), _most(channels, "rpt2")
        return DstarAir(rpt1[7:8].strip() or "B", rpt2[7:8] == "G")
    ways = tuple(dict.fromkeys(channel.way for channel in channels if channel.way not in {"", "AMS", "FM"})) or ("DN",)
    auto = any(channel.way == "AMS" for channel in channels)
    return FusionAir(ways, _most(channels, "dgid_tx"), _most(channels, "dgid_rx"), auto)


def _most(channels: tuple[Channel, ...], field: str):  # type: ignore[no-untyped-def]
    """The value that most channels have; the first one of several."""
    return Counter(getattr(channel, field) for channel in channels).most_common(1)[0][0]


def call_of(group: Group) -> str:
    """The call sign that a service's own settings name; only D-STAR's do."""
    return group.channels[0].rpt1[:7].strip() if group.mode == "dstar" else ""


def known_service(group: Group, index: PlanIndex) -> Service | None:
    """The plan's own service on the same pair, in the same mode, opened by the same."""
    for _access, service in index.all_services():
        if (service.mode, service.rx_hz, service.tx_hz) == group.pair[:3] and _opens_alike(service.air, group):
            return service
    return None


def _opens_alike(air: Air, group: Group) -> bool:
    mode = MODES[group.mode]
    return mode.asked(group.channels[0]) in {"", mode.opener(air)}
