"""Somebody's list, read: which column is which field, which side sends, a row as an access point. Storing is not here."""
