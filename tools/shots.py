"""Pictures of the main views from the demo boards, into docs/screenshots (or a folder given)."""

import os
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from kelvor.core.shape.surface.sections import Resolution, core_sections
from kelvor.demo.workshop import create_demo
from kelvor.ui.background.runner import close_workers
from kelvor.ui.build.made import Making
from kelvor.ui.compare.view import OVER, PHASES
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import LIGHT
from kelvor.ui.theme.style import apply_theme
from kelvor.ui.window.application import make_application, make_window


def main() -> None:
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else Path("docs/screenshots")
    out.mkdir(parents=True, exist_ok=True)
    app = make_application()
    apply_theme(app, LIGHT)
    with tempfile.TemporaryDirectory() as folder:
        store = create_demo(Path(folder) / "demo.kelvor")
        window = make_window(store, Settings(Path(folder) / "settings.json"))
        window.resize(1280, 800)
        window.show()
        window.shape.bench.set_station(0.60)

        def wait(done: Callable[[], bool]) -> None:
            end = time.monotonic() + 60
            while not done() and time.monotonic() < end:
                app.processEvents()
                time.sleep(0.01)

        def fill(panel: Any) -> None:
            panel.discipline.setCurrentIndex(panel.discipline.findData("kite surf"))
            panel.length_field.setText("169")
            panel.tail.setCurrentIndex(panel.tail.findData("squash"))
            panel.lay_tape()
            for i, (wide, thick) in enumerate(
                zip(
                    (14, 29.6, 38.6, 45, 46.5, 44.2, 37, 24, 10.5),
                    (2.1, 3.1, 4.3, 4.9, 5, 4.7, 3.9, 3, 2.1),
                    strict=True,
                )
            ):
                panel.table.item(i, 1).setText(str(wide))
                panel.table.item(i, 4).setText(str(thick))
            panel.look()
            panel.draw_gauge()

        def counted() -> None:
            app.processEvents()
            window.session.results.settle_now()
            wait(lambda: not window.session.service(RideRequests).under_way())
            for _ in range(40):
                app.processEvents()
                time.sleep(0.01)
            wait(lambda: not window.session.service(RideRequests).under_way())
            for _ in range(40):
                app.processEvents()
                time.sleep(0.01)

        def shot(name: str) -> None:
            counted()
            window.grab().save(str(out / f"{name}.png"))

        def open_named(name: str) -> None:
            window.session.file.open_board(next(entry.id for entry in store.boards() if entry.name.startswith(name)))

        shot("shape")
        window.show_view("rack")
        rack = window.views["rack"]
        wait(lambda: bool(rack._cards) and all(card.counted for card in rack._cards))
        rack.group.setCurrentIndex(1)
        rack.query.setText("wing foil")
        rack.query.setText("stuck, loose")
        shot("rack")
        rack.query.setText("")
        chosen = {str(entry.id) for entry in store.boards() if entry.name in ("Sandpiper 46", "Stint 33")}
        rack.view.clearSelection()
        rack.view.choose_again(chosen)
        rack.compare()
        compare = window.views["compare"]
        compare.ledger.other.setCurrentIndex(1)
        compare.tabs.setCurrentIndex(OVER)
        compare.over.view.station = 0.45
        shot("compare")
        compare.tabs.setCurrentIndex(PHASES)
        wait(lambda: not window.session.service(RideRequests).counting_bands())
        shot("compare-phases")
        window.session.overlays.show_beside([])
        window.show_view("register")
        shot("register")
        window.show_view("brief")
        shot("brief")
        for name, phase, words in (("Dunlin", "lift_off", "lift-off"), ("Shearwater 76", "run", "slalom")):
            open_named(name)
            window.show_view("ride")
            assert window.views["ride"] is not None
            window.views["ride"].show_phase(phase)
            shot(f"ride-{words}")
        open_named("Dunlin")
        window.show_view("shape")
        window.toggle_theme()
        shot("shape-dark")
        window.toggle_theme()
        open_named("Tern")
        window.shape.bench.set_edge(True, "keel", 0.6)
        window.shape.section.set_mode("standing")
        index = window.shape.strip_choice.findData("curvature.outline")
        window.shape.strip_choice.setCurrentIndex(index)
        window.shape.strip_choice.activated.emit(index)
        window.shape.levers.pull("width_1ft_tail", "36.5")
        shot("fairness")
        window.shape.bench.set_edge(False)
        window.shape.section.set_mode("cursor")
        window.toggle_solid()
        solid = window.shape.solid
        assert solid is not None
        wait(lambda: solid.state != "asking")
        solid.toggle_reflections()
        shot("solid")
        window.toggle_solid()
        window.dialogs.board_from_readings()
        panel = window.dialogs.shown[-1]
        fill(panel)
        wait(lambda: not panel.gauge.reading())
        app.processEvents()
        panel.grab().save(str(out / "readings.png"))
        panel.close()
        open_named("Dunlin")
        window.show_view("build")
        build = window.views["build"]
        assert build is not None
        window.session.versions.pin(window.session.current)
        light = next(
            c
            for c in window.session.workshop.tables.constructions(window.session.brief.discipline)
            if "aramid" in c.name
        )
        window.session.build_with(light, f"Built as {light.name}")
        build.made.plies.choose("ply3")
        shot("build")
        window.session.undo()
        open_named("Shearwater 76")
        window.session.service(Making).set_mill(replace(window.session.service(Making).mill(), flat=0.008))
        build.tabs.setCurrentWidget(build.mill)
        build.mill.cut()
        wait(lambda: not build.mill.busy)
        shot("mill")
        window.show_view("water")
        water = window.views["water"]
        assert water is not None
        wait(lambda: water.sessions.panel.read() is not None)
        water.sessions.panel.scrub(water.sessions.panel.read().runs[20].begins + 15)
        shot("water")
        water.tabs.setCurrentWidget(water.tests)
        water.tests.choose(next(t.record.uid for t in water.trials.all() if "blade" in t.value.question))
        shot("water-test")
        open_named("Dunlin")
        window.show_view("shape")
        window.session.versions.pin(None)
        old = next(entry.id for entry in store.boards() if entry.name == "Sandpiper 46")
        shape = core_sections(store.board(store.left_at(old)), Resolution.NORMAL)
        assert not isinstance(shape, tuple)
        window.shape.bench.reshaping.set_old(shape, "Sandpiper 46", None)
        window.shape.levers.pull("width", "51.5")
        shot("reshape")
        window.shape.bench.reshaping.set_old(None, "", None)
        window.session.undo()
        open_named("Shearwater 69")
        counted()
        window.dialogs.rider_says()
        says = window.dialogs.shown[-1]
        says.typed.setText("slides")
        wait(lambda: bool(says.candidates))
        app.processEvents()
        says.grab().save(str(out / "rider-says.png"))
        says.close()
        open_named("Dunlin")
        window.show_view("family")
        family = window.views["family"]
        family.families.begin("Dunlin range", 69.0, [50, 58, 80, 90, 105])
        wait(lambda: len(family.families.states) == 5 and len(family.families.figures) == 6)
        family.families.session.file.open_board(family.families.sizes(family.family().uid)[3].board_id)
        window.shape.levers.pull("layer.Tail cut.angle", "10°")
        wait(lambda: family.families.states and any(s.by_hand for s in family.families.states.values()))
        family.sizes.table.selectRow(4)
        shot("family")
        window.close()
    close_workers()


if __name__ == "__main__":
    main()
