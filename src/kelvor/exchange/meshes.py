"""Meshes in millimetres: STL, OBJ and 3MF, closed and facing outward."""

from __future__ import annotations

import io
import itertools
import re
import uuid
import zipfile
from collections.abc import Iterator
from pathlib import Path

from kelvor.core.shape.sections import Sections
from kelvor.core.shape.surface import mesh
from kelvor.exchange.drawings import MM

_UUID = re.compile(rb'(UUID=")[0-9a-f-]{36}"')


def write_mesh(shape: Sections, path: Path, kind: str) -> None:
    """Write the closed surface as "stl", "obj" or "3mf"."""
    import trimesh

    surface = mesh(shape)
    body = trimesh.Trimesh(surface.vertices * MM, surface.triangles, process=False)
    body.units = "mm"
    data = body.export(file_type=kind)
    whole = data.encode() if isinstance(data, str) else bytes(data)
    path.write_bytes(_steady(whole) if kind == "3mf" else whole)


def _steady(data: bytes) -> bytes:
    """A 3MF package whose identifiers count up in place of being random: the same board gives the same bytes."""
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
            steady.writestr(zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0)), part, zipfile.ZIP_DEFLATED)
    return found.getvalue()
