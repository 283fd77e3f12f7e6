"""Finding it, its log, what one notices, lines that are taught."""
