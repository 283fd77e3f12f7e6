"""What goes in beside the memory: people, and access points around."""
