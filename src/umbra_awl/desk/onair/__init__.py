"""The On air stage: the plan played in time, an evening in figures, texts and pictures."""
