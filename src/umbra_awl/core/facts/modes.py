"""The four modes by the words operators use."""

MODE_WORDS = {"fm": "FM", "dmr": "DMR", "dstar": "D-STAR", "fusion": "System Fusion"}
