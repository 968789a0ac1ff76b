"""Tests in the Water view: planned, sailed, answered, decided."""

from functools import partial
from unittest import mock

import pypdf
from PySide6.QtCore import Qt

from kelvor.core.water.trials.planning import run_order
from kelvor.ui.water import small_panels
from tests.ui.water.test_water import Water, logged


class Tests(Water):
    def setUp(self):
        super().setUp()
        self.tests = self.tab("Tests")

    def plan(self, pairs="3", **typed):
        self.tests.plan.click()
        panel = self.panel()
        for name, words in {
            "question": "Is the small fin faster?",
            "a": "Fin 34",
            "b": "Fin 30",
            "pairs": pairs,
            **typed,
        }.items():
            self.type_into(getattr(panel, name), words)
        return panel

    def test_the_season_has_a_clear_a_null_and_a_contradictory_test_and_one_in_progress(self):
        told = {
            self.cell(self.tests.table, i, 0): self.cell(self.tests.table, i, 1)
            for i in range(self.tests.table.rowCount())
        }
        self.assertRegex(
            told["Is the 36 blade faster than the 28 weed fin, half wind?"], r"^Blade 36 faster by 0\.\d\d ± 0"
        )
        self.assertRegex(told["Does the mast base 20 mm further aft cost speed?"], "^Not shown|^Alike")
        shim = next(t for t in self.view.trials.all() if "shim" in t.value.question)
        self.assertRegex(told[shim.value.question], "^no shim faster by")
        self.assertTrue(any("feels faster" in run.felt for run in shim.counted))
        self.assertIn("in progress, 3 runs", told.values())

    def test_a_plan_says_what_it_can_show_and_how_many_pairs_the_wanted_would_take(self):
        panel = self.plan(pairs="4", margin="0.2")
        told = panel.says.text()
        self.assertRegex(told, r"^4 pairs, about 48 minutes: they find \d\.\d\d kn four times of five")
        self.assertRegex(told, r"0\.20 kn would take \d+\. Pairs differ by 0\.\d\d kn, a usual scatter")
        self.type_into(panel.pairs, "1")
        self.assertIn("1 pairs", panel.says.text())
        self.key(panel.do, Qt.Key.Key_Return)
        self.assertIn("2 to 200", panel.problem.text())

    def test_a_test_is_planned_sailed_answered_decided_and_taken_back(self):
        panel = self.plan(margin="0.3")
        self.key(panel.do, Qt.Key.Key_Return)
        order = run_order(self.tests.test().value.order)
        self.assertIn("Run 1 of 6: A, Fin 34", self.tests.next.text())
        for i, change in enumerate(order):
            self.type_into(self.tests.value, f"{22.0 + (0.9 if change == 'B' else 0.0) + 0.05 * (i % 2):.2f}")
            self.key(self.tests.value, Qt.Key.Key_Return)
            if i + 1 < len(order):
                self.assertRegex(self.tests.clock.text(), r"^0:0\d since the last run$")
        self.assertRegex(self.tests.says.text(), r"^Fin 30 faster by 0\.\d\d ± 0\.\d\d kn$")
        self.assertIn("All runs of the plan are sailed", self.tests.next.text())
        self.assertIn("95 % between", self.tests.why.text())
        self.type_into(self.tests.decided, "Fin 30 stays in.")
        self.tests.decided.editingFinished.emit()
        self.assertEqual(self.tests.test().value.decided, "Fin 30 stays in.")
        uid = self.tests.test().record.uid
        for _ in range(2):
            self.session.undo()
        self.assertEqual(len(self.view.trials.get(uid).counted), 5)
        self.tests.refresh()
        self.assertIn("Run 6 of 6", self.tests.next.text())

    def test_one_way_runs_and_a_second_difference_cannot_tell(self):
        panel = self.plan()
        self.type_into(panel.more, "another sail")
        self.key(panel.do, Qt.Key.Key_Return)
        for _ in range(6):
            self.type_into(self.tests.value, "22")
            self.key(self.tests.value, Qt.Key.Key_Return)
        self.assertEqual(self.tests.says.text(), "Cannot tell")
        self.assertIn("another sail", self.tests.why.text())
        self.key(self.plan(question="Again?").do, Qt.Key.Key_Return)
        self.tests.both.setChecked(False)
        for _ in range(6):
            self.type_into(self.tests.value, "22")
            self.key(self.tests.value, Qt.Key.Key_Return)
        self.assertIn("the current is not known", self.tests.why.text())

    def test_runs_come_off_the_loggers_track_cut_at_stops_ashore(self):
        self.key(self.plan().do, Qt.Key.Key_Return)
        legs = [{"seconds": 120}]
        for change in run_order(self.tests.test().value.order):
            speed = 8.4 if change == "B" else 8.0
            legs += [{"heading": h, "speed": speed, "seconds": 80} for h in (100, 280)] + [{"seconds": 140}]
        path = self.folder / "test.fit"
        path.write_bytes(logged("2026-11-20", legs=legs))
        self.log.add_track(path)
        self.wait_for(lambda: any(one.value.day == "2026-11-20" for one in self.log.all()))
        self.tests.track_button.click()
        self.assertIn("6 runs from test.fit", self.tests.problem.text())
        self.assertRegex(self.tests.says.text(), r"^Fin 30 faster by 0\.\d\d")
        self.assertIn("simulated logger", self.tests.why.text())
        self.assertEqual(self.cell(self.tests.runs, 0, 3), "out and back")
        taken = len(self.tests.test().counted)
        self.tests.track_button.click()  # once is enough
        self.assertIn("no track of", self.tests.problem.text())
        self.assertEqual(len(self.tests.test().counted), taken)
        self.session.undo()
        self.tests.refresh()
        self.assertIn("Run 1 of 6", self.tests.next.text())
        other = next(one for one in self.log.all() if one.tracks and one.setup.board != self.tests.test().value.board)
        self.page.choose(other.uid)
        self.tests.track_button.click()
        self.assertIn(f"The session of {other.value.day}: it was {other.setup.board}", self.tests.problem.text())
        self.assertEqual(self.tests.test().counted, [])

    def test_the_simulated_logger_sails_a_stated_truth_shown_and_not_shown(self):
        sailed = partial(small_panels.test_plan, seed=7)  # by chance one test in twenty shows what is not there
        self.enterContext(mock.patch.object(small_panels, "test_plan", lambda *plan: sailed(*plan[:-1])))
        for fast, said in (("18.8", "Fin 30 faster by"), ("18.0", "")):
            self.key(self.plan(pairs="6", margin="0.3", question=f"Truth {fast}?").do, Qt.Key.Key_Return)
            self.tests.logger_button.click()
            panel = self.panel()
            for field, words in ((panel.fast_a, "18"), (panel.fast_b, fast), (panel.scatter, "0.2")):
                self.type_into(field, words)
            self.key(panel.do, Qt.Key.Key_Return)
            self.wait_for(lambda: self.tests.test() is not None and self.tests.test().done)
            self.assertIn("12 runs from logger", self.tests.problem.text())
            words = self.tests.says.text()
            self.assertTrue(words.startswith(said) if said else words.startswith(("Not shown", "Alike")), words)
            self.assertIn("simulated logger", self.tests.why.text())
        self.assertTrue(
            any(t.origin == "simulated" for one in self.log.all() for t in one.tracks if "logger" in t.value.name)
        )

    def test_a_run_is_struck_and_sailed_again(self):
        test = next(t for t in self.view.trials.all() if t.value.decided)
        self.tests.choose(test.record.uid)
        self.tests.runs.selectRow(2)
        self.tests.strike_button.click()
        self.type_into(self.panel().why, "a ferry's wake")
        self.key(self.panel().do, Qt.Key.Key_Return)
        self.tests.refresh()
        self.assertIn("Run 16 of 16", self.tests.next.text())
        self.assertIn("ferry", self.cell(self.tests.runs, 2, 6))

    def test_the_card_holds_every_run_in_order(self):
        path = self.folder / "test.pdf"
        test = self.view.trials.all()[0]
        self.view.papers.write_test_card(test, path)
        self.wait_for(path.exists)
        words = " ".join(page.extract_text() for page in pypdf.PdfReader(path).pages)
        self.assertIn(test.value.question, words)
        self.assertIn("SK-09", words)
        self.assertRegex(words, r"[0-9A-Z]{4}-[0-9A-Z]{4}")
        self.assertGreaterEqual(words.count(", SK-07") + words.count(", SK-09"), len(run_order(test.value.order)))
