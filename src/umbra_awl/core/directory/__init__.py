"""Access points, destinations and people from open files, kept in a searchable store with notes and private edits."""
