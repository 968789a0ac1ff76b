"""The Build view: constructions chosen and changed, compared, weighed, written out; every change a step."""

from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from kelvor.core.build.materials.table import HANDBOOK
from kelvor.ui.build.made import Making
from tests.ui.build.build_case import BuildCase


class Build(BuildCase):
    def test_the_weight_breaks_down_and_adds_up(self):
        rows = [row for row in self.view.weight.rows() if row.key.startswith("thing.")]
        self.assertAlmostEqual(sum(int(row.value.split()[0]) for row in rows), self.grams("total"), delta=len(rows))
        self.assertEqual(self.grams("total"), round(self.session.results.figures()["mass"].value * 1000))
        self.assertIn("lb", self.view.weight_label.text())
        self.window.grab()

    def test_another_construction_is_a_step_and_undo_brings_it_back(self):
        before, weight = self.session.board, self.grams("total")
        self.trigger("edit.pin")
        self.choose("Light carbon, aramid deck")
        self.assertEqual(self.session.board.construction.name, "Light carbon, aramid deck")
        self.session.results.settle_now()
        self.assertLess(self.grams("total"), weight - 150)
        self.assertIn("lighter", next(row for row in self.view.weight.rows() if row.key == "total").aside)
        self.assertIn("softer", next(row for row in self.view.stiff.rows() if row.key == "twist_per_moment").aside)
        box = next(row for row in self.view.stiff.rows() if row.key == "box_moment")
        # softer foam holds the mast less, and that is marked
        self.assertRegex(f"{box.value} {box.aside}", r"^0\.6\d × of the reference$")
        self.assertEqual(box.mark, "!")
        self.assertIsNotNone(self.view.strips.then)
        self.assertIn("Built as Light carbon", self.tape_words())
        self.assertEqual(self.session.workshop.store.board(self.session.current), self.session.board)
        self.window.grab()
        self.key(self.window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        self.assertEqual(self.session.board, before)
        self.assertEqual(self.grams("total"), weight)

    def test_dense_blocks_and_potting_are_chosen_and_weighed(self):
        fields, weight = self.view.made.core, self.grams("total")
        fields.blocks.setCurrentIndex(fields.blocks.findData("pvc80"))
        fields.blocks.activated.emit(fields.blocks.currentIndex())
        fields.potting.setFocus()
        fields.potting.selectAll()
        QTest.keyClicks(fields.potting, "600")
        QTest.keyClick(fields.potting, Qt.Key.Key_Return)
        rows = {row.label: row.value for row in self.view.weight.rows()}
        self.assertGreater(int(rows["Dense blocks"].split()[0]), 5)
        self.assertGreater(int(rows["Potting"].split()[0]), 10)
        self.assertGreater(self.grams("total"), weight + 15)
        self.session.undo()
        self.session.undo()
        self.assertEqual(self.grams("total"), weight)

    def test_layers_more_less_off_new_and_typed(self):
        view = self.view.made
        plies = self.session.board.construction.plies
        view.plies.choose("ply0")
        view.buttons["More"].click()
        self.assertEqual(self.session.board.construction.plies[0].count, plies[0].count + 1)
        self.assertRegex(self.tape_words(), r"Bottom: 1 → 2 layers, \+\d+ g")
        view.buttons["On, off"].click()
        self.assertFalse(self.session.board.construction.plies[0].on)
        self.session.undo()
        self.session.undo()
        view.new.menu().actions()[3].trigger()  # a patch under the front foot
        self.app.processEvents()
        self.assertEqual(self.session.board.construction.plies[-1].name, "Foot patch")
        field = view.layer.fields["start"]
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "24 in")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertAlmostEqual(self.session.board.construction.plies[-1].start.offset, 0.6096)
        field.selectAll()
        QTest.keyClicks(field, "nowhere")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertIn("not a number", view.problem.text())
        self.assertEqual(field.text(), "nowhere")
        view.buttons["Delete"].click()
        self.assertEqual(len(self.session.board.construction.plies), len(plies))
        view.new.menu().actions()[6].trigger()  # a centre stringer
        self.assertEqual(self.session.board.construction.stringers[-1].name, "Centre stringer")
        view.plies.choose("stringer0")
        view.buttons["Delete"].click()
        self.assertEqual(self.session.board.construction.stringers, ())

    def test_what_a_layer_buys_and_side_by_side(self):
        view = self.view
        view.tabs.setCurrentIndex(1)
        plies = self.session.board.construction.plies
        self.assertIn("Counting", view.worth.words.text())
        self.wait_for(lambda: view.worth.table.rowCount() == 2 * len(plies))
        words = self.row(view.worth.table, 0)
        self.assertEqual(words[0], "Bottom −1")
        self.assertTrue(words[1].startswith("−") and words[1].endswith(" g"), words)
        self.assertIn("softer", words[3])
        self.assertNotIn("Counting", view.worth.words.text())
        view.tabs.setCurrentIndex(2)
        self.wait_for(lambda: view.side.table.rowCount() > 2)
        self.assertFalse(view.side.use.isEnabled())
        names = [self.row(view.side.table, i)[0] for i in range(view.side.table.rowCount())]
        self.assertEqual(names[0], "As built here")
        view.side.table.selectRow(names.index("Glass by hand"))
        self.assertRegex(
            view.side.sentence.text(),
            r"Glass by hand: \d\.\d\d kg \(\d+ lb \d+ oz\), \d+ g heavier than now; \d+% softer in bending",
        )
        view.side.use.click()
        self.assertEqual(self.session.board.construction.name, "Glass by hand")

    def test_counting_is_dropped_when_the_board_changes_under_it(self):
        view = self.view
        view.tabs.setCurrentIndex(1)
        first = self.session.board.construction
        view.made.plies.choose("ply0")
        view.made.buttons["More"].click()
        view.made.buttons["Delete"].click()
        self.wait_for(lambda: "Counting" not in view.worth.words.text())
        names = {self.row(view.worth.table, i)[0][:-3] for i in range(view.worth.table.rowCount())}
        self.assertEqual(names, {p.name for p in first.plies[1:]})

    def test_a_built_up_core_shows_what_it_leaves_and_takes_typed_thickness(self):
        core = self.view.made.core
        self.pick(core.stock, "paulownia")
        self.pick(core.build, "hollow")
        self.assertFalse(core.built_up.isHidden())
        weight, field = self.grams("total"), core.fields["skin"]
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, "9 mm")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertAlmostEqual(self.session.board.construction.core.skin, 0.009)
        self.assertGreater(self.grams("total"), weight + 100)
        self.assertIn("Core, planks", self.tape_words())
        self.assertGreater(len(self.view.strips.ribs), 3)
        field.selectAll()
        QTest.keyClicks(field, "2 m")
        QTest.keyClick(field, Qt.Key.Key_Return)
        self.assertIn(
            "Wood left above and below: 2 000.0 mm cannot be. Give 1.0 mm to 100.0 mm", self.view.made.problem.text()
        )
        self.pick(core.build, "solid")
        self.assertTrue(core.built_up.isHidden())
        self.pick(core.method, "bagged")
        self.assertGreater(self.session.board.construction.bags, 0)

    def test_stiffness_that_is_still_of_the_board_before_is_marked(self):
        self.assertFalse(any(row.renewing for row in self.view.stiff.rows()))
        self.pick(self.view.made.core.stock, "paulownia")  # here a board settles when the test says so
        self.assertTrue(all(row.renewing for row in self.view.stiff.rows()))
        self.assertTrue(self.view.strips.renewing)
        self.view.strips.grab()
        self.session.results.settle_now()
        self.assertFalse(any(row.renewing for row in self.view.stiff.rows()))
        self.assertFalse(self.view.strips.renewing)

    def test_chambers_are_cut_to_the_weight_that_is_typed(self):
        core = self.view.made.core
        self.pick(core.stock, "paulownia")
        self.pick(core.build, "chambered")
        before, skin = self.session.live.mass.total.mass, self.session.board.construction.core.skin
        self.type(core.weight, f"{before + 0.35:.2f} kg")
        self.assertEqual(self.view.made.problem.text(), "")
        self.assertAlmostEqual(self.session.live.mass.total.mass, round(before + 0.35, 2), places=4)
        self.assertGreater(self.session.board.construction.core.skin, skin)
        self.assertIn("Chambers to", self.tape_words())
        self.type(core.weight, "90 kg")
        self.assertRegex(
            self.view.made.problem.text(), r"90\.00 kg cannot be had.*Between \d\.\d\d kg \(3 mm left\) and \d"
        )
        self.assertAlmostEqual(self.session.live.mass.total.mass, round(before + 0.35, 2), places=4)
        self.trigger("edit.undo")
        self.assertAlmostEqual(self.session.live.mass.total.mass, before, places=9)

    def test_a_layer_moves_inward_and_its_patch_is_typed_away(self):
        made = self.view.made
        names = [p.name for p in self.session.board.construction.plies]
        made.plies.choose("ply1")
        made.buttons["Up"].click()
        self.assertEqual([p.name for p in self.session.board.construction.plies], [names[1], names[0], *names[2:]])
        self.assertEqual(made._part, "ply0")
        self.assertEqual(made.layer.cloth.currentData(), self.session.board.construction.plies[0].cloth)
        field = made.layer.fields["width"]
        for words, width in (("25 cm", 0.25), ("", 0.0)):
            field.setFocus()
            field.selectAll()
            QTest.keyClick(field, Qt.Key.Key_Delete)
            QTest.keyClicks(field, words)
            QTest.keyClick(field, Qt.Key.Key_Return)
            self.assertAlmostEqual(self.session.board.construction.plies[0].width, width)
        made.plies.choose("coat0")
        self.assertFalse(field.isEnabled())
        self.assertEqual(made.layer.cloth.currentText(), "")
        self.assertFalse(made.buttons["More"].isEnabled())
        self.assertTrue(made.buttons["Delete"].isEnabled())

    def test_stringers_and_coats_take_typed_values(self):
        made = self.view.made
        made.new.menu().actions()[6].trigger()  # a centre stringer
        self.assertIs(made.fields.currentWidget(), made.part)
        weight = self.grams("total")
        self.type(made.part.width_field, "12 mm")
        self.assertAlmostEqual(self.session.board.construction.stringers[0].width, 0.012)
        self.assertGreater(self.grams("total"), weight + 100)
        self.assertIn("Centre stringer: Poplar", self.tape_words())
        single = self.grams("total")
        self.type(made.part.offset, "8 cm")
        self.assertAlmostEqual(self.session.board.construction.stringers[0].offset, 0.08)
        self.assertGreater(self.grams("total"), single + 100)  # a pair now
        self.pick(made.part.material, "balsa")
        self.assertEqual(self.session.board.construction.stringers[0].material, "balsa")
        self.type(made.part.width_field, "2 m")
        self.assertIn("Width of the stringer: 2 000.0 mm cannot be. Give 0.5 mm to 100.0 mm", made.problem.text())
        self.assertEqual(made.part.width_field.text(), "2 m")
        made.plies.choose("coat0")
        self.assertTrue(made.part.material.isHidden())
        before, areal = self.grams("total"), self.session.board.construction.coats[0].areal_mass
        self.type(made.part.coat, "300 g/m2")
        self.assertAlmostEqual(self.session.board.construction.coats[0].areal_mass, 0.3)
        self.assertGreater(self.grams("total"), before + 1000 * (0.3 - areal))
        made.plies.choose("ply0")
        self.assertIs(made.fields.currentWidget(), made.layer)

    def test_kept_for_all_boards(self):
        made = self.view.made
        made.keep.click()
        self.assertIn("name is empty", made.problem.text())
        made.keep_name.setText("Fjord carbon")
        made.keep.click()
        other = next(e for e in self.session.workshop.store.boards() if e.name.startswith("Shearwater"))
        self.session.file.open_board(other.id)
        self.app.processEvents()
        self.choose("Fjord carbon")
        self.assertEqual(self.session.board.construction.name, "Fjord carbon")

    def test_materials_are_the_workshops_to_change(self):
        weight = self.grams("total")
        self.trigger("build.materials")
        panel = self.window.dialogs.shown[-1]
        row = next(i for i, s in enumerate(HANDBOOK.stocks) if s.key == "eps20")
        panel.table.item(row, 1).setText("lots")
        self.assertIn("not a number", panel.problem.text())
        panel.table.item(row, 1).setText("24")
        self.app.processEvents()
        self.assertEqual(panel.table.item(row, panel.table.columnCount() - 1).text(), "the workshop's own")
        self.assertAlmostEqual(
            self.grams("total"),
            weight + round(4 * self.session.results.figures()["core_volume"].value * 1e3),
            delta=3,
        )
        panel.close()
        self.trigger("build.weights")
        panel = self.window.dialogs.shown[-1]
        for i in range(3):
            panel.list.item(i).setCheckState(Qt.CheckState.Checked)
        self.assertEqual(panel.words.text().count(" kg, that is "), 4)
        # what the scale said of each made board, beside the forecast of the version it is made of
        self.assertRegex(
            panel.words.text(), r"SK-09, finished: 2\.70 kg on the scale, forecast 2\.\d\d ± 0\.1\d kg, [+−]\d+ g"
        )
        panel.close()

    def test_what_it_costs_follows_the_rates_line_by_line(self):
        costs = lambda: {r.key: r.value for r in self.view.weight.rows() if r.key.startswith("cost.")}  # noqa: E731
        amount = lambda words: int(words.split(" crowns")[0].replace("\u202f", ""))  # noqa: E731
        before = costs()
        parts = [amount(words) for key, words in before.items() if key != "cost.total"]
        self.assertAlmostEqual(sum(parts), amount(before["cost.total"]), delta=len(parts) / 2)
        self.trigger("build.materials")
        panel = self.window.dialogs.shown[-1]
        panel.kind.setCurrentIndex(panel.kind.findData("rates"))
        panel.show_kind()
        row = {panel.table.item(i, 0).text(): i for i in range(panel.table.rowCount())}
        panel.table.item(row["A foil track, price"], 1).setText("-3")
        self.assertIn("A foil track: -3 of the currency cannot be", panel.problem.text().replace("−", "-"))
        panel.table.item(row["A foil track, price"], 1).setText("340")
        panel.table.item(row["Currency"], 1).setText("")
        self.assertIn("The currency is empty", panel.problem.text())
        self.app.processEvents()
        gap = amount(costs()["cost.fittings and pad"]) - amount(before["cost.fittings and pad"])
        self.assertEqual(gap, 200)
        panel.table.item(row["Currency"], 1).setText("shells")
        self.app.processEvents()
        self.assertRegex(costs()["cost.total"], r"^\d+\u202f?\d* shells$")
        panel.close()

    def test_changes_of_the_workshops_tables_are_taken_back(self):
        weight, start = self.grams("total"), self.session.table
        self.trigger("build.materials")
        panel = self.window.dialogs.shown[-1]
        row = next(i for i, s in enumerate(HANDBOOK.stocks) if s.key == "eps20")
        panel.table.item(row, 1).setText("24")
        self.assertNotEqual(self.session.table, start)
        panel.undo.click()
        self.assertEqual(self.session.table, start)
        self.assertEqual(panel.table.item(row, 1).text(), "20")
        self.assertEqual(self.grams("total"), weight)
        self.assertIn("Taken back: EPS 20", self.view.made.problem.text())
        panel.close()
        made, weigh = self.view.made, self.view.weigh_ins
        self.show_tab("Boards made")
        self.begin("K-5")
        made.keep_name.setText("Fjord carbon")
        made.keep.click()
        self.show_tab("Weigh-ins")
        for words in ("2.2 kg", "2.3 kg"):
            weigh.field.setText(words)
            weigh.write_button.click()
        for expected in ((2.2,), ()):
            weigh.back_button.click()
            self.assertEqual(tuple(w.mass for w in self.session.service(Making).chosen().weighed), expected)
            self.assertEqual(bool(self.row(weigh.table, 0)[2]), bool(expected))
        self.assertIn(
            "Fjord carbon", [c.name for c in self.session.workshop.tables.constructions(self.session.brief.discipline)]
        )
        self.trigger("edit.undo")
        self.assertNotIn(
            "Fjord carbon", [c.name for c in self.session.workshop.tables.constructions(self.session.brief.discipline)]
        )

    def test_a_construction_kept_twice_goes_back_to_its_first(self):
        made = self.view.made
        first = self.session.board.construction
        for _ in range(2):
            made.keep_name.setText("Fjord carbon")
            made.keep.click()
            made.plies.choose("ply0")
            made.buttons["More"].click()
        kept = [
            c
            for c in self.session.workshop.tables.constructions(self.session.brief.discipline)
            if c.name == "Fjord carbon"
        ]
        self.assertEqual([c.plies[0].count for c in kept], [first.plies[0].count + 1])
        for _ in range(2):  # one more ply, and what was kept with it
            self.trigger("edit.undo")
        kept = [
            c
            for c in self.session.workshop.tables.constructions(self.session.brief.discipline)
            if c.name == "Fjord carbon"
        ]
        self.assertEqual([c.plies[0].count for c in kept], [first.plies[0].count])

    def test_another_workshop_brings_its_own_tables(self):
        self.trigger("build.materials")
        panel = self.window.dialogs.shown[-1]
        row = next(i for i, s in enumerate(HANDBOOK.stocks) if s.key == "eps20")
        panel.table.item(row, 1).setText("24")
        panel.close()
        changed = self.session.table
        self.window.files.create_workshop(self.folder / "fresh.kelvor")
        self.assertEqual(self.session.table, HANDBOOK)
        self.trigger("edit.undo")  # nothing of the other workshop's is taken back here
        self.assertEqual(self.session.table, HANDBOOK)
        self.window.files.open_workshop(self.path)
        self.assertEqual(self.session.table, changed)
        (self.folder / "bad.kelvor").write_text("no workshop")
        self.window.files.open_workshop(self.folder / "bad.kelvor")
        self.assertEqual(self.session.table, changed)
        self.assertIn("bad.kelvor", self.view.made.problem.text())

    def test_the_board_without_a_construction_asks_for_one(self):
        made = self.view.made
        self.view.tabs.setCurrentIndex(1)  # counting begins for the construction that is about to go
        board = replace(self.session.board, construction=None)
        self.session.commit(board, (), title="Areal masses only", held=True)
        self.app.processEvents()
        self.assertTrue(made.library.itemText(0).startswith("Not stated"))
        self.assertEqual(made.plies.rows(), [])
        self.assertFalse(made.buttons["More"].isEnabled())
        made.new.menu().actions()[0].trigger()
        self.assertIn("Choose a construction first", made.problem.text())
        made.keep.click()
        self.assertIn("Choose a construction first", made.problem.text())
        self.assertFalse(self.view.worth.counting.under_way)
        self.assertEqual(self.view.worth.table.rowCount(), 0)
        self.assertIn("Choose a construction", self.view.worth.words.text())
        self.window.grab()
        self.choose("Glass, bagged")
        self.wait_for(lambda: self.view.worth.table.rowCount() > 3)

    def test_the_sheet_is_written(self):
        path = self.folder / "sheet.csv"
        self.window.files.write_sheet(path)
        self.wait_for(path.exists)
        self.assertIn("resin g", path.read_text())
