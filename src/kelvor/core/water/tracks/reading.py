"""A track as it is looked at: cleaned, its runs, its best windows, its wind where it tells one."""

from __future__ import annotations

from kelvor.core.base.errors import InputError
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.cleaning import Clean, sailed_only
from kelvor.core.water.tracks.runs import Run, Turn, stops, straight_runs, turns
from kelvor.core.water.tracks.track import Track
from kelvor.core.water.tracks.wind_found import WindFound, wind_from
from kelvor.core.water.tracks.windows import Best, bests


@frozen(eq=False)
class TrackRead:
    """What is read off a track.

    Attributes
    ----------
    wind:
        Where the wind came from by the runs; None where they cannot tell, with `wind_why`.
    ashore:
        When somebody was ashore or waited, begins and ends since the first fix [s].
    """

    clean: Clean
    runs: tuple[Run, ...]
    bests: tuple[Best, ...]
    ashore: tuple[tuple[float, float], ...]
    wind: WindFound | None
    wind_why: str

    def turns(self, wind: float | None) -> tuple[Turn, ...]:
        """Turns between runs, as tacks and gybes where it is known where the wind came from [rad]."""
        return turns(self.clean, self.runs, wind)

    @property
    def hours(self) -> float:
        """Sailed, what was ashore left out [h]."""
        whole = float(self.clean.t[-1]) - sum(end - begin for begin, end in self.ashore)
        return max(whole, 0.0) / 3600


def track_read(track: Track) -> TrackRead:
    """Read a track.

    Raises
    ------
    InputError
        When there is nothing in it to read.
    """
    clean = sailed_only(track)
    found = straight_runs(clean)
    try:
        wind: WindFound | None = wind_from(found)
        why = ""
    except InputError as error:
        wind, why = None, str(error)
    return TrackRead(clean, found, bests(clean), stops(clean), wind, why)
