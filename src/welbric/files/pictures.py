"""Pictures for a document, such as a logo."""

from __future__ import annotations

import io
import warnings
from pathlib import Path
from xml.etree import ElementTree

from welbric.documents.blocks import Logo
from welbric.errors import InputError
from welbric.files.reading import read_bytes

LARGEST = 1024 * 1024  # bytes
KINDS = {".svg": "svg+xml", ".png": "png", ".jpg": "jpeg", ".jpeg": "jpeg"}


def load_logo(path: str | Path) -> Logo:
    """Read a picture: SVG, PNG or JPEG, up to 1 MB.

    Raises
    ------
    InputError
        If it is none of these, or cannot be read.
    """
    path = Path(path)
    kind = KINDS.get(path.suffix.casefold())
    if kind is None:
        raise InputError(f"{path}: is no picture that is read; accepted: {', '.join(KINDS)}")
    content = read_bytes(path, LARGEST)
    if kind == "svg+xml":
        if b"<!DOCTYPE" in content or b"<!ENTITY" in content:  # which may grow without bound
            raise InputError(f"{path}: has a document type; a logo is an SVG without one")
        try:
            root = ElementTree.fromstring(content.decode("utf-8-sig"))  # noqa: S314
        except (ElementTree.ParseError, UnicodeDecodeError) as error:
            raise InputError(f"{path}: is no SVG: {error}") from None
        if root.tag.rpartition("}")[2] != "svg":
            raise InputError(f"{path}: is no SVG: it begins with <{root.tag}>")
        return Logo(kind, content.decode("utf-8-sig").encode(), 1.0)
    from PIL import Image, UnidentifiedImageError

    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            with Image.open(io.BytesIO(content)) as picture:
                picture.load()
                wide, high, form = *picture.size, (picture.format or "").casefold()
    except (UnidentifiedImageError, OSError, ValueError, Warning, SyntaxError) as error:
        raise InputError(f"{path}: cannot be read as a picture: {error}") from None
    if form != kind:
        raise InputError(f"{path}: is a {form.upper()}, not what its ending says")
    return Logo(kind, content, wide / high)
