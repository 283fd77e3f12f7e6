"""A layout as it meets the files at hand: what each column of each file is taken for, and what is passed over."""

from collections.abc import Iterable, Sequence

from msgspec.structs import replace

from umbra_awl.core.columns.layout import ColumnLayout, FileColumn, Sheet
from umbra_awl.core.columns.sample import Sample


def as_found(layout: ColumnLayout, samples: Sequence[Sample]) -> ColumnLayout:
    """The layout with the sheets and columns of these files, in their order; a column that it does not know has no field."""
    by_file = {sheet.file: sheet for sheet in layout.sheet}
    sheets = [_sheet(by_file[sample.file], sample) for sample in samples if sample.file in by_file]
    return replace(layout, sheet=tuple(sheets))


def _sheet(sheet: Sheet, sample: Sample) -> Sheet:
    if not sheet.headings:
        return sheet
    known: dict[str, list[FileColumn]] = {}
    for column in sheet.column:
        known.setdefault(column.title.strip().casefold(), []).append(column)
    columns = [_next_of(known.get(title.strip().casefold(), []), title) for title in sample.headings]
    return replace(sheet, column=tuple(columns))


def _next_of(columns: list[FileColumn], title: str) -> FileColumn:
    """The column of a title; of several of one title each is the next."""
    return columns.pop(0) if columns else FileColumn(title)


def passed_over(layout: ColumnLayout, samples: Iterable[Sample]) -> list[str]:
    """The columns of these files that hold something and are taken for nothing, as “file: column (a value)”.

    One that says the same in every row is passed over too, but tells nothing of any single channel.
    """
    by_file = {sheet.file: sheet for sheet in layout.sheet}
    found: list[str] = []
    for sample in samples:
        fields = [column.field for column in by_file[sample.file].column] if sample.file in by_file else []
        for at, title in enumerate(sample.headings):
            values = list(dict.fromkeys(sample.values(at)))
            if values and not (at < len(fields) and fields[at]):
                more = " …" if len(values) > 1 else " in every row"
                found.append(f"{sample.file}: {title} ({values[0][:24]}{more})")
    return found
