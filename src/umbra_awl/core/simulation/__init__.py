"""The plan played in time: who blocks whom, what a scan misses, how long one waits. Pure, seeded, without real time."""
