"""The document: model, edits, file form, store."""
