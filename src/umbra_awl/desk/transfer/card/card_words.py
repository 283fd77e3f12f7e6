"""What the page of a card says of where the card is and what is next."""

from typing import TYPE_CHECKING

from umbra_awl.core.facts.counting import counted
from umbra_awl.core.transfer.card.steps import CardSights

if TYPE_CHECKING:
    from umbra_awl.desk.transfer.card.card_page import CardPage


_PULL = "Never push a card in or out while the radio is on."


_ANEW = (
    "What was read is kept as it is. Look whether this is the radio you mean. Begin it anew to send the plan to it as to "
    "an empty one; settings that are not in the plan stay as they are."
)


class CardPageWords:
    """Words for a page."""

    def __init__(self, owner: "CardPage") -> None:
        self._page = owner

    def can_go(self, found: CardSights) -> bool:
        runner = self._page.runner
        if runner.running or found.stage in {"sent", "in radio", "part", "wrong", "empty", "unread", "unsent"}:
            return False
        if found.stage in {"away", "older"}:
            return not runner.ways.card
        if found.stage == "taken" and not runner.senseless:
            return runner.difference.compared is not None and bool(runner.difference.compared.sheet.changes)
        return True

    def main_words(self, found: CardSights) -> str:
        runner = self._page.runner
        if runner.senseless:
            return "Begin it anew"
        if not runner.ways.card:
            return "Choose the card"
        if found.stage == "taken":
            changes = len(runner.difference.compared.sheet.changes) if runner.difference.compared is not None else 0
            if runner.difference.comparing:
                return "Comparing …"
            return f"Send {counted(changes, 'change')} to the card" if changes else "Nothing to send"
        return {"new": "Prove it", "half": "Read what it holds"}.get(found.stage, "Read the card")

    def state_words(self, found: CardSights) -> str:
        runner = self._page.runner
        if runner.running:
            return "Working on the card: leave it in …"
        if runner.senseless:
            return f"{runner.senseless} {_ANEW}"
        if found.stage == "taken" and runner.success and runner.stand != "proven":
            return f"{runner.success} {found.text}" if runner.success not in found.text else found.text
        return found.text

    def todo_words(self, found: CardSights) -> str:
        number = found.done
        steps = self._page.picture.steps
        if found.stage == "taken" and self._page.runner.difference.comparing:
            return ""
        how = steps[number].how if number < len(steps) and not found.amiss else ""
        lead = found.todo if found.amiss or found.stage in {"empty", "away", "in radio", "sent", "new"} else how
        caution = f" {_PULL}" if found.stage in {"away", "sent", "in radio"} else ""
        return f"Next: {lead}{caution}" if lead else ""
