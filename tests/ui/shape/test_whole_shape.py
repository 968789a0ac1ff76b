"""The whole shape, by hand: rocker lines, plan lines, curvature, fittings, layers, straight edge, sections, solid,
readings, reshaping.
"""

import math
from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtWidgets import QComboBox

from kelvor.core.base.disciplines import FAMILIES
from kelvor.core.base.units import FOOT, System, parse
from kelvor.core.evaluation.book import BY_KEY
from kelvor.core.levers.rocker_lines import line_height
from kelvor.core.new_board.proposals import proposals, proposed_board
from kelvor.core.ride.phases import PHASES
from kelvor.core.shape.checks.fairness import line_curve, straight_edge
from kelvor.core.shape.curves.outline import half_width
from kelvor.core.shape.parts.layers import Ledge
from kelvor.core.shape.surface.geometry import geometry
from kelvor.exchange.export import export
from kelvor.ui.controls.fields import QuantityField
from tests.support import some
from tests.ui.case import WindowCase


class ShapeCase(WindowCase):
    def open(self, name):
        entry = next(e for e in self.session.workshop.store.boards() if e.name.startswith(name))
        self.session.file.open_board(entry.id)
        self.app.processEvents()

    def grip(self, key):
        return next(g for g in self.bench.grips() if g.key.startswith(key))

    def pull_grip(self, key, dx, dy, **how):
        start = self.bench.grip_point(self.grip(key))
        self.drag(self.bench, start, start + QPointF(dx / 2, dy / 2), start + QPointF(dx, dy), **how)

    def show_strip(self, key):
        index = self.shape.strip_choice.findData(key)
        self.assertGreaterEqual(index, 0, key)
        self.shape.strip_choice.setCurrentIndex(index)
        self.shape.strip_choice.activated.emit(index)
        self.app.processEvents()


class Families(ShapeCase):
    def test_every_figure_of_every_phase_stands_in_the_ledger_and_can_be_a_target(self):
        for discipline, phases in PHASES.items():
            for phase in phases:
                for key in phase.figures:
                    self.assertIn(key, BY_KEY, f"{discipline}, {phase.name}")
        self.open("Fulmar")
        self.trigger("view.brief")
        boxes = [
            b for b in self.window.views["brief"].findChildren(QComboBox) if b.accessibleName().startswith("Target 2")
        ]
        self.assertIn("Bottom on the flat, gap 0.5 mm", [b.currentText() for b in boxes])
        self.assertTrue(self.window.views["brief"].gear.foil_holder.isVisible())
        self.open("Dipper 138")
        self.assertFalse(self.window.views["brief"].gear.foil_holder.isVisible())  # a towed board has no foil
        self.assertIn("never near the propeller", self.window.views["brief"].targets.caution.text())

    def test_every_family_stands_on_the_bench_with_two_schools(self):
        names = {}
        for entry in self.session.workshop.store.boards():
            self.session.file.open_board(entry.id)
            self.app.processEvents()
            self.window.grab()
            tiles = [t for t in self.window.strip.tiles if t.isVisibleTo(self.window.strip)]
            self.assertEqual(len(tiles), len(self.session.results.evaluation.phases))
            self.assertTrue(all(t.tile.headline for t in tiles))
            self.assertEqual(self.session.live.geometry.board.name, entry.name)
            names.setdefault(self.session.brief.discipline, []).append(entry.name)
        for family, members in FAMILIES.items():
            self.assertGreaterEqual(sum(len(names.get(member, [])) for member in members), 2, family)

    def test_a_first_board_of_a_family_from_the_dialog(self):
        self.trigger("board.new")
        panel = self.window.dialogs.shown[-1]
        panel.discipline.setCurrentIndex(panel.discipline.findData("wakeboard"))
        self.assertEqual(
            [panel.school.itemText(i) for i in range(panel.school.count())], ["staged rocker", "blended rocker"]
        )
        self.assertIn("common practice", panel.says.text())
        panel.name.setText("Knot 1")
        panel.volume.setText("3000")
        panel.do.click()
        self.assertIn("Give 2.0 L to 600.0 L", panel.problem.text())
        self.assertEqual(panel.volume.text(), "3000")  # what was typed stays
        panel.volume.setText("7.6")
        panel.do.click()
        self.app.processEvents()
        self.assertEqual(self.session.board.name, "Knot 1")
        self.assertTrue(self.session.board.mirrored)
        self.assertAlmostEqual(self.session.results.figures()["volume"].value, 0.0076, delta=1e-5)


class RockerLines(ShapeCase):
    def test_the_rail_line_is_dragged_and_the_named_layer_takes_it_up(self):
        self.open("Tern")
        self.trigger("view.absorber")
        panel = self.window.dialogs.shown[-1]
        panel.absorber.setCurrentIndex(panel.absorber.findData("V"))
        panel.do.click()
        self.assertEqual(self.session.board.locks.absorber, "V")
        self.window.grab()
        rect, line = next(item for item in self.bench.overlays.line_rects if item[1] == "rail")
        self.click(self.bench, rect.center().x(), rect.center().y())
        self.assertEqual(self.bench.line_in_hand, line)
        grip = self.grip("line.rail#0.7")
        keel, rail = (line_height(self.session.board, name, grip.x) for name in ("keel", "rail"))
        self.pull_grip("line.rail#0.7", 0, -6)
        board = self.session.board
        lifted = 6 / self.bench.layout_now().profile.scale
        self.assertAlmostEqual(line_height(board, "rail", grip.x), rail + lifted, delta=1e-4)
        self.assertAlmostEqual(line_height(board, "keel", grip.x), keel, delta=1e-4)
        self.assertIn("taken up by V", self.tape_words())

    def test_the_three_lines_take_typed_heights(self):
        self.open("Dotterel")
        for key, words in (("nose_rocker", "99.0 mm"), ("tail_rocker", "50.0 mm")):
            self.assertTrue(self.shape.levers.pull(key, words), self.problem())
            self.assertEqual(self.lever_text(key), words)
        for line, place in (("rail", FOOT), ("mid", FOOT), ("rail", 0.15), ("mid", 0.15)):
            key = f"tail_rocker_{line}{'' if place == FOOT else '_15cm'}"
            before = {name: line_height(self.session.board, name, place) for name in ("keel", "mid", "rail")}
            typed = f"{(before[line] + 0.003) * 1000:.1f} mm"
            self.assertTrue(self.shape.levers.pull(key, typed), self.problem())
            self.assertEqual(self.lever_text(key), typed)
            after = {name: line_height(self.session.board, name, place) for name in before}
            self.assertAlmostEqual(after["keel"], before["keel"], delta=1e-4)
            self.assertEqual(", with it the mid line there" in self.tape_words(), line == "rail", self.tape_words())
        # one layer for each line, used again
        self.assertEqual([layer.name for layer in self.session.board.layers][-2:], ["Rail line", "Mid line"])
        self.assertFalse(self.shape.levers.pull("nose_rocker_rail", "400 mm"))
        self.assertIn("let the rocker take it up", self.problem().lower())

    def test_staged_to_blended_is_the_blend_length(self):
        self.open("Dipper 138")
        before = self.session.live.measures.keel_flat
        for key in ("ruler_blend_fore",):
            self.assertTrue(self.shape.levers.pull(key, "25"))
        ruler = next(w.ruler for w in self.session.board.rocker.weights if w.ruler)
        self.assertEqual((ruler.blend_aft, ruler.blend_fore), (0.25, 0.25))  # the board is the same end for end
        after = self.session.live.measures.keel_flat
        self.assertNotAlmostEqual(after[1] - after[0], before[1] - before[0], delta=0.005)

    def test_what_stands_at_the_cursor_can_be_typed(self):
        self.open("Dotterel")
        self.bench.set_station(1.2)
        self.shape.levers.refresh()
        for key, words, shown in (
            ("at.width", "39,5", "39.5 cm"),
            ("at.thickness", "1 7/8 in", "4.8 cm"),
            ("at.keel", "21 mm", "21.0 mm"),
            ("at.rail", "24", "24.0 mm"),
            ("planform_area", "6500", "6\u202f500 cm²"),
        ):
            self.assertTrue(self.shape.levers.pull(key, words), self.problem())
            self.shape.levers.refresh()
            (read, _, unit), (wanted, _, wanted_unit) = (
                t.replace("\u202f", "").rpartition(" ") for t in (self.lever_text(key), shown)
            )
            self.assertEqual(unit, wanted_unit)
            self.assertAlmostEqual(float(read), float(wanted), delta=0.11, msg=key)
        self.assertFalse(self.shape.levers.pull("at.width", "300"))
        self.assertIn("2 and 140 cm", self.problem())


class PlanLines(ShapeCase):
    def test_a_cut_out_line_is_dragged_on_the_plan(self):
        self.open("Shearwater 76")
        self.show_strip("layer.Cut-outs")
        before = next(item for item in self.session.board.layers if item.name == "Cut-outs")
        self.assertIsInstance(before, Ledge)
        self.pull_grip("layer.Cut-outs#1", 0, -8)  # outward, towards the edge: the line comes nearer to it
        after = next(item for item in self.session.board.layers if item.name == "Cut-outs")
        moved = 8 / self.bench.layout_now().plan.scale
        self.assertAlmostEqual(before.line.points[1][1] - after.line.points[1][1], moved, delta=1e-6)

    def test_fittings_are_dragged_and_clashes_named_with_their_place(self):
        self.open("Shearwater 69")
        box = self.session.board.fittings.fin_boxes[0]
        self.pull_grip("fin.0.at", 20, 0)
        moved = self.session.board.fittings.fin_boxes[0].at.offset - box.at.offset
        self.assertAlmostEqual(moved, 20 / self.bench.layout_now().scale, delta=1e-6)
        self.trigger("view.zero.tail")
        self.shape.levers.pull("strap.Back straps.half_spread", "1")
        self.shape.levers.pull("strap.Back straps.at", "34")
        self.session.results.settle_now()
        self.app.processEvents()
        clash = [f for f in self.session.results.evaluation.findings if f.code == "fittings_meet"]
        self.assertTrue(clash and clash[0].place is not None)
        self.window.grab()
        words = [text for _, text, _ in self.bench.annotations.remarks]
        self.assertTrue(any("meet" in text for text in words), words)
        self.assertIn("meet", self.shape.problem.toolTip())

    def test_fin_sets_and_their_alignment(self):
        self.open("Kittiwake")
        self.trigger("board.fins.five boxes")
        self.assertEqual(sum(b.count for b in self.session.board.fittings.fin_boxes), 5)
        self.trigger("board.fins.2+1")
        self.assertTrue(self.shape.levers.pull("fin_alignment", "0"))
        self.session.results.settle_now()
        self.assertAlmostEqual(self.session.results.figures()["fin_alignment"].value, 0.0, delta=1e-6)
        for key, words in (
            ("fin.1.toe", "3"),
            ("fin.1.cant", "7"),
            ("fin.0.fin.span", "9 in"),
            ("fin.0.fin.rake", "30"),
        ):
            self.assertTrue(self.shape.levers.pull(key, words), key)
        box = self.session.board.fittings.fin_boxes[0]
        self.assertAlmostEqual(box.fin.span, 9 * 0.0254)


class Layers(ShapeCase):
    def test_layers_added_switched_ordered_and_taken_off(self):
        self.open("Guillemot")
        count = len(self.session.board.layers)
        self.trigger("board.layer.spine")
        self.assertEqual(len(self.session.board.layers), count + 1)
        self.assertEqual(self.shape.levers.list.key().split(".")[1], "Centre spine")
        self.assertTrue(self.bench.strip.startswith("layer.Centre spine"))
        self.trigger("board.deck.scallop")
        self.trigger("board.layers")
        panel = self.window.dialogs.shown[-1]
        words = [panel.list.item(i).text() for i in range(panel.list.count())]
        self.assertIn("Scalloped tips, on the deck", words)
        volume = self.session.results.figures()["volume"].value
        panel.list.setCurrentRow(words.index("Scalloped tips, on the deck"))
        panel.switch()
        self.assertFalse(self.session.board.deck_layers[-1].on)
        self.assertGreater(self.session.results.figures()["volume"].value, volume)
        panel.take_off()
        self.assertEqual([d.name for d in self.session.board.deck_layers if d.name == "Scalloped tips"], [])
        panel.list.setCurrentRow(count)
        panel.shift(-1)
        self.assertEqual(self.session.board.layers[count - 1].name, "Centre spine")
        panel.swap_held()
        self.assertEqual(self.session.board.layers[count - 1].holds, "rail")
        self.session.undo()
        self.assertEqual(self.session.board.layers[count - 1].holds, "keel")

    def test_the_shares_add_up_to_the_sum_on_the_strip(self):
        self.open("Turnstone")
        self.show_strip("share.rail")
        self.window.grab()
        x, total = self.bench.strip_values()
        shape = self.session.live.geometry.shape
        expected = np.interp(
            x, shape.x, shape.edge_z - np.interp(shape.x, shape.x, self.session.board.rocker.at(shape.x))
        )
        inside = (x > 0.2) & (x < 1.9)
        np.testing.assert_allclose(total[inside], expected[inside], atol=3e-4)

    def test_a_layer_with_no_room_says_what_would_do(self):
        self.open("Redshank 139")
        self.trigger("board.layer.cut_away")  # a thin board takes a small one
        self.assertLess(self.session.board.cut_away.angle, math.radians(4))
        board = self.session.board
        self.assertFalse(self.shape.levers.pull("layer.Tail cut.angle", "25"))
        self.assertIn("from the tail", self.problem())
        self.assertIn("would do", self.problem())
        self.assertEqual(self.session.live.board, board)


class Strip(ShapeCase):
    def test_label_and_curve_are_one_value_whoever_chooses(self):
        choice = self.shape.strip_choice

        def agree(key):
            self.assertEqual((choice.currentData(), self.bench.strip), (key, key))

        self.open("Turnstone")
        volume = self.bench.strip
        agree(volume)
        other = choice.itemData(1)
        choice.setCurrentIndex(1)  # by a program, with no hand on it
        agree(other)
        self.bench.set_strip(volume)
        agree(volume)
        lever = next(key for key, found in self.shape.levers._levers.items() if found.schedule)
        self.shape.levers.list.choose(lever)
        self.app.processEvents()
        agree(self.shape.levers._levers[lever].schedule)
        self.open("Dunlin")  # a board without that layer
        self.assertEqual(choice.currentData(), self.bench.strip)


class BadInput(ShapeCase):
    """What cannot be is named with its place and a limit; the last good board stays and what was typed is kept."""

    def refused(self, name, key, words, *said):
        self.open(name)
        board = self.session.live.board
        self.assertFalse(self.shape.levers.pull(key, words))
        for text in said:
            self.assertIn(text, self.problem())
        self.assertEqual(self.session.live.board, board)

    def test_fatal_input_is_refused_with_its_place(self):
        self.refused("Phalarope", "outline.tail_spread", "60 cm", "notch", "cm from the tail", "would do")
        self.refused(
            "Dotterel",
            "layer.Single concave.amount",
            "70",
            "Deck and bottom meet",
            "“Single concave” takes",
            "would do",
        )
        self.refused("Tern", "layer.V.amount", "44", "cm from the tail", "would do")

    def test_fittings_off_the_board_and_lines_that_cross_are_marked_where_they_are(self):
        self.open("Shearwater 76")
        self.shape.levers.pull("layer.Cut-outs, second tier.line", "150 mm")
        self.shape.levers.pull("strap.Back straps.half_spread", "36")
        self.session.results.settle_now()
        self.app.processEvents()
        found = {f.code: f for f in self.session.results.evaluation.findings}
        self.assertIn("strap_outside", found)
        self.assertIn("lines_cross", found)
        for code in ("strap_outside", "lines_cross"):
            self.assertIsNotNone(found[code].place)
            self.assertTrue(found[code].advice)


class Fairness(ShapeCase):
    def test_the_straight_edge_slides_and_reads_its_gap(self):
        self.open("Dotterel")
        self.trigger("view.edge")
        self.trigger("view.edge.keel")
        self.trigger("view.edge.length")
        panel = self.window.dialogs.shown[-1]
        panel.long.setText("2 cm")
        panel.do.click()
        self.assertIn("5 cm long or more", panel.problem.text())
        panel.long.setText("0.6 m")
        panel.do.click()
        for station in (0.6, 0.9):
            self.bench.set_station(station)
            self.window.grab()
            expected = straight_edge(line_curve(self.session.live.geometry, "keel"), station, 0.6, under=True)
            self.assertAlmostEqual(self.bench.overlays.edge_reading().gap, expected.gap, places=9)
            self.assertIn(f"gap {expected.gap * 1000:.2f} mm", self.bench.overlays.edge_words)
        self.trigger("view.edge")
        self.assertFalse(self.bench.edge_on)

    def test_curvature_is_dragged_and_the_budget_says_where_it_went(self):
        self.open("Tern")
        self.show_strip("curvature.outline")
        self.window.grab()
        weight = self.session.board.outline.batten.weights[2]
        key = "curvature.outline#2"
        before = half_width(self.session.board.outline, self.session.board.length, np.array([weight.x]))[0]
        self.pull_grip(key, 0, 14)
        self.assertIn("Curve of the outline", self.tape_words())
        after = half_width(self.session.board.outline, self.session.board.length, np.array([weight.x]))[0]
        self.assertNotAlmostEqual(before, after, delta=2e-5)
        self.assertFalse(isinstance(geometry(self.session.board), tuple))

    def test_standing_sections_and_the_rail_close_up(self):
        self.open("Dunlin")
        self.trigger("view.sections.standing")
        section = self.shape.section
        self.window.grab()
        self.assertEqual([words for words, _ in section.stands()], ["1 ft off nose", "mast", "1 ft off tail"])
        self.assertAlmostEqual(section.stands()[1][1], self.session.board.mast_x)
        rect, mode = next(item for item in section.tab_rects if item[1] == "rail")
        self.click(section, rect.center().x(), rect.center().y())
        self.window.grab()
        self.assertEqual(section.mode, mode)


class Solid(ShapeCase):
    def test_the_solid_turns_by_mouse_and_keys_and_follows_a_drag(self):
        self.open("Whimbrel")
        self.trigger("view.solid")
        solid = self.shape.solid
        self.wait_for(lambda: solid.state != "asking")
        if solid.state == "none":
            self.window.grab()
            self.skipTest("this machine has no OpenGL driver; the view says so")
        self.app.processEvents()
        self.wait_for(lambda: not solid._image.isNull())
        first = solid._image.copy()
        colours = {first.pixel(x, first.height() // 2) for x in range(0, first.width(), 4)}
        self.assertGreater(len(colours), 8)
        scene = solid.scene
        at = scene.azimuth
        self.drag(solid, QPointF(200, 200), QPointF(260, 215))
        self.assertNotEqual(scene.azimuth, at)
        self.key(solid, Qt.Key.Key_1)
        self.assertGreater(scene.elevation, 80)
        self.key(solid, Qt.Key.Key_Left, times=2)
        self.key(solid, Qt.Key.Key_Plus)
        self.assertGreater(scene.zoom, 1.0)
        self.key(solid, Qt.Key.Key_R)
        self.assertEqual(scene.reflections, "lamps along")
        lamps = solid._image.copy()
        self.key(solid, Qt.Key.Key_R)
        self.assertEqual(scene.reflections, "lamps across")
        self.assertNotEqual(solid._image, lamps)
        self.key(solid, Qt.Key.Key_W)
        self.assertFalse(solid.water)
        self.shape.levers.pull("width", "60")
        self.wait_for(lambda: float(scene.high[1]) > 0.295)  # the solid follows the board
        self.trigger("view.solid")
        self.assertIs(self.shape.drawing.currentWidget(), self.bench)


class FromTheRack(ShapeCase):
    def fill(self, panel, board):
        shape = geometry(board).shape
        panel.discipline.setCurrentIndex(panel.discipline.findData("kite surf"))
        panel.length_field.setText(f"{board.length * 100:.1f} cm")
        panel.lay_tape()
        for i in range(9):
            x = float(panel.table.item(i, 0).text()) / 100
            for column, line, unit in (
                (1, 2 * shape.half_width, 100),
                (2, shape.keel, 1000),
                (4, shape.deck - shape.keel, 100),
            ):
                panel.table.item(i, column).setText(f"{np.interp(x, shape.x, line) * unit:.2f}")

    def test_tape_and_caliper_at_nine_places(self):
        from dataclasses import replace

        from kelvor.core.brief.brief import Brief

        board = proposed_board("Old", proposals(replace(Brief(), discipline="kite surf"))[0])
        self.trigger("board.readings")
        panel = self.window.dialogs.shown[-1]
        self.fill(panel, board)
        panel.tail.setCurrentIndex(panel.tail.findData("squash"))
        panel.nose.setCurrentIndex(panel.nose.findData("round"))
        panel.table.item(3, 1).setText("wide")
        panel.look()
        self.assertIn("Row 4, width", panel.problem.text())
        self.assertEqual(panel.table.item(3, 1).text(), "wide")  # nothing typed is lost
        panel.table.item(3, 1).setText("14 7/8 in")
        panel.look()
        self.assertEqual(panel.problem.text(), "")
        self.assertIn("widths within", panel.follows.text())
        panel.name.setText("From Isak's garage")
        panel.do.click()
        self.app.processEvents()
        self.assertEqual(self.session.board.name, "From Isak's garage")
        self.assertEqual(self.session.brief.discipline, "kite surf")
        self.assertIn("within", self.session.step().reason)

    def test_the_simulated_gauge_fills_the_sheet(self):
        self.trigger("board.readings")
        panel = self.window.dialogs.shown[-1]
        panel.discipline.setCurrentIndex(panel.discipline.findData("twin tip"))
        panel.gauge_button.click()
        self.wait_for(lambda: "readings" in panel.follows.text() and panel.gauge.reading())
        self.assertEqual(panel.gauge_button.text(), "Stop the gauge")
        self.wait_for(lambda: not panel.gauge.reading())
        self.assertEqual(panel.length_field.text(), "137.0 cm")
        self.assertIn("rocker within", panel.follows.text())
        panel.close()

    def test_tables_and_drawings_fill_it_and_bad_ones_leave_it(self):
        csv, dxf, bad = (self.folder / name for name in ("a.csv", "a.dxf", "bad.csv"))
        for path in (csv, dxf):
            export(self.session.board, path.suffix[1:], path)
        Path(bad).write_text("station mm,width mm\n1,x\n")
        self.trigger("board.readings")
        panel = self.window.dialogs.shown[-1]

        def read(how, path):
            how(path)
            self.wait_for(lambda: not panel.reader.running)

        read(panel.read_table, csv)
        self.assertIn("thickness within", panel.follows.text())
        rows = panel.rows()
        read(panel.read_table, bad)
        self.assertIn("line 2, column width mm", panel.problem.text())
        self.assertEqual(panel.rows(), rows)
        read(panel.read_drawing, dxf)
        self.assertIn("Read in millimetres, as the drawing says", panel.follows.text())
        self.assertIn("Not read, taken from a first board: the rocker, thicknesses", panel.follows.text())
        panel.close()

    def test_reshaping_shows_where_the_old_foam_ends(self):
        self.open("Dunlin")
        self.trigger("view.reshape")
        panel = self.window.dialogs.shown[-1]
        names = [panel.old.itemText(i) for i in range(panel.old.count())]
        panel.old.setCurrentIndex(next(i for i, name in enumerate(names) if name.startswith("Sandpiper")))
        panel.foam.setCurrentIndex(1)
        panel.do.click()
        self.window.grab()
        self.assertIn("Sandpiper 46", self.bench.reshaping.words)
        self.assertTrue(self.shape.levers.pull("width", "56"))
        self.window.grab()
        found = self.bench.reshaping.found()
        self.assertEqual(found.worst()[0], "beside")
        self.assertIn(f"{found.worst()[1] * 1000:.1f} mm beside the old outline", self.bench.reshaping.words)
        self.trigger("view.reshape")
        self.window.dialogs.shown[-1]._off()
        self.assertIsNone(self.bench.reshaping.found())


class LettingGo(ShapeCase):
    def assert_no_step(self, widget, start, path):
        steps, board = len(self.session.steps), self.session.board
        self.drag(widget, start, *path, release=False)
        moved = self.session.live.board != board
        self.key(widget, Qt.Key.Key_Escape)
        self.assertEqual(self.session.live.board, board)
        self.mouse(widget, QEvent.Type.MouseMove, path[-1].x(), path[-1].y() + 5)
        self.mouse(widget, QEvent.Type.MouseButtonRelease, path[-1].x(), path[-1].y())
        self.assertEqual((len(self.session.steps), self.session.board, self.session.live.board), (steps, board, board))
        return moved

    def test_escape_lets_go_of_every_grip_ring_and_strip_handle_without_a_step(self):
        moved = 0
        for name, strips in (
            ("Shearwater 76", ("volume", "rails.tuck", "shares.bottom")),
            ("Tern", ("curvature.outline", "rails.apex")),
        ):
            self.open(name)
            grips = [self.bench.grip_point(grip) for grip in self.bench.grips()][:14]
            for strip, also in zip(strips, (grips, (), ()), strict=False):
                index = self.shape.strip_choice.findData(strip)
                if index >= 0:
                    self.show_strip(strip)
                points = [*also, *(self.bench.handle_point(held) for held in self.bench.handles()[::2])]
                for point in points:
                    moved += self.assert_no_step(self.bench, point, [point + QPointF(4, -5), point + QPointF(9, -9)])
        self.assertGreater(moved, 30)
        panel = self.shape.section
        for _, point in panel.grip_points():
            self.assertTrue(self.assert_no_step(panel, point, [point + QPointF(-2, -2), point + QPointF(-5, -4)]))
        station = self.bench.station
        start = QPointF(self.bench.layout_now().px(0.3), 14)
        self.drag(self.bench, start, start + QPointF(60, 0), release=False)
        self.key(self.bench, Qt.Key.Key_Escape)
        self.assertEqual(self.bench.station, station)


class ShownAndTyped(ShapeCase):
    def test_what_is_shown_is_taken_when_it_is_typed_back(self):
        """Every figure, lever and field of boards of every family, in both unit systems."""
        seen = 0
        for name in some(("Dunlin", "Shearwater 76", "Dipper 138", "Heron"), 2):
            self.open(name)
            for system in System:
                self.session.set_system(system)
                figures = self.session.results.figures()
                levers = self.shape.levers.list.rows()
                # a lever is pulled in one of the two systems, its neighbour in the other
                for row in (*self.shape.ledger.rows(), *levers[system is System.INCH :: 2]):
                    if not row.key or row.value == "–":
                        continue
                    lever = self.shape.levers._levers.get(row.key)
                    if lever is None:
                        definition = figures[row.key].definition
                        if not definition.ranks:  # those are ratios to the reference
                            parse(row.value.removesuffix(f" {definition.below}"), definition.quantity, system)
                    else:
                        taken = self.shape.levers.pull(row.key, row.value)
                        self.assertTrue(taken or "Write a number" not in self.problem(), (row, self.problem()))
                    seen += 1
                self.window.show_view("brief")
                for field in self.window.views["brief"].findChildren(QuantityField):
                    if field.isVisible() and field.text():
                        parse(field.text(), field.quantity, system)
                        seen += 1
                self.window.show_view("shape")
        self.session.set_system(System.METRIC)
        self.assertGreater(seen, 200)
