"""Meshes in millimetres: STL, OBJ and 3MF, closed and facing outward."""

from __future__ import annotations

import io
import itertools
import re
import uuid
import zipfile
from collections.abc import Iterator
from pathlib import Path
from xml.sax.saxutils import escape

from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.surface.sections import Sections
from kelvor.core.shape.surface.surface import mesh
from kelvor.exchange.drawings import MM

_MODEL = re.compile(rb"<model\b[^>]*>")
HEAD = 80
"""A binary STL begins with so many bytes that are free."""
_UUID = re.compile(rb'(UUID=")[0-9a-f-]{36}"')


def write_mesh(shape: Sections, path: Path, kind: str, stamp: Stamp) -> None:
    """Write the closed surface as "stl", "obj" or "3mf"."""
    import trimesh

    surface = mesh(shape)
    body = trimesh.Trimesh(surface.vertices * MM, surface.triangles, process=False)
    body.units = "mm"
    data = body.export(file_type=kind)
    whole = data.encode() if isinstance(data, str) else bytes(data)
    path.write_bytes(_stamped(whole, kind, stamp))


def _stamped(data: bytes, kind: str, stamp: Stamp) -> bytes:
    """A mesh file that says what it is of: in the head of an STL, a remark of an OBJ, the title of a 3MF."""
    if kind == "3mf":
        return _steady(data, stamp.words)
    if kind == "obj":
        return f"# {stamp.in_ascii}\n".encode() + data
    return stamp.in_ascii.encode()[:HEAD].ljust(HEAD) + data[HEAD:]


def _steady(data: bytes, title: str) -> bytes:
    """A 3MF package with a title, whose identifiers count up in place of being random: the same board gives the same
    bytes.
    """
    found = io.BytesIO()
    with (
        zipfile.ZipFile(io.BytesIO(data)) as source,
        zipfile.ZipFile(found, "w", zipfile.ZIP_DEFLATED, compresslevel=5) as steady,
    ):
        for name in source.namelist():
            number = itertools.count(1)

            def steadied(match: re.Match[bytes], number: Iterator[int] = number) -> bytes:
                return match[1] + str(uuid.UUID(int=next(number))).encode() + b'"'

            part = _UUID.sub(steadied, source.read(name))
            if name.endswith(".model"):
                said = f'<metadata name="Title">{escape(title)}</metadata>'.encode()
                begin = _MODEL.search(part)
                if begin is not None:
                    part = part[: begin.end()] + said + part[begin.end() :]
            steady.writestr(zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0)), part, zipfile.ZIP_DEFLATED)
    return found.getvalue()
