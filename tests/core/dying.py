"""Ending a document as a kill does: nothing is tidied, the locks are gone with the process."""


def kill(document):
    document._journal.close()
    document._file.close()


def tear(document, tail):
    """End it in the middle of writing a record."""
    kill(document)
    path = document._journal.path
    path.write_bytes(path.read_bytes() + tail)
