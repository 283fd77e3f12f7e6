"""Any table, whatever its kind of file, as headers and rows."""
