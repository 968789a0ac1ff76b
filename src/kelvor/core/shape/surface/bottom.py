"""The bottom and the deck as functions of the half-place y, for all stations at once."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.shape.board import Board
from kelvor.core.shape.curves.battens import clipped
from kelvor.core.shape.parts.layers import (
    PLINTH_WALL,
    Channels,
    CrossStep,
    CutAway,
    Ledge,
    Plinth,
    ShapingLayer,
    channel_height,
    channel_lips,
    channel_wall,
    crease,
    cut_away_height,
    deck_creases,
    deck_layer_height,
    layer_height,
    ledge_height,
    ledge_lines,
    plinth_presence,
    presence,
    side_flat_line,
    step_height,
)
from kelvor.core.shape.surface.lines import Lines, board_lines, sample
from kelvor.core.shape.surface.stations import Stations, single_station

MANY = 20
"""With at least this many stations the plinth's level is read between them; with fewer it is asked for."""


@frozen(eq=False)
class _Term:
    """One layer made ready: what it adds at y given what lies there, its creases, and whether it is a cut with
    walls.
    """

    name: str
    add: Callable[[Array, Array], Array]
    creases: tuple[Array, ...] = ()
    cut: bool = False
    groove: bool = False


class Bottom:
    """The bottom's height at half-places y (n, m), with its layers summed in their order.

    `probe` (n, k), its first column on the centreline, is read at once: the plinth is levelled by the centreline's
    height, and `probed` (n, k) are the heights there.
    """

    def __init__(
        self, board: Board, stations: Stations, lines: Lines, probe: Array | None = None, *, levelled: bool = True
    ) -> None:
        self._board, self._stations, self._lines, self._x = board, stations, lines, stations.x
        self._edge_y = lines.b - lines.tuck
        self._pw = lines.plinth[:, None]
        self._outside = np.maximum(self._edge_y[:, None] - self._pw, 0.0)
        self._terms = [
            self._prepared(layer) for layer in board.layers if layer.on and not isinstance(layer, (CutAway, Plinth))
        ]
        self._level: Array | None = None
        probe = np.zeros((len(self._x), 1)) if probe is None else probe
        raw = self._summed(probe)
        strip = board.plinth
        if strip is not None and levelled:
            start, end = strip.start.x(board.length, board.mast_x), strip.end.x(board.length, board.mast_x)
            middle = (start + end) / 2
            keel = raw[:, 0]
            there = self._keel_at(middle, keel)
            if np.isfinite(there):
                plane = there + board.base.slope * (self._x - middle)
                self._level = ((plane - keel) * plinth_presence(start, end, self._x))[:, None]
        self.probed = self._on_level(probe, raw)

    def _keel_at(self, middle: float, keel: Array) -> float:
        """Height of the keel at the plinth's middle, before it is levelled [m]; NaN where that lies off the board."""
        if len(self._x) >= MANY:
            return float(np.interp(middle, self._x, keel)) if self._x[0] <= middle <= self._x[-1] else np.nan
        if not 0 <= middle <= self._board.length:
            return np.nan
        one = single_station(self._board, np.array([middle]))
        return float(Bottom(self._board, one, board_lines(self._board, one, None), levelled=False).probed[0, 0])

    def __call__(self, y: Array, *, smooth: bool = False) -> Array:
        """Height at half-places y [m]; `smooth` leaves out cuts with walls."""
        return self._on_level(y, self._summed(y, smooth=smooth))

    def _summed(self, y: Array, *, smooth: bool = False) -> Array:
        """Height before the plinth is levelled."""
        z = self._lines.bottom[:, None]
        for term in self._terms:
            if not (smooth and term.cut):
                z = term.add(y, z)
        return np.repeat(z, y.shape[1], axis=1) if z.shape[1] < y.shape[1] else z

    def _on_level(self, y: Array, z: Array) -> Array:
        return z if self._level is None else z + self._level * clipped(1.0 - (y - self._pw) / PLINTH_WALL, 0.0, 1.0)

    @property
    def has_cuts(self) -> bool:
        """Whether any layer cuts walls into it."""
        return any(term.cut for term in self._terms)

    def shares(self, y: Array) -> list[tuple[str, Array]]:
        """What each layer adds at half-places y (n, m), by name, in order."""
        z, found = np.repeat(self._lines.bottom[:, None], y.shape[1], axis=1), []
        if (cut := self._board.cut_away) is not None:
            lift = cut_away_height(cut, cut.hinge.x(self._board.length, self._board.mast_x), self._x)
            found.append((cut.name, np.repeat(lift[:, None], y.shape[1], axis=1)))
        for term in self._terms:
            after = term.add(y, z)
            found.append((term.name, after - z))
            z = after
        if self._level is not None and (strip := self._board.plinth) is not None:
            found.append((strip.name, self._level * clipped(1.0 - (y - self._pw) / PLINTH_WALL, 0.0, 1.0)))
        return found

    def grooves(self, y: Array) -> Array:
        """Depth of channels at half-places y (n, m) [m]."""
        depth = np.zeros_like(y)
        for term in self._terms:
            if term.groove:
                depth = term.add(y, depth)
        return depth

    def creases(self) -> list[Array]:
        """Half-places where the bottom's slope breaks, each (n,)."""
        found: list[Array] = []
        pw = self._lines.plinth
        if pw.any():
            found.append(pw)
            if self._level is not None:
                found.append(np.where(pw > 0, pw + PLINTH_WALL, 0.0))
        for term in self._terms:
            found += term.creases
        return found

    def _prepared(self, layer: ShapingLayer | Ledge | Channels | CrossStep) -> _Term:
        board, x = self._board, self._x
        if isinstance(layer, ShapingLayer):
            return self._shaping(layer)
        if isinstance(layer, CrossStep):
            lift = step_height(layer, layer.at.x(board.length, board.mast_x), x)[:, None]
            return _Term(layer.name, lambda y, z: z + lift, (), cut=True)
        start, end = layer.start.x(board.length, board.mast_x), layer.end.x(board.length, board.mast_x)
        there = presence(start, end, layer.run_out, board.length, x)
        if isinstance(layer, Ledge):
            height = sample(layer.height, self._stations) * there
            foot, head = ledge_lines(layer, self._edge_y, self._lines.inner, sample(layer.line, self._stations), height)
            gone = there <= 0
            f, h = foot[:, None], height[:, None]
            return _Term(
                layer.name,
                lambda y, z: z + ledge_height(y, f, h, layer.wall),
                (np.where(gone, 0.0, foot), np.where(gone, 0.0, head)),
                cut=True,
            )
        return self._channels(layer, end, there)

    def _channels(self, layer: Channels, end: float, there: Array) -> _Term:
        grooves = []
        creases: list[Array] = []
        depth = (layer.depth * there)[:, None]
        for lips in channel_lips(layer, end, self._edge_y, self._x):
            wall = np.where(there > 0, channel_wall(layer, lips), 0.0)
            grooves.append((lips, wall))
            shown = wall > 1e-5
            creases += [np.where(shown, c, 0.0) for c in (lips[0], lips[0] + wall, lips[1] - wall, lips[1])]

        def add(y: Array, z: Array) -> Array:
            for lips, wall in grooves:
                z = z + channel_height(y, lips, wall, depth)
            return z

        return _Term(layer.name, add, tuple(creases), cut=True, groove=True)

    def _shaping(self, layer: ShapingLayer) -> _Term:
        amount, width = (sample(s, self._stations)[:, None] for s in (layer.amount, layer.layout.width))
        edge, pw = self._outside, self._pw
        if layer.kind == "side_flat":
            line = side_flat_line(edge, width) + pw
            rise = np.tan(amount)
            wide = width > 0

            def level(y: Array, z: Array) -> Array:
                at = self._through(line, layer.name)
                return np.where((y > line) & wide, at + rise * (y - line), z)

            return _Term(layer.name, level, (np.where(width[:, 0] > 0, line[:, 0], 0.0),))

        def add(y: Array, z: Array) -> Array:
            outboard = np.maximum(y - pw, 0.0) if pw.any() else y
            return z + layer_height(layer, outboard, edge, amount, width)

        fold = crease(layer.layout, edge[:, 0], width[:, 0])
        return _Term(layer.name, add, () if fold is None else (self._lines.plinth + fold,))

    def _through(self, y: Array, name: str) -> Array:
        """Height at y with the layers before the named one only."""
        z = np.repeat(self._lines.bottom[:, None], y.shape[1], axis=1)
        for term in self._terms:
            if term.name == name:
                break
            z = term.add(y, z)
        return z


class Deck:
    """The deck's height at half-places y (n, m) inside the deck edge."""

    def __init__(self, board: Board, stations: Stations, lines: Lines, deck_y: Array) -> None:
        self._lines = lines
        self._deck_y = np.maximum(deck_y, 1e-9)[:, None]
        self._layers = [
            (layer, sample(layer.amount, stations)[:, None], sample(layer.layout.width, stations)[:, None])
            for layer in board.deck_layers
            if layer.on
        ]

    def __call__(self, y: Array) -> Array:
        """Height of the deck [m]."""
        z = self._lines.deck[:, None] - self._lines.crown[:, None] * (y / self._deck_y) ** 2
        for layer, amount, width in self._layers:
            z = z + deck_layer_height(layer, y, self._deck_y, amount, width)
        return z

    def shares(self, y: Array) -> list[tuple[str, Array]]:
        """What each deck layer adds at half-places y, by name."""
        return [(layer.name, deck_layer_height(layer, y, self._deck_y, a, w)) for layer, a, w in self._layers]

    def creases(self) -> list[Array]:
        """Half-places where the deck's slope breaks, each (n,)."""
        found: list[Array] = []
        for layer, amount, width in self._layers:
            found += deck_creases(layer, self._deck_y[:, 0], amount[:, 0], width[:, 0])
        return found
