"""Where the cutters run: roughing in layers, finishing lines along the board, cross lines at the ends, the contour that
sets the board free but for its tabs, and pockets for boxes, tracks and plugs.
"""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Cutter
from kelvor.core.base.values import frozen
from kelvor.core.mill.contact import Contact, Face, face
from kelvor.core.mill.stock import Clamped
from kelvor.core.shape.checks.clearance import Footprint, footprints
from kelvor.core.shape.parts.fittings import Side

ALONG = 0.002
"""Between two places of a finishing line [m]."""
COARSE_X, COARSE_Y, FINE_Y, QUARTER = 0.008, 0.006, 0.001, 24
"""Places along and across, far from the rail and near it, at which the way of the tip is measured [m], and how many
round a quarter beside it.
"""
NEAR_RAIL = 0.02
"""This far inside of the outline one is near the rail [m]."""
ENDS = 0.09
"""Cross lines reach this far from either end [m]."""
CLIMB, LONG, PARTS = 0.0005, 0.0025, 16
"""Between two places the tip climbs and runs no more than this [m], or they are this many parts of what they were."""
HALVED = 8
"""How often a way round a corner is halved at most."""
ROUGH_EVERY = 0.9
"""Share of the ball's diameter that roughing lines are apart at most: nothing stands between two of them (common
practice, no source).
"""
ALLOWANCE = 0.001
"""Left on by roughing [m] (common practice, no source)."""
GAP = 20
"""Places: roughing is not lifted over fewer."""
OVERLAP = 0.7
"""Share of a flat cutter's diameter between two of its lines (common practice, no source)."""
TAB_LENGTH = 0.04
"""Length of a tab [m] (common practice, no source)."""


@frozen(eq=False)
class CutterRun:
    """One stretch the cutter runs in one go: places of its tip (n, 3) in the mill's frame [m].

    `joins` tells whether it may go on to it from a run that ends close by without being lifted: not round a corner.
    """

    words: str
    points: Array
    joins: bool = True


@frozen(eq=False)
class Path:
    """Everything one cutter does on one face."""

    side: str
    cutter: Cutter
    runs: tuple[CutterRun, ...]


class Ball:
    """The ball cutter over a face of the core."""

    def __init__(self, clamp: Clamped) -> None:
        self.clamp, self.mill = clamp, clamp.mill
        self.over: Face = face(clamp)
        self._contact = Contact(self.over, self.mill.ball / 2, self.mill.proud)
        self.length = float(self.over.x[-1])
        self.reach = self.mill.ball / 2 + self.mill.proud
        self.widest = float(self.over.half.max()) + self.reach

    def floor(self, x: Array, y: Array) -> Array:
        """The lowest the tip goes at places (n,) [m]: a radius below the rim, and over tabs beside the board."""
        rim = self.over.rim_at(x)
        low = rim - self.mill.ball / 2
        held = (np.abs(x[:, None] - self.mill.tab_places(self.length)) < (TAB_LENGTH + self.mill.ball) / 2).any(axis=1)
        low = np.where(held & (y > self.over.half_at(x)), rim + self.mill.tab / 2, low)
        return np.maximum(low, 0.0)

    def tips(self, x: Array, y: Array) -> Array:
        """Heights of the tip at places (n,) [m]."""
        found: Array = np.maximum(self._contact.tips(x, np.abs(y)), self.floor(x, np.abs(y)))
        return found

    def beside(self, x: Array) -> Array:
        """How far across the cutter passes the outline at places (n,) [m]: a reach from its nearest point."""
        near = x[:, None] - self.over.x
        room = self.reach**2 - near**2
        found: Array = np.where(room >= 0, self.over.half + np.sqrt(np.maximum(room, 0.0)), 0.0).max(axis=1)
        return found

    def round(self) -> Array:
        """Places and heights (n, 3) once round the board, a reach beside it."""
        x = np.linspace(-self.reach, self.length + self.reach, int(self.length / ALONG) + 2)
        y = self.beside(x)
        for _ in range(HALVED):  # round corners and tips it runs across more than along
            far = np.flatnonzero(np.hypot(np.diff(x), np.diff(y)) > LONG)
            x = np.insert(x, far + 1, (x[far] + x[far + 1]) / 2)
            y = self.beside(x)
        z = self.tips(x, y)
        ends = [np.linspace(y[i], -y[i], int(2 * y[i] / ALONG) + 2)[1:-1] for i in (-1, 0)]
        across = [
            np.column_stack([np.full_like(e, x[i]), e, self.tips(np.full_like(e, x[i]), e)])
            for i, e in zip((-1, 0), (ends[0], -ends[1]), strict=True)
        ]
        port, starboard = np.column_stack([x, y, z]), np.column_stack([x, -y, z])[::-1]
        return np.concatenate([port, across[0], starboard, across[1], port[:1]])

    def refined(self, lines: list[Array]) -> list[Array]:
        """Lines (n, 3) with places put in where the tip climbs or runs far: a straight move would cut into what is
        round.
        """
        points = np.concatenate(lines)
        stops = np.cumsum([len(line) for line in lines])
        ways = np.diff(points, axis=0, append=points[-1:])
        ways[stops - 1] = 0.0
        wanted = np.maximum(np.abs(ways[:, 2]) / CLIMB, np.hypot(ways[:, 0], ways[:, 1]) / LONG)
        parts = np.clip(np.ceil(wanted), 1, PARTS).astype(int)
        at = np.repeat(np.arange(len(points)), parts)
        t = (np.arange(len(at)) - np.repeat(np.cumsum(parts) - parts, parts)) / parts[at]
        finer = points[at] + (points[np.minimum(at + 1, len(points) - 1)] - points[at]) * t[:, None]
        new = t > 0
        finer[new, 2] = self.tips(finer[new, 0], finer[new, 1])
        return np.split(finer, np.cumsum(parts)[stops[:-1] - 1])

    def lines(self) -> list[Array]:
        """Finishing lines (n, 3) from the centreline to beyond the port rail; the tip's way over each section is cut
        into equal parts.
        """
        x = np.linspace(-self.reach, self.length + self.reach, int(self.length / COARSE_X) + 2)
        half = self.beside(x) - self.reach
        inside, near = int(np.ceil(self.widest / COARSE_Y)) + 1, int(NEAR_RAIL / FINE_Y)
        # beside an upright rail the tip runs round it: places evenly round a quarter
        quarter = np.sin(np.linspace(0.0, np.pi / 2, QUARTER + 1)[1:])
        share = np.concatenate([np.linspace(0.0, 1.0, inside)[:-1], np.ones(near + 1 + QUARTER)])
        more = np.concatenate([np.zeros(inside - 1), np.linspace(0.0, 1.0, near + 1), np.ones(QUARTER)])
        beyond = np.concatenate([np.zeros(inside + near), self.reach * quarter])
        start = np.maximum(half - NEAR_RAIL, 0.0)
        y = start[:, None] * share + (half - start)[:, None] * more + beyond
        z = self.tips(np.repeat(x, y.shape[1]), y.ravel()).reshape(y.shape)
        way = np.concatenate([np.zeros((len(x), 1)), np.cumsum(np.hypot(np.diff(y), np.diff(z)), axis=1)], axis=1)
        whole = way[:, -1]
        count = int(np.ceil(float(whole.max()) / self.mill.step)) + 1
        across = np.stack(
            [np.interp(np.linspace(0.0, total, count), way[i], y[i]) for i, total in enumerate(whole)], axis=1
        )
        fine = np.linspace(x[0], x[-1], int((x[-1] - x[0]) / ALONG) + 1)
        places = np.stack([np.interp(fine, x, line) for line in across])
        heights = self.tips(np.tile(fine, count), places.ravel()).reshape(places.shape)
        return [np.column_stack([fine, y, z]) for y, z in zip(places, heights, strict=True)]

    def cross(self) -> list[Array]:
        """Lines across at both ends, where those along converge on what is steep."""
        step = self.mill.step / 2
        y = np.arange(-self.widest - FINE_Y, self.widest + 2 * FINE_Y, ALONG)
        found = []
        for start, end in ((-self.reach, ENDS), (self.length - ENDS, self.length + self.reach)):
            fine = np.linspace(start, end, 200)
            z = self.tips(fine, np.zeros_like(fine))
            way = np.concatenate([[0.0], np.cumsum(np.hypot(np.diff(fine), np.diff(z)))])
            places = np.interp(np.linspace(0.0, way[-1], int(np.ceil(way[-1] / step)) + 1), way, fine)
            beside = self.beside(places)
            for i, place in enumerate(places):
                across = np.clip(y[np.abs(y) <= beside[i] + ALONG], -beside[i], beside[i])[:: 1 if i % 2 else -1]
                x = np.full_like(across, place)
                found.append(np.stack([x, across, self.tips(x, across)], axis=1))
        return found


OTHER = np.array([1.0, -1.0, 1.0])
"""From port to starboard."""


def ball_path(clamp: Clamped) -> Path:
    """Roughing, finishing, cross lines and the contour of one face."""
    ball = Ball(clamp)
    lines, cross = ball.lines(), ball.cross()
    finer = ball.refined([*lines, *cross, ball.round()])
    lines, cross, around = finer[: len(lines)], finer[len(lines) : -1], finer[-1]
    both = [*(line * OTHER for line in lines[:0:-1]), *lines]
    every = max(1, int(ROUGH_EVERY * clamp.mill.ball / clamp.mill.step))
    runs = _rough(ball, both[::-every][::-1], around)
    runs += [CutterRun("finishing", line[:: 1 if turn % 2 == 0 else -1]) for turn, line in enumerate(both)]
    runs += [CutterRun("across the end", line, joins=False) for line in cross]
    runs.append(CutterRun("contour", around))
    return Path(clamp.side, clamp.mill.ball_cutter, tuple(runs))


def _rough(ball: Ball, lines: list[Array], around: Array) -> list[CutterRun]:
    """Layers from the top of the stock down, round the board and along some lines, but where nothing is left to cut."""
    mill, before = ball.mill, ball.clamp.top
    least = min(float(line[:, 2].min()) for line in (*lines, around)) + ALLOWANCE
    runs = []
    while before > least + 1e-6:
        level = max(before - mill.depth, least)
        for i, line in enumerate((around, *lines)):
            layer = np.column_stack([line[:, :2], np.maximum(line[:, 2] + ALLOWANCE, level)])
            runs += [
                CutterRun("roughing", layer[begin:end][:: 1 if i % 2 == 0 else -1], joins=False)
                for begin, end in _stretches(line[:, 2] + ALLOWANCE < before - 1e-6)
            ]
        before = level
    return runs


def _stretches(wanted: np.ndarray) -> list[tuple[int, int]]:
    """Where something is wanted, as half-open stretches of more than one place; short gaps are run over."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], wanted, [False]]).astype(int)))
    found: list[tuple[int, int]] = []
    for begin, end in edges.reshape(-1, 2):
        if found and begin - found[-1][1] < GAP:
            found[-1] = (found[-1][0], int(end))
        else:
            found.append((int(begin), int(end)))
    return [(begin, end) for begin, end in found if end - begin > 1]


def flat_path(clamp: Clamped) -> Path | None:
    """Pockets of one face; None where it has none.

    Raises
    ------
    InputError
        When the cutter is too wide for a pocket: with its name and size.
    """
    cutter, side = clamp.mill.flat_cutter, clamp.side
    over = face(clamp)
    runs = [run for item in footprints(clamp.core.board) if item.side == side for run in _pocket(clamp, over, item)]
    return Path(side, cutter, tuple(runs)) if runs else None


def _pocket(clamp: Clamped, over: Face, item: Footprint) -> list[CutterRun]:
    """Layers of loops from the middle outwards; depths from the finished skin over the pocket's middle."""
    mill, board = clamp.mill, clamp.core.board
    radius = mill.flat / 2
    corners = (item.corners - np.array([clamp.tail, 0.0])) * [1, clamp.hand]
    middle = corners.mean(axis=0)
    along, across = (corners[1] - corners[0]) / 2, (corners[2] - corners[1]) / 2
    a, b = float(np.hypot(*along)), float(np.hypot(*across))
    if min(a, b) < radius - 1e-6:
        raise InputError(
            f"a {mill.flat * 1000:.1f} mm cutter is too wide for {2 * min(a, b) * 1000:.1f} mm",
            where=f"{item.name}, {item.side}, {middle[0] + clamp.tail:.3f} m from the tail",
            accepts="Take a thinner flat cutter, or route it by hand",
        )
    skin = board.skin.deck if item.side == "deck" else board.skin.bottom
    surface = height_at(over, middle)
    bottom = surface + skin - item.depth
    along, across = along / max(a, 1e-9), across / max(b, 1e-9)
    top = max(height_at(over, place) for place in (middle, *corners))
    heights = np.append(np.arange(top - mill.pocket, bottom, -mill.pocket), bottom)
    runs = []
    for height in heights:
        loops = []
        inset_a, inset_b = max(a - radius, 0.0), max(b - radius, 0.0)
        count = int(np.ceil(min(inset_a, inset_b) / (OVERLAP * mill.flat)))
        for k in range(count, -1, -1):
            back = k * min(inset_a, inset_b) / max(count, 1)
            u, v = inset_a - back, inset_b - back
            square = np.array([[-u, -v], [u, -v], [u, v], [-u, v], [-u, -v]])
            loops.append(middle + square @ np.array([along, across]))
        points = np.concatenate(loops)
        runs.append(CutterRun(item.name, np.column_stack([points, np.full(len(points), height)])))
    return runs


def height_at(over: Face, place: Array) -> float:
    """Height of the face at a place (x, y) [m]."""
    i = int(np.clip(np.searchsorted(over.x, place[0]), 0, len(over.x) - 1))
    return float(np.interp(place[1], over.y[i], over.z[i]))


def facing_path(clamp: Clamped) -> Path | None:
    """Back and forth over the whole stock; None for stock that comes flat."""
    mill, (low, high), wide = clamp.mill, clamp.ends, clamp.stock.width / 2
    if not mill.facing:
        return None
    y = np.linspace(-wide, wide, int(np.ceil(2 * wide / (OVERLAP * mill.flat))) + 1)
    rows = [
        np.array([[low, at, clamp.top], [high, at, clamp.top]])[:: 1 if i % 2 == 0 else -1] for i, at in enumerate(y)
    ]
    return Path(clamp.side, mill.flat_cutter, (CutterRun("facing", np.concatenate(rows)),))


def count(clamp: Clamped, side: Side) -> int:
    """How many programs a face has."""
    pockets = any(item.side == side for item in footprints(clamp.core.board))
    return (clamp.mill.facing > 0) + 1 + pockets


def paths(clamp: Clamped) -> tuple[Path, ...]:
    """All that is run on one face, in order.

    Raises
    ------
    InputError
        When a cutter does not fit.
    """
    found = (facing_path(clamp), ball_path(clamp), flat_path(clamp))
    return tuple(path for path in found if path is not None)
