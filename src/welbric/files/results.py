"""Results as a file, and either a job or results as what is compared."""

from __future__ import annotations

import json
from pathlib import Path

from welbric.checking.check import check
from welbric.checking.results_file import Results, read_results
from welbric.errors import InputError
from welbric.files.jobs import load_job
from welbric.files.reading import read_text
from welbric.studies.changes import Side, side_of, side_of_results
from welbric.units import DisplayUnits

LARGEST = 256 * 1024 * 1024  # bytes


def load_results(path: str | Path) -> Results:
    """Read results that ``check --json`` or a book in JSON wrote.

    Raises
    ------
    InputError
        If there are none in the file, or those of one combination alone.
    """
    try:
        data = json.loads(read_text(path, LARGEST))
    except (ValueError, RecursionError) as error:
        raise InputError(f"{path}: is not what `check --json` writes: {error}") from None
    try:
        return read_results(data)
    except InputError as error:
        raise error.under(file=str(path)) from None


def load_side(path: str | Path, show: DisplayUnits | None = None) -> Side:
    """Read a job and check it, or results (``.json``), to be compared.

    Raises
    ------
    InputError
        If it is neither.
    """
    if Path(path).suffix.casefold() == ".json":
        return side_of_results(load_results(path))
    job = load_job(path)
    return side_of(job, check(job), show)
