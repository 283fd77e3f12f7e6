"""What a hotspot's log says, by rules that are data; symptoms; the ladder of proof."""
