"""How the radio in hand is loaded, in a few lines for paper: by which way, and its steps."""

from umbra_awl.core.radio.profile import WAY_WORDS, Profile


def loaded_how(profile: Profile) -> tuple[str, ...]:
    """The lines on how a radio is loaded, its ways in their order."""
    lines: list[str] = []
    if profile.by_cable:
        lines.append("By cable: radio off, plug in until it clicks, radio on. Read, compare, write, read back.")
    if profile.by_card and profile.card is not None:
        card = profile.card
        out, into = " › ".join(card.write_out), " › ".join(card.read_in)
        lines.append(f"By card, out: {out}, wait for “{card.done}”, radio off, card out.")
        times = "" if card.yes == 1 else f", yes {card.yes} times"
        lines.append(
            f"By card, in: card in while off, radio on, {into}, the newest PLAN file{times}. Write out again to prove it."
        )
        if card.around is not None:
            lines.append(f"List around, apart: {' › '.join(card.around.read_in)}.")
    if profile.fed_by("app"):
        lines.append("By phone app: take its list first; handing over overwrites. Keep the phone awake.")
    if profile.people is not None and any(item.people for item in profile.firmware):
        lines.append("People are a write of their own, after the memory.")
    if profile.by_keys:
        lines.append("By its keys: the key sheet.")
    return tuple(lines) or (f"By {' or '.join(WAY_WORDS[way] for way in profile.ways_in)}.",)


def loaded_words(profile: Profile) -> str:
    """The same in a few words, for a label."""
    if profile.by_card and profile.card is not None:
        return f"loaded by card: {' › '.join(profile.card.read_in)}"
    return f"loaded by {WAY_WORDS[profile.ways_in[0]]}"
