"""Tracks of five hours at ten fixes a second beside general readers, a map that is scrubbed, a log that is searched."""

from __future__ import annotations

import io
import time
from datetime import UTC, datetime
from statistics import median

import numpy as np

from kelvor.core.register.kinds.water import SetUp, WaterSession
from kelvor.core.register.record import Record
from kelvor.core.water.sessions.log import logged, searched
from kelvor.core.water.tracks.reading import track_read
from kelvor.devices import gps_logger
from kelvor.exchange.tracks import read_track


def _took(work):
    begin = time.perf_counter()
    found = work()
    return time.perf_counter() - begin, found


def _kept():
    legs = [
        {"heading": heading, "speed": 8.0 if heading in (285, 190) else 10.5, "seconds": 45.0}
        for _ in range(100)
        for heading in (285, 190, 40, 100)
    ]
    plan = {"begun": "2026-10-14T11:00:00Z", "place": [54.2, 11.1], "rate": 10, "noise": {"place": 0.8, "speed": 0.08}}
    return gps_logger.planned_fixes({**plan, "legs": legs})


def _files(kept):
    rows = list(zip(kept.seconds, kept.latitude, kept.longitude, kept.speed, strict=True))
    stamps = [
        datetime.fromtimestamp(t, UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z") for t, *_ in rows
    ]
    points = "".join(
        f"<Trackpoint><Time>{s}</Time><Position><LatitudeDegrees>{a:.7f}</LatitudeDegrees><LongitudeDegrees>{o:.7f}"
        "</LongitudeDegrees></Position></Trackpoint>"
        for s, (_, a, o, _) in zip(stamps, rows, strict=True)
    )
    tcx = points
    for tag in ("Track", "Lap", "Activity", "Activities"):
        tcx = f"<{tag}>{tcx}</{tag}>"
    tcx = f'<TrainingCenterDatabase xmlns="x">{tcx}</TrainingCenterDatabase>'
    table = "time,lat,lon,speed_ms\n" + "".join(f"{t:.1f},{a:.7f},{o:.7f},{v:.3f}\n" for t, a, o, v in rows)
    return {"gpx": gps_logger.gpx(kept), "tcx": tcx.encode(), "csv": table.encode(), "fit": gps_logger.fit(kept)}


def _others(files):
    """The same files by general readers [s]."""
    import gpxpy
    import pandas as pd

    found = {"gpx": ("gpxpy", _took(lambda: gpxpy.parse(files["gpx"].decode()))[0])}
    found["csv"] = ("pandas", _took(lambda: pd.read_csv(io.BytesIO(files["csv"])))[0])
    return found


def run():
    """Say all of it."""
    files = _files(_kept())
    others = _others(files)
    read = None
    for kind, data in files.items():
        reading, track = _took(lambda d=data, k=kind: read_track(d, f"a.{k}"))
        looking, read = _took(lambda t=track: track_read(t))
        aim = "aim ≤ 10" if kind == "fit" else "aim ≤ 2.5"
        beside = f", {others[kind][0]} reads it in {others[kind][1]:.2f} s" if kind in others else ""
        print(f"{kind}: 180 000 fixes read in {reading:.2f} s, looked at in {looking:.2f} s ({aim}){beside}")
    _drawn(read)
    _searched()


def _drawn(read):
    from kelvor.ui.theme.roles import LIGHT
    from kelvor.ui.theme.style import apply_theme
    from kelvor.ui.water.time_line import TimeLine
    from kelvor.ui.water.track_map import TrackMap
    from kelvor.ui.window.application import make_application

    app = make_application()
    apply_theme(app, LIGHT)
    chart, line = TrackMap(), TimeLine()
    for widget, size in ((chart, (530, 380)), (line, (530, 110))):
        widget.resize(*size)
        widget.show()
    first = _took(lambda: (chart.show_track(read, 4.0, None), line.show_track(read), chart.grab(), line.grab()))[0]
    spans = []
    for t in np.linspace(0, read.clean.t[-1], 200):
        spans.append(_took(lambda t=t: (chart.show_moment(t), line.show_moment(t), chart.grab(), line.grab()))[0])
    share = np.quantile(spans, 0.95)
    told = f"{median(spans) * 1000:.1f} ms, 95 % {share * 1000:.1f}, aim ≤ 16.7"
    print(f"drawn first {first * 1000:.0f} ms; scrubbed {told}")


def _searched():
    records = []
    for i in range(300):
        at = f"2026-01-01T00:00:{i:03d}"
        day = WaterSession(day=f"2026-{1 + i % 12:02d}-{1 + i % 28:02d}", place=f"Bay {i % 9}")
        setup = SetUp(session=f"s{i}", board=f"Board {i % 40}", rider="Una", fin=f"Fin {28 + i % 12}")
        records += [
            Record(f"s{i}", "session", 1, at, at, "claimed", False, day),
            Record(f"u{i}", "set-up", 1, at, at, "claimed", False, setup),
        ]
    log = logged(records)
    spans = [_took(lambda w=words: searched(log, w))[0] for words in ("f", "fi", "fin", "fin 3", "fin 34 bay 2") * 20]
    print(f"300 sessions searched in {median(spans) * 1000:.2f} ms a key")
