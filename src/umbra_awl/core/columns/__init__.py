"""A radio's memory as files in anybody's columns, both ways."""
