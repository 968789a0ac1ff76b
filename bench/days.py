"""The Water view of a workshop with 3 000 logged days, and any table of a hundred rows; in the window's thread."""

from __future__ import annotations

import random
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from statistics import median

from PySide6.QtWidgets import QApplication, QTabWidget

from kelvor.core.base.units import text
from kelvor.core.register.kinds.water import OnTheWater, SetUp, WaterSession
from kelvor.demo.workshop import create_demo
from kelvor.ui.build.made import Making
from kelvor.ui.controls.tables import figures_table, fill_table
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import LIGHT
from kelvor.ui.theme.style import apply_theme
from kelvor.ui.window.application import make_application, make_window
from kelvor.ui.window.main_window import MainWindow
from kelvor.workshop.rows import written
from kelvor.workshop.store import Store

DAYS = 3_000
ROWS = 100
PLACES = tuple(f"Bay {i}" for i in range(12))


def with_days(path: Path, days: int) -> None:
    """The demo workshop with so many days sailed, written in one go."""
    create_demo(path).close()
    random.seed(7)
    shop = Store.open(path)
    boards = list(shop.boards())
    rows = []

    def keep(kind: str, uid: str, value: object, board: int | None = None, origin: str = "claimed") -> None:
        rows.append((uid, kind, "2026-06-01T10:00:00.000+00:00", origin, 0, board, None, written(value)))

    for i in range(days):
        day = f"{2017 + i // 330}-{1 + i // 28 % 12:02d}-{1 + i % 28:02d}"
        board = random.choice(boards)
        wind = random.uniform(4, 14)
        keep("session", f"d{i}", WaterSession(day=day, place=random.choice(PLACES), wind_low=wind, wind_high=wind + 3))
        setup = SetUp(
            session=f"d{i}", board=board.name, rider="Una Varga", drive=f"Sail {i % 9}", fin=f"Fin {i % 12}", hours=1.5
        )
        keep("set-up", f"u{i}", setup, board.id)
        least = OnTheWater(setup=f"u{i}", what="least wind", value=wind, computed=wind * random.uniform(0.9, 1.1))
        keep("on the water", f"r{i}", least, board.id, "measured")
    with shop.writing() as db:
        db.executemany(
            "INSERT INTO records (uid, kind, made_at, origin, gone, board_id, step_id, data) VALUES (?,?,?,?,?,?,?,?)",
            rows,
        )
    shop.close()


def _took(work: Callable[[], object]) -> float:
    began = time.perf_counter()
    work()
    return (time.perf_counter() - began) * 1000


def _table(app: QApplication) -> None:
    table = figures_table(("Measure", "Should be", "Let pass", "Read", "Off", "Verdict"))
    table.resize(700, 500)
    table.show()

    def rows(turn: int) -> list[tuple[str, ...]]:
        return [(f"Row {i} of {turn}", "12.3 cm", "2.0 mm", f"{i + turn} cm", "+1 mm", "within") for i in range(ROWS)]

    def painted(turn: int) -> None:
        fill_table(table, rows(turn))
        app.processEvents()

    filled = median([_took(partial(fill_table, table, rows(turn))) for turn in range(12)][2:])
    shown = median([_took(partial(painted, turn)) for turn in range(12)])
    print(f"a table of {ROWS} rows filled in {filled:.1f} ms (aim ≤ 20), painted {shown:.1f}")
    table.close()


def _water(window: MainWindow, app: QApplication) -> None:
    for turn in ("first", "again"):

        def shown(view: str) -> None:
            window.show_view(view)
            app.processEvents()

        told = [f"Water {_took(partial(shown, 'water')):.0f}"]
        tabs = window.views["water"].findChild(QTabWidget)

        def page(at: int, tabs: QTabWidget = tabs) -> None:
            tabs.setCurrentIndex(at)
            app.processEvents()

        told += [f"{tabs.tabText(i)} {_took(partial(page, i)):.0f}" for i in range(tabs.count())]
        shown("shape")
        print(f"{DAYS} days, shown {turn}: {', '.join(told)} ms (aim ≤ 1000 each)")


def _sheet(window: MainWindow, app: QApplication) -> None:
    window.session.service(Making).begin("KV-77", "bench")
    window.show_view("build")
    view = window.views["build"]
    view.tabs.setCurrentWidget(view.sheet)
    app.processEvents()
    spans = []
    for at, line in enumerate(view.sheet.lines[:20]):
        view.sheet.table.selectRow(at)
        view.sheet.field.setText(text(line.measure.should, line.measure.tool.quantity, window.session.system))
        spans.append(_took(lambda: (view.sheet.write(), app.processEvents())))
    print(f"a reading typed into the measure sheet is shown in {median(spans):.0f} ms (aim ≤ 50)")


def run() -> None:
    """Say all of it."""
    app = make_application()
    apply_theme(app, LIGHT)
    _table(app)
    with tempfile.TemporaryDirectory() as name:
        path = Path(name) / "days.kelvor"
        with_days(path, DAYS)
        window = make_window(Store.open(path), Settings(Path(name) / "settings.json"))
        window.resize(1280, 800)
        window.show()
        app.processEvents()
        window.session.finish_start()
        _water(window, app)
        _sheet(window, app)
        window.close()
