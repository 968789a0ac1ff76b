"""The session of a window, put together with what lives beside it: made boards, our boards, rides."""

from __future__ import annotations

from pathlib import Path

from kelvor.ui.build.made import Making
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.session.session import Session
from kelvor.ui.water.own_boards import OurBoards
from kelvor.workshop.store import Store


def session_on(store: Store, safety: Path | None = None) -> Session:
    """A session on a workshop; nothing is on its bench yet. `safety` is the folder for its safety copy, if any."""
    session = Session(store, safety)
    session.made = session.service(Making)
    ours = session.service(OurBoards)
    ours.changed.connect(session.settled)
    session.ours, session.rides = ours, session.service(RideRequests)
    return session
