"""Meshes in millimetres: STL, OBJ and 3MF, closed and facing outward."""

from __future__ import annotations

from pathlib import Path

from kelvor.core.shape.sections import Sections
from kelvor.core.shape.surface import mesh
from kelvor.exchange.drawings import MM


def write_mesh(shape: Sections, path: Path, kind: str) -> None:
    """Write the closed surface as "stl", "obj" or "3mf"."""
    import trimesh

    surface = mesh(shape)
    body = trimesh.Trimesh(surface.vertices * MM, surface.triangles, process=False)
    body.units = "mm"
    data = body.export(file_type=kind)
    path.write_bytes(data.encode() if isinstance(data, str) else bytes(data))
