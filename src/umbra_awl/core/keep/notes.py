"""Notes for the diary. What keeps it is loaded with the first note: a start that has nothing to note does without it."""

from types import TracebackType

Raised = bool | tuple[type[BaseException], BaseException, TracebackType | None]


class DiaryNotes:
    """The notes of one module, by its name."""

    def __init__(self, name: str) -> None:
        self._name = name

    def info(self, text: str, *values: object) -> None:
        """Note what happened; `values` are put into the text as `%s`."""
        self._note("INFO", text, values)

    def warning(self, text: str, *values: object, exc_info: Raised = False) -> None:
        """Note what should not have happened, with the error at hand where `exc_info` asks for it."""
        self._note("WARNING", text, values, exc_info)

    def error(self, text: str, *values: object, exc_info: Raised = False) -> None:
        """Note what went wrong."""
        self._note("ERROR", text, values, exc_info)

    def debug(self, text: str, *values: object) -> None:
        """Note what only its maker wants to know."""
        self._note("DEBUG", text, values)

    def _note(self, level: str, text: str, values: tuple[object, ...], exc_info: Raised = False) -> None:
        import logging

        logging.getLogger(self._name).log(getattr(logging, level), text, *values, exc_info=exc_info)
