"""Six boards compared: the overlay under the cursor, the ledger, their rides; beside a general plotting library."""

import time
from concurrent.futures import wait
from statistics import median

from kelvor.core.base.units import System
from kelvor.core.build.materials.table import HANDBOOK
from kelvor.core.compare.curves import datum_slide
from kelvor.core.compare.ledger import ledger
from kelvor.core.evaluation.jobs import whole_job
from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.evaluation.subject import Subject
from kelvor.core.ride.condition import condition_of
from kelvor.core.shape.surface.section_view import outline_ring
from kelvor.core.tank.laws.coefficients import HANDBOOK_COEFFICIENTS
from kelvor.demo.boards import demo_boards

FRAME = 1000 / 60
ROLES = ("pinned", "beside", "beside_b", "beside_c", "beside")


def spans(work, count):
    """Milliseconds of each of some calls, the first ones left out."""
    found = []
    for i in range(count + 3):
        begin = time.perf_counter()
        work(i)
        found.append((time.perf_counter() - begin) * 1000)
    return sorted(found[3:])


def overlay(say, boards):
    """The station moves and six boards are painted anew; the same outlines, sides and section by matplotlib (Agg)."""
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib.figure import Figure

    from kelvor.ui.compare.overlay import OverlaidBoard, OverlayView
    from kelvor.ui.theme.roles import LIGHT
    from kelvor.ui.theme.style import apply_theme
    from kelvor.ui.window.application import make_application

    app = make_application()
    apply_theme(app, LIGHT)
    own, *others = boards
    laid = tuple(
        OverlaidBoard(other, other.board.name, role, datum_slide(own, other, "tail"))
        for other, role in zip(others, ROLES, strict=True)
    )
    view = OverlayView()
    view.resize(740, 660)
    view.show()
    view.show_boards(own, laid, System.METRIC, by_share=False)
    app.processEvents()

    def move(i):
        view.station = 0.1 + 0.01 * (i % 120)
        view.repaint()

    ours = spans(move, 60)
    figure = Figure((7.4, 6.6))
    axes = figure.subplots(3)

    def theirs(i):
        for axis in axes:
            axis.clear()
        for board in boards:
            ring, shape = outline_ring(board.geometry.shape), board.geometry.shape
            axes[0].plot(ring[:, 0], ring[:, 1])
            axes[1].plot(shape.x, shape.keel)
            axes[1].plot(shape.x, shape.deck)
            axes[2].plot(shape.y[20 + i], shape.z[20 + i])
        axes[0].axvline(0.1 + 0.01 * i)
        figure.canvas.draw()

    say("six boards painted at a station", median(ours), "matplotlib, the same lines", median(spans(theirs, 6)))
    print(f"   95 of 100 within {ours[int(0.95 * len(ours))]:.1f} ms   aim {FRAME:.1f}")


def run(say):
    """All of it."""
    pairs = [
        (b, br)
        for slug, b, br in demo_boards()
        if slug in ("dunlin-39", "sandpiper-46", "stint-33", "fulmar-104", "curlew-102", "whimbrel-97")
    ]
    brief = pairs[1][1]
    boards = [evaluate_live(b, brief) for b, _ in pairs]
    overlay(say, boards)
    plain = spans(lambda i: ledger(boards[0], boards[1 + i % 5], explained=False), 20)
    told = spans(lambda i: ledger(boards[0], boards[1 + i % 5]), 10)
    print(f"the ledger of two boards                        {median(plain):8.1f} ms, most {plain[-1]:.1f}   aim 50")
    print(f"   with what explains it, in a worker           {median(told):8.1f} ms, most {told[-1]:.1f}")
    from kelvor.ui.background.runner import IDLE, _workers, close_workers

    pool = _workers(IDLE)
    jobs = [(Subject(b, brief, HANDBOOK, HANDBOOK_COEFFICIENTS), condition_of(brief)) for b, _ in pairs]
    wait([pool.submit(whole_job, *jobs[0]) for _ in range(2)])  # the workers stand
    begin = time.perf_counter()
    first, rest = None, [pool.submit(whole_job, *job) for job in jobs]
    for future in rest:
        future.result()
        first = first or time.perf_counter() - begin
    took = time.perf_counter() - begin
    print(f"six boards ridden, float and all                {took:8.2f} s, the first {first:.2f}   aim 1.5")
    close_workers()
