"""What a worker is asked of a track's file: read, and looked at."""

from __future__ import annotations

from collections.abc import Sequence

from kelvor.core.base.errors import InputError
from kelvor.core.register.kinds.water import Columns
from kelvor.core.water.tracks.reading import TrackRead, track_read
from kelvor.exchange.tracks import read_track_within


def track_job(data: bytes, name: str, columns: Sequence[Columns] = ()) -> TrackRead:
    """A file read and looked at; raises InputError where it is no track or there is nothing in it to read."""
    track = read_track_within(data, name, columns)
    try:
        return track_read(track)
    except InputError as error:  # a track knows no file
        raise InputError(error.what, where=name, accepts=error.accepts) from None
