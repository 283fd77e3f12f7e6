"""The port doctor: from the plug in the radio to its answer, each place where the way can break, and the very line to type."""
