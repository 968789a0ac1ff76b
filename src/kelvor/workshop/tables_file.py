"""The tables of a workshop file: constructions to take, materials, coefficients. What was written last counts."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from kelvor.core.base.errors import InputError
from kelvor.core.build.materials.table import HANDBOOK, Cloth, CoreMaterial, Fibre, MaterialTable, Rates, Resin
from kelvor.core.history.merging import merged
from kelvor.core.shape.parts.construction import Construction
from kelvor.core.tank.laws.coefficients import Coefficients, valid_coefficient, with_values
from kelvor.workshop.rows import DROPPED, MATERIALS, damaged_at, now, read, written
from kelvor.workshop.workshop_file import WorkshopFile

Entry = Fibre | Resin | CoreMaterial | Cloth | Rates


class TablesFile(WorkshopFile):
    """An open workshop file with its tables."""

    def constructions(self) -> tuple[Construction, ...]:
        """The workshop's constructions, each as last written, in the order they were first made."""
        found: dict[str, str] = {}
        for name, data in self.typed((str, str), "SELECT name, data FROM constructions ORDER BY id"):
            found[name] = data
        kept = []
        for name, data in found.items():
            if data != DROPPED:
                with damaged_at(partial("construction “{}”".format, name)):
                    kept.append(read(Construction, data, "it"))
        return tuple(kept)

    def keep_construction(self, construction: Construction) -> None:
        """Keep a construction under its name; earlier versions stay in the file."""
        with self.writing() as db:
            db.execute(
                "INSERT INTO constructions (made_at, name, data) VALUES (?, ?, ?)",
                (now(), construction.name, written(construction)),
            )

    def drop_construction(self, name: str) -> None:
        """A construction is no longer on the list; what was written stays in the file."""
        with self.writing() as db:
            db.execute("INSERT INTO constructions (made_at, name, data) VALUES (?, ?, ?)", (now(), name, DROPPED))

    def materials(self) -> MaterialTable:
        """The table of materials with what the workshop changed."""
        table = HANDBOOK
        for key, kind, data in self.rows("SELECT id, kind, data FROM materials ORDER BY id"):
            with damaged_at(partial("materials, entry {}".format, key)):
                if kind not in MATERIALS:
                    raise InputError("it is of no known kind")
                entry = read(MATERIALS[kind], data, "it")
                table = replace(table, rates=entry) if isinstance(entry, Rates) else table.with_entry(entry)
        return table

    def keep_material(self, entry: Entry, base: Entry | None = None) -> Entry:
        """Keep an entry of the table of materials, or the workshop's rates; earlier ones stay in the file.

        Where another window has changed the entry since `base`, both changes are kept; what was written is returned.
        """
        kind = next(name for name, kind in MATERIALS.items() if isinstance(entry, kind))
        with self.writing() as db:
            if base is not None and (newest := self.materials().as_it_stands(entry)) != base:
                entry = merged(base, entry, newest)
            db.execute("INSERT INTO materials (made_at, kind, data) VALUES (?, ?, ?)", (now(), kind, written(entry)))
        return entry

    def coefficients(self) -> Coefficients:
        """The coefficients of drive and ride with what the workshop changed."""
        return with_values(dict(self.typed((str, float), "SELECT name, value FROM coefficients ORDER BY id")))

    def keep_coefficient(self, name: str, value: float) -> None:
        """Keep a coefficient; earlier values stay in the file. Raises InputError where it cannot be so."""
        valid_coefficient(name, value)
        with self.writing() as db:
            db.execute("INSERT INTO coefficients (made_at, name, value) VALUES (?, ?, ?)", (now(), name, value))
