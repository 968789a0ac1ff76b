"""How long a window stands still while a file is held, a drawing is read or an export runs; and how long
drawings take.
"""

import math
import random
import sqlite3
import tempfile
import time
from contextlib import closing
from dataclasses import replace
from pathlib import Path

AIM = 20.0
"""The window's own thread may be busy this long at a time [ms]."""


def _loose(path, count):
    """A DXF of an ellipse of loose lines, shuffled and turned about."""
    import ezdxf

    rng = random.Random(1)
    drawing = ezdxf.new("R2010")
    drawing.header["$INSUNITS"] = 4
    points = [
        (750 - 750 * math.cos(2 * math.pi * i / count), 250 * math.sin(2 * math.pi * i / count)) for i in range(count)
    ]
    lines = [(points[i], points[(i + 1) % count]) for i in range(count)]
    rng.shuffle(lines)
    for line in lines:
        drawing.modelspace().add_line(*line[:: rng.choice((1, -1))])
    drawing.saveas(path)


def drawings(say, timed):
    """Reading loose lines against ezdxf reading the same file."""
    import ezdxf

    from kelvor.exchange.outlines import read_outline

    with tempfile.TemporaryDirectory() as name:
        for count in (2000, 8000):
            path = Path(name) / f"{count}.dxf"
            _loose(path, count)
            aim = "aim ≤ 2 s" if count == 2000 else ""
            say(
                f"outline from {count} loose lines",
                timed(lambda _, p=path: read_outline(p), 3),
                "ezdxf reading the file alone",
                timed(lambda _, p=path: ezdxf.readfile(p), 3),
                aim,
            )


def stillness(say, timed):
    """The longest time the window's thread was away from its events: file held and free, a drawing read, an export; and
    idle.
    """
    from PySide6.QtCore import QTimer

    from kelvor.demo.workshop import create_demo
    from kelvor.ui.background.runner import close_workers
    from kelvor.ui.settings import Settings
    from kelvor.ui.window.application import make_application, make_window

    app = make_application()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        window = make_window(create_demo(folder / "d.kelvor"), Settings(folder / "s.json"))
        window.show()
        session = window.session
        slow = folder / "slow.svg"
        arcs = "".join(f'<path d="M {i} 0 {"A 50 20 0 0 1 30 10 " * 3}"/>' for i in range(1300))
        slow.write_text(f'<svg xmlns="http://www.w3.org/2000/svg">{arcs}</svg>')

        def longest(seconds, *deeds):
            """Deeds done in turn, a while apart; the longest that an event had to wait, or a deed took [ms]."""
            spans, last = [], [time.perf_counter()]

            def tick():
                now = time.perf_counter()
                spans.append((now - last[0]) * 1000)
                last[0] = now

            timer = QTimer()
            timer.setInterval(0)
            timer.timeout.connect(tick)
            timer.start()
            end, waiting = time.monotonic() + seconds, list(deeds)
            due = time.monotonic() + 0.2
            while time.monotonic() < end:
                app.processEvents()
                if waiting and time.monotonic() > due:
                    begin = time.perf_counter()
                    waiting.pop(0)()
                    spans.append((time.perf_counter() - begin) * 1000)
                    last[0], due = time.perf_counter(), time.monotonic() + 0.2
            timer.stop()
            return sorted(spans)[-1]

        longest(10.0)  # first pictures, rides and levers are behind us
        idle = longest(3.0)
        notes = iter(range(100))
        step = min(session.steps)

        def walk():
            session.boards.clear()
            session.versions.go_to(step)

        def noted():
            session.versions.set_reason(session.current, f"note {next(notes)}")

        deeds = (
            noted,
            lambda: session.versions.freeze(session.current, "cut", "K"),
            walk,
            noted,
            session.file.look_elsewhere,
            noted,
        )
        free = longest(3.0, *deeds)
        with closing(sqlite3.connect(session.workshop.store.path, isolation_level=None)) as other:
            other.execute("BEGIN EXCLUSIVE")
            begin = time.perf_counter()
            session.file.look_elsewhere()
            glance = (time.perf_counter() - begin) * 1000
            held = longest(3.0, *deeds)
            other.execute("ROLLBACK")
        session.workshop.stop_waiting()
        session.workshop.saving.save()
        longest(2.0)
        say("window away, file held by another", held, "the same with the file free, paint and all", free)
        say(
            "of it waiting for the file",
            glance,
            "the same with the file free, paint and all",
            free,
            f"aim ≤ {AIM:.0f} ms",
        )
        window.dialogs.board_from_readings()
        panel = window.dialogs.shown[-1]
        longest(1.5)
        say(
            "window away, a drawing is read",
            longest(3.0, lambda: panel.read_drawing(slow)),
            "idle window",
            idle,
            f"aim ≤ {AIM:.0f} ms",
        )
        panel.close()
        window.dialogs.hand_out()
        panel = window.dialogs.shown[-1]
        panel.path.setText(str(folder / "o.pdf"))
        longest(1.0)
        panel.act()  # the first loads the writer of documents
        longest(3.0)
        panel.path.setText(str(folder / "p.pdf"))
        say("window away, an export runs", longest(4.0, panel.act), "idle window", idle, f"aim ≤ {AIM:.0f} ms")
        panel.close()
        brief = session.brief
        say(
            "a change of the brief, on the disk",
            timed(lambda i: session.briefs.set(replace(brief, notes=str(i))), 12),
            "idle window",
            idle,
        )
        window.close()
    close_workers()


def run(say, timed):
    """Both."""
    drawings(say, timed)
    stillness(say, timed)
