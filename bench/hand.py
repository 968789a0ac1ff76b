"""How soon what the hand does is seen: a mouse move that drags a weight, to the painted window, at two sizes of the
screen.

As a program it drags in this process and prints what it took; the size of the screen is set before Qt begins.
"""

import json
import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from statistics import median

from kelvor.ui.ride.ride_requests import RideRequests

FRAME = 1000 / 60
LINES = ("outline", "rocker", "thickness")
MOVES = 80


def spin():
    """A fixed piece of work [ms]: this machine's speed wanders."""
    begin = time.perf_counter()
    sum(i * i for i in range(1_000_000))
    return (time.perf_counter() - begin) * 1000


def drags():
    """From each mouse move to the end of the bench's painting [ms], line by line, and the median repaint of the window
    [ms].
    """
    from PySide6.QtCore import QEvent, QPointF, Qt
    from PySide6.QtGui import QMouseEvent

    from kelvor.core.shape.edits.weights import Hold
    from kelvor.demo.workshop import create_demo
    from kelvor.ui.background.runner import close_workers
    from kelvor.ui.settings import Settings
    from kelvor.ui.shape.bench.bench import BenchWidget
    from kelvor.ui.theme.roles import LIGHT
    from kelvor.ui.theme.style import apply_theme
    from kelvor.ui.window.application import make_application, make_window

    painted, paint = [0.0], BenchWidget.paintEvent

    def timed_paint(self, event):
        paint(self, event)
        painted[0] = time.perf_counter()

    BenchWidget.paintEvent = timed_paint
    app = make_application()
    apply_theme(app, LIGHT)
    left, none = Qt.MouseButton.LeftButton, Qt.MouseButton.NoButton
    with tempfile.TemporaryDirectory() as folder:
        window = make_window(create_demo(Path(folder) / "d.kelvor"), Settings(Path(folder) / "s.json"))
        window.resize(1280, 800)
        window.show()
        bench, riding = window.shape.bench, window.session.service(RideRequests)

        def rest():
            end = time.monotonic() + 60
            app.processEvents()
            while (
                not window.session.started or riding.under_way() or riding.counting_bands()
            ) and time.monotonic() < end:
                app.processEvents()
                time.sleep(0.01)

        def mouse(kind, point, button, buttons):
            event = QMouseEvent(kind, point, bench.mapToGlobal(point), button, buttons, Qt.KeyboardModifier.NoModifier)
            app.sendEvent(bench, event)

        rest()
        found = {}
        for line in LINES:
            start = next(h.middle for h in bench.scene().handles if h.held == Hold(line, 2))
            mouse(QEvent.Type.MouseButtonPress, start, left, left)
            assert bench.in_hand()
            spans = []
            for i in range(MOVES):
                begin = time.perf_counter()
                mouse(QEvent.Type.MouseMove, start - QPointF(0, 1 + 0.4 * (i % 30)), none, left)
                app.processEvents()
                spans.append((painted[0] - begin) * 1000)
                time.sleep(0.002)
            found[line] = spans[5:]
            bench.let_go()
            mouse(QEvent.Type.MouseButtonRelease, start, left, none)
            rest()
        empty = []
        for _ in range(20):
            begin = time.perf_counter()
            for widget in (window, bench, window.shape.levers.list, window.shape.ledger, window.shape.section):
                widget.repaint()  # opaque ones are not painted with their parent
            app.processEvents()
            empty.append((time.perf_counter() - begin) * 1000)
        window.close()
    close_workers()
    return found, median(empty)


def run(say):
    """A drag of each line at 100 and 200 %, the median against a repaint of the same window."""
    for scale, aim in (("1", FRAME), ("2", 2 * FRAME)):
        env = {**os.environ, "QT_SCALE_FACTOR": scale}
        before = spin()
        done = subprocess.run([sys.executable, "-m", "bench.hand"], check=True, capture_output=True, text=True, env=env)
        found, empty = json.loads(done.stdout.splitlines()[-1])
        for line, spans in found.items():
            late = sorted(spans)[int(0.95 * len(spans))]
            say(
                f"drag {line}, at {scale}00 %",
                median(spans),
                "repaint of the same window",
                empty,
                f"95 % {late:.1f}; aim ≤ {aim:.1f} ms",
            )
        print(f"   a fixed spin beside it {before:19.1f} ms before, {spin():6.1f} ms after")


if __name__ == "__main__":
    print(json.dumps(drags()))
