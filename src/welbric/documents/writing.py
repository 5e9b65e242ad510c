"""Files written whole or not at all, where the user means them to be."""

from __future__ import annotations

import contextlib
import os
import stat
import tempfile
from collections.abc import Iterator, Sequence
from pathlib import Path

from welbric.errors import InputError

PATIENCE = 20.0  # s that another writer may take


def ending_of(path: str | Path, endings: Sequence[str], inputs: Sequence[str | Path] = ()) -> str:
    """Return the ending of a file to be written, which says what is written into it.

    Parameters
    ----------
    path : str or Path
    endings : sequence of str
        Those accepted, such as ``".pdf"``.
    inputs : sequence of str or Path
        Files that are read, which must not be written over.

    Raises
    ------
    InputError
        If the ending is another one, or the file is one of those read.
    """
    path = Path(path)
    ending = path.suffix.casefold()
    if ending not in endings:
        given = f"ends in {path.suffix!r}" if path.suffix else "has no ending"
        raise InputError(f"{path}: {given}; it says the form: {', '.join(endings)}")
    for one in inputs:
        if path.exists() and Path(one).exists() and path.samefile(one):
            raise InputError(f"{path}: is read here, and is not written over; give another name")
    return ending


def save_text(path: str | Path, text: str, encoding: str = "utf-8") -> None:
    """Write a text file whole or not at all.

    Raises
    ------
    InputError
        If it cannot be written.
    """
    save_bytes(path, text.encode(encoding))


def save_bytes(path: str | Path, content: bytes) -> None:
    """Write a file whole or not at all: through links, with the mode that it has.

    Raises
    ------
    InputError
        If it is read-only, no file, or cannot be written.
    """
    try:
        target = Path(os.path.realpath(path))
        mode = _mode_of(target, str(path))
        handle, temporary = tempfile.mkstemp(dir=target.parent, prefix=f".{target.name[:100]}.")
    except InputError:
        raise
    except (OSError, ValueError) as error:  # a name with a NUL is a ValueError
        why = getattr(error, "strerror", None) or error
        raise InputError(f"{path}: cannot be written: {why}") from None
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(content)
        os.chmod(temporary, mode)
        os.replace(temporary, target)
    except OSError as error:
        with contextlib.suppress(OSError):
            os.unlink(temporary)
        raise InputError(f"{path}: cannot be written: {error.strerror}") from None


def _mode_of(target: Path, named: str) -> int:
    """Return the mode that a file has, or that a new one gets."""
    if not target.exists():
        mask = os.umask(0)
        os.umask(mask)
        return 0o666 & ~mask
    found = target.stat().st_mode
    if stat.S_ISDIR(found):
        raise InputError(f"{named}: is a folder; give the name of a file")
    if not stat.S_ISREG(found):
        raise InputError(f"{named}: is a device or a pipe, not a file")
    if not found & 0o222:  # whoever runs this
        raise InputError(f"{named}: is read-only, and is kept as it is")
    return stat.S_IMODE(found)


@contextlib.contextmanager
def locked(path: str | Path) -> Iterator[None]:
    """Keep other writers away from a file while it is read, changed and written.

    Raises
    ------
    InputError
        If another one keeps it for too long, or a lock cannot be set beside it.
    """
    from filelock import FileLock, Timeout

    target = Path(os.path.realpath(path))
    beside = target.with_name(f".{target.name}.lock")
    try:
        with FileLock(beside, timeout=PATIENCE):
            try:
                yield
            finally:
                # While it is held: one who waits notices that it is gone, and makes a new one.
                beside.unlink(missing_ok=True)
    except Timeout:
        raise InputError(f"{path}: another program is writing it; try again") from None
    except OSError as error:
        raise InputError(f"{path}: cannot be locked: {error.strerror or error}") from None
