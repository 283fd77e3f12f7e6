"""Hotspots in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.hotspots.stage import HotspotStage

    return HotspotStage(given.bench, given.theme, given.runner(), given.directory, given.book)


HOTSPOTS = StageEntry(
    "hotspots",
    "Hotspots",
    _make,
    ("path", "place", "match", "calibrate", "wifi", "find", "phone"),
    (
        StageCommand("hotspot-add", "Add a hotspot", lambda stage: stage.add_hotspot()),
        StageCommand("hotspot-path", "From an empty card to the echo", showing("path")),
        StageCommand("hotspot-place", "Find a frequency for the hotspot", showing("place"), "Ctrl+Shift+Q"),
        StageCommand("hotspot-match", "What must match: plan, radio, hotspot", showing("match")),
        StageCommand("hotspot-calibrate", "Calibrate the hotspot's offset by its bit error rate", showing("calibrate")),
        StageCommand("hotspot-wifi", "Wi-Fi away from home, and its rehearsal", showing("wifi")),
        StageCommand("hotspot-find", "Find the hotspot, read its log", showing("find"), "Ctrl+Shift+L"),
        StageCommand("hotspot-phone", "Pair the phone; the phone as gateway", showing("phone")),
        StageCommand("hotspot-ask", "Ask the hotspot how it is", lambda stage: stage.spot.ask(), "F7"),
        StageCommand("hotspot-road", "Print the road sheet for a trip", lambda stage: stage.show_road()),
    ),
    targets={"hotspot": "match"},
    concerns={"place": frozenset({"hotspot", "service"}), "wifi": frozenset({"hotspot"}), "match": frozenset({"hotspot"})},
    later=(
        "desk.hotspots.place.place_page",
        "desk.hotspots.match.match_page",
        "desk.hotspots.calibrate.curve_page",
        "desk.hotspots.wifi.wifi_page",
        "desk.hotspots.find.find_page",
        "desk.hotspots.phone_page",
        "core.hotspot.place.after",
        "core.hotspot.match.layout",
        "core.paper.road_sheet",
    ),
)  # fmt: skip
