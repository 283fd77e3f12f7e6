"""Somebody's list, read: which column is which field, which side sends, and from a row to an access point. Storing is not here."""
