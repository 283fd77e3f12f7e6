"""By cable: read, compare, write, prove, with the change sheet and the shelf of backups. The job itself is the runner's."""
