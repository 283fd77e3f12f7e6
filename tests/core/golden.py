"""A memory as text that a person reviews: one line a knob position, then the radio's other tables and settings."""

from umbra_awl.core.facts.frequency import format_mhz
from umbra_awl.core.paper.field_card import opens


def memory_text(memory):
    channels = {channel.number: channel for channel in memory.channels}
    contacts = {item.number: item for item in memory.contacts}
    lines = [f"{memory.profile} for {memory.call}"]
    for zone in memory.zones:
        lines.append(f"[{zone.name}]")
        lines += [f"{place:>2} {_channel(channels[number], contacts)}" for place, number in enumerate(zone.members, 1)]
    for scan in memory.scans:
        lines.append(f"scan {scan.name}: {len(scan.members)} channels")
    lines += [
        f"access {item.name}: {item.rpt1!r} {item.rpt2!r} {format_mhz(item.rx_hz)}" for item in memory.access_list
    ]
    lines += [f"call sign {item.name}: {item.ur!r}" for item in memory.call_signs]
    lines += [f"room {item.room}: {item.name}" for item in memory.rooms]
    settings = memory.settings
    lines.append(f"start-up {settings.startup!r}, automatic offset {settings.auto_offset}")
    return "\n".join(lines) + "\n"


def _channel(channel, contacts):
    contact = contacts.get(channel.contact)
    whom = f"> {contact.call}{' private' if contact.kind == 'private' else ''}" if contact else ""
    fields = f"> {channel.ur!r} {channel.rpt1!r} {channel.rpt2!r}" if channel.mode == "dstar" else ""
    marks = " RX" * channel.receive_only + " 0-offset" * channel.zero_offset
    return f"{channel.name:<16} {format_mhz(channel.rx_hz)} {opens(channel)} {whom}{fields}{marks}".rstrip()
