"""What the actions do to the board on the bench: each one step, told in words."""

from __future__ import annotations

from dataclasses import replace
from math import radians

from kelvor.core.base.errors import RefusedEdit
from kelvor.core.base.units import Quantity, number_text
from kelvor.core.levers.additions import (
    with_fin_set,
    with_fitting,
    with_layer_added,
    with_parallel_run,
    with_winger,
    without_fittings,
)
from kelvor.core.levers.locks import Change
from kelvor.core.shape.board import BaseKind, LockedMeasure, LockedZone
from kelvor.core.shape.curves.outline import NoseKind, TailKind
from kelvor.core.shape.curves.places import Datum
from kelvor.core.shape.curves.schedules import Schedule
from kelvor.core.shape.edits.baseline import relevelled
from kelvor.core.shape.edits.edits import with_nose_kind, with_tail_kind
from kelvor.core.shape.parts.fin_sets import Arrangement
from kelvor.ui.session.session import Session
from kelvor.ui.shape.view import ShapeView


class BoardEdits:
    """Edits of the board that menus and the finder offer; places come from the bench's cursor."""

    def __init__(self, session: Session, shape: ShapeView) -> None:
        self.session, self.shape = session, shape

    def set_tail(self, kind: TailKind) -> None:
        """Another tail."""
        self.session.commit(
            with_tail_kind(self.session.board, kind), (), title=f"Tail {self.session.board.outline.tail} → {kind}"
        )

    def set_nose(self, kind: NoseKind) -> None:
        """Another nose."""
        self.session.commit(
            with_nose_kind(self.session.board, kind), (), title=f"Nose {self.session.board.outline.nose} → {kind}"
        )

    def relevel(self, kind: BaseKind) -> None:
        """Lay the board another way."""
        self.session.commit(relevelled(self.session.live.geometry, kind), (), title=f"Laid by: {kind}")

    def set_zero(self, datum: Datum) -> None:
        """Show stations from another datum."""
        self.session.commit(replace(self.session.board, zero=datum), (), title=f"Stations from the {datum}")

    def toggle_lock(self, measure: LockedMeasure) -> None:
        """Hold a measure, or let it go."""
        board = self.session.board
        held = measure in board.locks.measures
        measures = tuple(m for m in board.locks.measures if m != measure) if held else (*board.locks.measures, measure)
        words = {"volume": "volume", "width": "max width", "length_times_width": "length × width"}[measure]
        self.session.commit(
            replace(board, locks=replace(board.locks, measures=measures)),
            (),
            title=f"{'Let go of' if held else 'Hold'} {words}",
            held=True,
        )

    def lock_zone(self, *, ahead: bool) -> None:
        """Lock what lies ahead of the cursor, or behind it."""
        board, x = self.session.board, self.shape.bench.station
        where = number_text(x, Quantity.LENGTH, self.session.system)
        name = f"all {'ahead of' if ahead else 'behind'} {where}"
        zone = LockedZone(name=name, start=x if ahead else 0.0, end=board.length if ahead else x)
        self.session.commit(
            replace(board, locks=replace(board.locks, zones=(*board.locks.zones, zone))),
            (),
            title=f"Lock {name}",
            held=True,
        )

    def free_zones(self) -> None:
        """Unlock all zones."""
        board = self.session.board
        self.session.commit(
            replace(board, locks=replace(board.locks, zones=())), (), title="Unlock all zones", held=True
        )

    def add_layer(self, key: str) -> None:
        """Lay one more bottom layer, or a deck feature."""
        board, name = with_layer_added(self.session.board, key)
        if self.session.commit(board, (Change(name, Quantity.COUNT, None, None),)):
            self.shape.levers.choose_of(name)

    def add_winger(self, kind: str) -> None:
        """A winger or hip at the cursor."""
        board = with_winger(self.session.board, self.shape.bench.station, kind)
        self.session.commit(board, (Change(kind.capitalize(), Quantity.COUNT, None, None),))

    def wingers_off(self) -> None:
        """Take all wingers and hips off."""
        board = self.session.board
        if not board.outline.wingers:
            raise RefusedEdit("There is no winger or hip.")
        self.session.commit(replace(board, outline=replace(board.outline, wingers=())), (), title="Wingers taken off")

    def parallel_run(self) -> None:
        """A straight, parallel run of the outline at the cursor."""
        self.session.commit(
            with_parallel_run(self.session.board, self.shape.bench.station), (), title="Outline parallel at the cursor"
        )

    def toggle_mirrored(self) -> None:
        """Keep the board the same end for end, or not."""
        board = self.session.board
        words = "Ends may differ" if board.mirrored else "Same end for end"
        self.session.commit(replace(board, mirrored=not board.mirrored), (), title=words)

    def toggle_side_wall(self) -> None:
        """A plain side wall in place of a rounded rail, or back."""
        board = self.session.board
        plain = None if board.rails.side_wall is not None else Schedule.constant(radians(20))
        words = "Rounded rail" if plain is None else "Plain side wall"
        self.session.commit(replace(board, rails=replace(board.rails, side_wall=plain)), (), title=words)

    def set_fins(self, arrangement: Arrangement) -> None:
        """Another fin set."""
        self.session.commit(with_fin_set(self.session.board, arrangement), (), title=f"Fin set: {arrangement}")

    def add_fitting(self, kind: str) -> None:
        """One more fitting at the cursor."""
        board = with_fitting(self.session.board, kind, self.shape.bench.station)
        self.session.commit(board, (Change(kind.capitalize(), Quantity.COUNT, None, None),))

    def fittings_off(self, kind: str) -> None:
        """Take fittings of a kind off."""
        self.session.commit(without_fittings(self.session.board, kind), (), title=f"{kind.capitalize()} taken off")
