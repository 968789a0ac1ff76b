"""DXF drawings as Kelvor writes them: in millimetres, and the same bytes for the same board."""

from __future__ import annotations

from typing import Any

STAMP_LAYER = "stamp"
"""Where our drawings carry the stamp."""


def new_drawing() -> Any:
    """An empty drawing in millimetres, without times and random identifiers: two runs must not differ."""
    import ezdxf
    from ezdxf import units
    from ezdxf.filemanagement import new

    ezdxf.options.write_fixed_meta_data_for_testing = True  # type: ignore[attr-defined]
    document = new("R2010", setup=True)
    document.units = units.MM
    return document
