"""On air in the table of stages.

What is not seen at once is imported where it is first made, so that the first window does not wait for it.
"""

from umbra_awl.desk.stage import StageCommand, StageEntry, Surroundings, showing, with_radio


def _make(given: Surroundings) -> object:
    from umbra_awl.desk.onair.stage import OnAirStage

    return OnAirStage(given)


ONAIR = StageEntry(
    "onair",
    "On air",
    _make,
    ("lanes", "evening", "messages"),
    (
        StageCommand("onair-lanes", "Play the plan in time: lanes", showing("lanes"), "Ctrl+Shift+E", when=with_radio),
        StageCommand("onair-evening", "An evening in figures: what I miss, how long I wait", showing("evening"), when=with_radio),
        StageCommand("onair-messages", "Texts between two radios", lambda it: it.show_kind("text"), when=with_radio),
        StageCommand("onair-pictures", "Send a picture, seen before", lambda it: it.show_kind("picture"), when=with_radio),
        StageCommand("onair-restart", "Play the scene from its beginning", lambda stage: stage.restart(), when=with_radio),
        StageCommand("onair-advice", "Say all advice again", lambda it: it.lanes.stand.advice.forget_known(), when=with_radio),
    ),
    later=(
        "desk.onair.lanes_page", "desk.onair.evening_page", "desk.onair.messages.messages_page", "core.messages.map_picture",
    ),
)  # fmt: skip
