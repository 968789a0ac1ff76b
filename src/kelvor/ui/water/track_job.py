"""What a worker is asked of a track's file: read, and looked at."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.errors import InputError
from kelvor.core.register.kinds.water import ColumnMeanings
from kelvor.core.water.tracks.reading import TrackRead, track_read
from kelvor.exchange.read_limits import limited
from kelvor.exchange.tracks import READ_SECONDS, read_track


def track_job(data: bytes, name: str, columns: Sequence[ColumnMeanings] = ()) -> TrackRead:
    """A file read and looked at, both within a worker's time and memory; raises InputError where it is no track or
    there is nothing in it to read.
    """
    with limited(name, READ_SECONDS, accepts="Cut the file in two"):
        track = read_track(data, name, columns)
        try:
            return track_read(track)
        except InputError as error:  # a track knows no file
            raise InputError(error.what, where=name, accepts=error.accepts) from None
