"""The page Messages: texts and pictures in one talk, and the bench that sends them. Playing in time is not here."""
