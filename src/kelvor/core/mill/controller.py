"""Reading a mill's program: what a controller would do with the text, and what it would refuse.

Only what a program for a board needs is read: G0 and G1 with X, Y, Z and F, G17, G21, G90, G94, M3, M5, M30, S, N and
comments. Anything else is refused with its line, rather than half understood.
"""

from __future__ import annotations

import re

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.errors import InputError
from kelvor.core.base.mill import Cutter
from kelvor.core.base.plain_text import one_line
from kelvor.core.base.values import frozen

MM = 1000.0
_COMMENT = re.compile(r"\([^)]*\)|;.*")
_WORD = re.compile(r"([A-Z])([-+]?(?:\d+\.?\d*|\.\d+))")
_QUIET = {"G17", "G94"}
"""Read and needing nothing: the plane of circles, feed by the minute."""
BESIDE = 1e-6
LONGEST = 20
"""No number has more digits."""


@frozen(eq=False)
class CutterMoves:
    """A program as it is run: where each move ends (n, 3) [m], whether it is rapid (n,), its feed (n,) [m/s], and the
    line of the text it stands in (n,).
    """

    ends: Array
    rapid: np.ndarray
    feed: Array
    line: np.ndarray

    @property
    def cutting(self) -> tuple[Array, Array, np.ndarray]:
        """Where the moves that cut begin and end, (m, 3) each [m], and how many rapid moves came before each (m,)."""
        begins = np.concatenate([self.ends[:1], self.ends[:-1]])
        cuts = ~self.rapid
        return begins[cuts], self.ends[cuts], np.cumsum(self.rapid)[cuts]


def read_program(text: str, name: str = "The program") -> CutterMoves:
    """What a program does.

    Raises
    ------
    InputError
        For a word that is not known or not a number, millimetres or absolute places not stated before the first move, a
        cut before the spindle turns or without a feed, and an end without M30: with the line.
    """
    state = _State(name)
    for number, line in enumerate(text.splitlines(), 1):
        state.take(number, line)
    if not state.ended:
        raise InputError("it does not end in M30", where=name, accepts="It may be half written: hand it out again")
    if state.turning:
        raise InputError("the spindle is not stopped", where=name, accepts="M5 stands before M30")
    ends = np.array(state.ends).reshape(-1, 3) / MM
    return CutterMoves(ends, np.array(state.rapid, bool), np.array(state.feeds) / MM / 60, np.array(state.numbers, int))


class _State:
    """What a controller remembers from line to line."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.ends: list[tuple[float, float, float]] = []
        self.rapid: list[bool] = []
        self.feeds: list[float] = []
        self.numbers: list[int] = []
        self.said: set[str] = set()
        self.place = [0.0, 0.0, 0.0]
        self.motion, self.feed = "", 0.0
        self.turning = self.ended = False

    def refuse(self, number: int, what: str, accepts: str) -> InputError:
        return InputError(what, where=f"{self.name}, line {number}", accepts=accepts)

    def take(self, number: int, line: str) -> None:
        bare = _COMMENT.sub("", line.strip().upper()).replace(" ", "")
        if not bare or bare == "%":
            return
        if self.ended:
            raise self.refuse(number, f"“{one_line(line, 60)}” stands after the end", "M30 is the last word")
        if _WORD.sub("", bare):
            raise self.refuse(number, f"“{one_line(line, 60)}” is not understood", "Words such as X12.5 or G1")
        moved = False
        for letter, digits in _WORD.findall(bare):
            if len(digits) > LONGEST:
                raise self.refuse(number, f"{letter}{one_line(digits, 20)} is no number of a mill", "Up to 20 digits")
            if letter in "GM":
                self._code(
                    number, f"{letter}{int(float(digits))}" if float(digits).is_integer() else f"{letter}{digits}"
                )
            elif letter in "XYZ":
                self.place["XYZ".index(letter)] = float(digits)
                moved = True
            elif letter == "F":
                self.feed = float(digits)
            elif letter not in "SN":
                raise self.refuse(number, f"{letter}{digits} is not known", "X, Y, Z, F, S and N are")
        if moved:
            self._move(number)

    def _code(self, number: int, code: str) -> None:
        if code in ("G0", "G1"):
            self.motion = code
        elif code in ("G21", "G90"):
            self.said.add(code)
        elif code in ("M3", "M5"):
            self.turning = code == "M3"
        elif code == "M30":
            self.ended = True
        elif code == "G20":
            raise self.refuse(number, "it is in inches", "Millimetres (G21)")
        elif code not in _QUIET:
            raise self.refuse(number, f"{code} is not known", "G0, G1, G17, G21, G90, G94, M3, M5 and M30 are")

    def _move(self, number: int) -> None:
        for code, words in (("G21", "millimetres are not stated"), ("G90", "absolute places are not stated")):
            if code not in self.said:
                raise self.refuse(number, f"it moves before {words.removesuffix(' are not stated')} are stated", code)
        if not self.motion:
            raise self.refuse(number, "it moves without G0 or G1", "Say which")
        if self.motion == "G1":
            if not self.turning:
                raise self.refuse(number, "it cuts before the spindle turns", "M3 comes first")
            if self.feed <= 0:
                raise self.refuse(number, "it cuts without a feed", "F comes first")
        x, y, z = self.place
        self.ends.append((x, y, z))
        self.rapid.append(self.motion == "G0")
        self.feeds.append(self.feed)
        self.numbers.append(number)


def check_moves(
    moves: CutterMoves,
    cutter: Cutter,
    stock: tuple[float, float, float, float, float],
    travel: tuple[float, float, float],
    name: str = "The program",
) -> None:
    """What only a mill with its stock clamped can refuse.

    Parameters
    ----------
    stock:
        X of its two ends, Y of its two sides, height over the table [m].
    travel:
        Of the mill, along X, Y and Z [m].

    Raises
    ------
    InputError
        For a rapid move through the stock's height, a place outside of stock and cutter, a travel that is too short,
        and a move into the table: with the line.
    """
    low_x, high_x, low_y, high_y, top = stock
    ends, spare = moves.ends, cutter.diameter + BESIDE
    below = moves.rapid & (ends[:, 2] < top - BESIDE)
    outside = (
        (ends[:, 0] < low_x - spare)
        | (ends[:, 0] > high_x + spare)
        | (ends[:, 1] < low_y - spare)
        | (ends[:, 1] > high_y + spare)
    )
    for wrong, what, accepts in (
        (below, "a rapid move below the top of the stock", f"Z {top * MM:.1f} or more"),
        (outside, "a move outside of the stock", "The stock and a cutter's width around it"),
        (ends[:, 2] < -BESIDE, "a move into the table", "Z 0 or more"),
    ):
        if wrong.any():
            i = int(np.argmax(wrong))
            x, y, z = ends[i] * MM
            where = f"{name}, line {moves.line[i]}, X {x:.1f} Y {y:.1f} Z {z:.1f}"
            raise InputError(what, where=where, accepts=accepts)
    for axis, letter in enumerate("XYZ"):
        reaches = float(np.ptp(ends[:, axis])) if len(ends) else 0.0
        if reaches > travel[axis] + BESIDE:
            raise InputError(
                f"it travels {reaches * MM:.0f} mm along {letter}",
                where=name,
                accepts=f"This mill travels {travel[axis] * MM:.0f} mm",
            )
