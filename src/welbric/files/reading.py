"""Text in files: what may be read, and how it is written down there."""

from __future__ import annotations

import codecs
import stat
from dataclasses import dataclass
from pathlib import Path

from welbric.errors import InputError

LARGEST_FILE = 4 * 1024 * 1024  # bytes; about 10,000 members

MARKS = (
    (codecs.BOM_UTF8, "utf-8-sig"),
    (codecs.BOM_UTF16_LE, "utf-16"),
    (codecs.BOM_UTF16_BE, "utf-16"),
)


@dataclass(frozen=True)
class Text:
    """A text with how it stands in its file.

    Attributes
    ----------
    text : str
    encoding : str
        As Python names it.
    """

    text: str
    encoding: str


def regular_file(path: str | Path, largest: int) -> Path:
    """Return a path that is a file of a sensible size: no folder, device or pipe.

    Raises
    ------
    InputError
        If it is none, or there is none.
    """
    path = Path(path)
    try:
        found = path.stat()
    except FileNotFoundError:
        raise InputError(f"{path}: there is no such file") from None
    except (OSError, ValueError) as error:  # a name with a NUL is a ValueError
        why = getattr(error, "strerror", None) or error
        raise InputError(f"{str(path)!r}: cannot be read: {why}") from None
    if stat.S_ISDIR(found.st_mode):
        raise InputError(f"{path}: is a folder; give a job file, such as {path / 'job.toml'}")
    if not stat.S_ISREG(found.st_mode):
        raise InputError(f"{path}: is a device or a pipe, not a file")
    if found.st_size > largest:
        raise InputError(
            f"{path}: is {found.st_size / 1e6:.1f} MB; such a file may have up to "
            f"{largest / 1e6:.1f} MB, so split it"
        )
    return path


def read_bytes(path: str | Path, largest: int) -> bytes:
    """Return what is in a file of a sensible size.

    Raises
    ------
    InputError
        If it cannot be read; see `regular_file`.
    """
    path = regular_file(path, largest)
    try:
        with path.open("rb") as file:
            return file.read(largest + 1)
    except OSError as error:
        raise InputError(f"{path}: cannot be read: {error.strerror}") from None


def read_text(path: str | Path, largest: int = LARGEST_FILE) -> str:
    """Return the text of a file in UTF-8, such as a job file.

    Raises
    ------
    InputError
        If it is not a readable text file of a sensible size.
    """
    try:
        return read_bytes(path, largest).decode("utf-8-sig")
    except UnicodeDecodeError:
        raise InputError(f"{path}: is not a text file; a job file is TOML in UTF-8") from None


def read_table_text(path: str | Path, largest: int) -> Text:
    """Return the text of a CSV in UTF-8, UTF-16 or Windows-1252, as spreadsheets write it.

    Raises
    ------
    InputError
        If it is not a readable text file of a sensible size.
    """
    content = read_bytes(path, largest)
    encoding = next((name for mark, name in MARKS if content.startswith(mark)), "")
    if not encoding and b"\0" in content[:200]:
        # Without a mark, what is mostly ASCII has its zeros at every second place.
        encoding = "utf-16-be" if content[:1] == b"\0" else "utf-16-le"
    for one in [encoding] if encoding else ["utf-8", "cp1252"]:
        try:
            text = content.decode(one)
        except UnicodeDecodeError:
            continue
        if "\0" not in text:
            return Text(text, one)
    raise InputError(f"{path}: is not a text file; a CSV is in UTF-8, UTF-16 or Windows-1252")
