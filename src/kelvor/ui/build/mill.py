"""A board on the simulated mill: planned beside the window, cut from the text of its programs, measured; knows no
widget.
"""

from __future__ import annotations

import json
import tempfile
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, Signal

from kelvor.core.base.mill import Mill, MillStock
from kelvor.core.base.values import frozen
from kelvor.core.mill.cut import Took
from kelvor.core.mill.job import CutFace, face_programs, judged_face, wanted_core
from kelvor.core.mill.program import Program
from kelvor.core.mill.stock import SIDES, clamped_core
from kelvor.core.register.stamp import Stamp
from kelvor.core.shape.board import Board
from kelvor.core.shape.parts.fittings import Side
from kelvor.devices.mill import ALARM, AT, END, TOOK
from kelvor.files import refusal_reason
from kelvor.ui.background.processes import Device
from kelvor.ui.background.runner import WorkerQuestion

PLANNING, CUTTING = 0.3, 0.95
"""Shares of the whole after planning and after cutting."""
STOPPED = "stopped"


@frozen(eq=False)
class MillJob:
    """A board on the mill: what is cut, with what, under which stamp; what became of it."""

    board: Board
    mill: Mill
    stock: MillStock
    stamp: Stamp
    step: int
    files: tuple[Program, ...] = ()
    faces: tuple[CutFace, ...] = ()

    @property
    def proven(self) -> bool:
        """Whether both faces were cut on the simulated mill, whole, and nothing of the core away."""
        return len(self.faces) == len(SIDES) and all(face.judged.safe for face in self.faces)


class Milling(QObject):
    """One cut at a time: planning, both faces, what they left."""

    went = Signal(float, str)
    """How far it is, 0 to 1, in words."""
    failed = Signal(str)
    done = Signal()

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.order: MillJob | None = None
        self._folder: tempfile.TemporaryDirectory[str] | None = None
        self._said, self._at = "", 0
        self._took: dict[Side, list[Took]] = {}
        self._planning = WorkerQuestion(
            self, "The cut was not planned", self._plans, self._planned_one, failed=self.failed.emit, here=True
        )
        self._judging = WorkerQuestion(
            self, "The cut was not measured", self._judged, failed=self.failed.emit, here=True
        )
        self.mill = Device(self)
        self.mill.line.connect(self._heard)
        self.mill.stopped.connect(self._ended)

    @property
    def busy(self) -> bool:
        """Whether a cut is planned, run or measured."""
        return self._planning.under_way or self.mill.reading() or self._judging.under_way

    def begin(self, order: MillJob) -> None:
        """Plan, cut and measure an order.

        Raises
        ------
        InputError
            When stock or mill do not fit the core: nothing begins.
        """
        for side in SIDES:
            clamped_core(wanted_core(order.board), order.mill, order.stock, side)
        self.order = order
        self.went.emit(0.0, "Planning both faces …")
        self._planning.ask(face_programs, [(order.board, order.mill, order.stock, side, order.stamp) for side in SIDES])

    def stop(self) -> None:
        """Give up what is under way."""
        self._planning.drop()
        self._judging.drop()
        self._said = STOPPED
        self.mill.stop(wait=True)

    def shut(self) -> None:
        """The window closes: nothing runs on, and what was written for the mill is swept up."""
        self.stop()
        if self._folder is not None:
            self._folder.cleanup()

    def _planned_one(self, count: int, _result: Any) -> None:
        self.went.emit(PLANNING * count / len(SIDES), "Planning both faces …")

    def _plans(self, results: list[tuple[Program, ...]]) -> None:
        assert self.order is not None
        self.order = replace(self.order, files=tuple(file for files in results for file in files))
        try:
            if self._folder is not None:
                self._folder.cleanup()
            self._folder = tempfile.TemporaryDirectory(prefix="kelvor-mill-")
            for file in self.order.files:
                (Path(self._folder.name) / file.name).write_text(file.text, encoding="ascii")
        except OSError as error:
            self.failed.emit(f"The programs could not be laid down for the simulated mill: {refusal_reason(error)}.")
            return
        self._run(0)

    def _run(self, at: int) -> None:
        """Clamp the stock for a face and start the mill."""
        order, folder = self.order, self._folder
        assert order is not None and folder is not None
        side, mill = SIDES[at], order.mill
        clamp = clamped_core(wanted_core(order.board), mill, order.stock, side)
        given = {
            "ends": list(clamp.ends), "half": order.stock.width / 2, "height": clamp.height, "nut": mill.nut,
            "travel": [mill.travel_x, mill.travel_y, mill.travel_z],
            "programs": [
                {"file": str(Path(folder.name) / file.name), "kind": file.cutter.kind,
                 "diameter": file.cutter.diameter, "cuts": file.cutter.cuts, "sticks_out": file.cutter.sticks_out}
                for file in order.files if file.side == side
            ],
        }  # fmt: skip
        self._said, self._at = "", at
        self._took[side] = []
        self.mill.start("kelvor.devices.mill", str(self._heights(side)), given=json.dumps(given))
        self.went.emit(PLANNING + (CUTTING - PLANNING) * at / len(SIDES), f"The simulated mill is given the {side}.")

    def _heights(self, side: Side) -> Path:
        assert self._folder is not None
        return Path(self._folder.name) / f"{side}.npy"

    def _heard(self, line: str) -> None:
        kind, _, words = line.partition(" ")
        if kind == AT:
            share, _, name = words.partition(" ")
            done = (self._at + float(share) / 100) / len(SIDES)
            words = f"The simulated mill cuts {name}: {float(share):.0f} % of the {SIDES[self._at]}."
            self.went.emit(PLANNING + (CUTTING - PLANNING) * done, words)
        elif kind == TOOK:
            depth, width, *place = (float(value) / 1000 for value in words.split()[:5])
            self._took[SIDES[self._at]].append(Took(depth, width, (place[0], place[1], place[2])))
        elif kind == ALARM:
            self._said = words
        elif kind == END:
            self._said = END

    def _ended(self) -> None:
        """The mill stands still: the other face is next, or what it left is measured."""
        if self._said == STOPPED:
            return
        if self._said != END:
            self.failed.emit(f"The mill stopped. {self._said or 'It said nothing more.'}")
        elif self._at + 1 < len(SIDES):
            self._run(self._at + 1)
        else:
            self._measure()

    def _measure(self) -> None:
        order = self.order
        assert order is not None
        self.went.emit(CUTTING, "Measuring what it left …")
        try:
            left = {side: np.load(self._heights(side)) for side in SIDES}
        except (OSError, ValueError) as error:
            self.failed.emit(f"What the simulated mill left cannot be read: {error}.")
            return
        jobs = [
            (
                order.board,
                order.mill,
                order.stock,
                side,
                [f for f in order.files if f.side == side],
                left[side],
                self._took[side],
            )
            for side in SIDES
        ]
        self._judging.ask(judged_face, jobs)

    def _judged(self, faces: list[CutFace]) -> None:
        assert self.order is not None
        self.order = replace(self.order, faces=tuple(faces))
        self.done.emit()
