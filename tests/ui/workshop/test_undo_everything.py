"""Whatever is done to a board, step by step backward leads to where it began, and forward to where it was."""

import random
from contextlib import closing, suppress
from dataclasses import replace

from PySide6.QtTest import QTest
from tools.gesture_walk import Walk

from kelvor.core.base.errors import InputError
from kelvor.core.brief.brief import Rider
from kelvor.core.build.mass.stages import WeighIn
from kelvor.core.build.materials.recipes import recipes
from kelvor.core.levers.catalogue import levers
from kelvor.core.register.kinds import KINDS
from kelvor.core.register.kinds.words import Decision, Said
from kelvor.ui.build.made import Making
from kelvor.ui.window.actions.menu import name_undo
from kelvor.workshop.store import Store
from tests.ui.case import WindowCase

BOARDS = ("Dunlin", "Shearwater")


class RandomWalk(WindowCase):
    def pull(self, dice):
        lever = dice.choice(levers(self.session.board))
        before = self.shape.levers.row(lever.key)
        if before is not None:
            self.shape.levers._nudged(lever.key, dice.choice((-2.0, -1.0, 1.0, 2.0)))

    def build(self, dice):
        recipe = dice.choice(recipes(self.session.brief.discipline))
        self.session.build_with(recipe, f"Built as {recipe.name}")

    def walk(self, seed):
        dice = random.Random(seed)
        for _ in range(14):
            dice.choice((self.pull, self.pull, self.pull, self.build))(dice)
            self.app.processEvents()

    def test_back_to_the_first_and_forward_again(self):
        for seed, name in enumerate(BOARDS):
            with self.subTest(name):
                entry = next(e for e in self.session.workshop.store.boards() if e.name.startswith(name))
                self.session.file.open_board(entry.id)
                begun, start = self.session.board, self.session.current
                self.walk(seed)
                reached, boards = self.session.board, []
                self.assertNotEqual(reached, begun)
                while self.session.current != start:
                    boards.append(self.session.board)
                    before = self.session.current
                    self.trigger("edit.undo")
                    self.assertNotEqual(self.session.current, before)
                self.assertEqual(self.session.board, begun)
                for board in reversed(boards):
                    self.trigger("edit.redo")
                    self.assertEqual(self.session.board, board)
                self.assertEqual(self.session.board, reached)
                self.assertEqual(self.session.workshop.store.board(self.session.current), reached)

    def test_figures_after_undo_are_those_of_the_board_not_of_the_way_there(self):
        values = {f.key: f.value for f in self.session.live.figures}
        start = self.session.current
        self.walk(7)
        while self.session.current != start:
            self.trigger("edit.undo")
        self.session.results.settle_now()
        for figure in self.session.live.figures:
            if figure.exists:
                self.assertEqual(figure.value, values[figure.key], figure.key)

    def test_the_next_morning_stands_where_the_walk_ended(self):
        self.walk(3)
        reached, board_id = self.session.board, self.session.board_id
        self.window.close()
        self.session.workshop.store.close()
        self.window = self.open_window()
        self.session = self.window.session
        self.shape = self.window.shape
        self.session.file.open_board(board_id)
        self.assertEqual(self.session.board, reached)


class OneHistory(WindowCase):
    """Ctrl+Z takes back the last thing that was done, whatever it was and wherever one looks."""

    def state(self):
        session = self.session
        return {
            "board": (session.board.name, session.board),
            "brief": session.brief,
            "reference": session.overlays.step,
            "reasons": {s.number: s.reason for s in session.steps.values() if s.reason},
            "marks": {s.number: s.frozen for s in session.steps.values() if s.frozen},
            "tables": (
                session.table,
                session.coefficients,
                tuple(c.name for c in session.workshop.tables.kept),
                session.workshop.tables.weighed,
            ),
            "records": {
                (r.uid if r.uid.startswith("demo") else "", r.kind, r.value)
                for kind in KINDS
                for r in session.workshop.registers.of(kind)
            },
            "briefs": {
                board: session.workshop.store.brief(board)
                for board in session.workshop.store.names()
                if board != session.board_id
            },
        }

    def doings(self):
        session = self.session

        def ronja():
            return session.workshop.registers.get("demo-rider-ronja-vik")

        return (
            lambda: self.assertTrue(self.shape.levers.pull("volume", "40")),
            lambda: session.briefs.set(replace(session.brief, rider=replace(session.brief.rider, mass=81.0))),
            lambda: session.versions.pin(session.current),
            lambda: session.versions.set_reason(session.current, "drier start"),
            lambda: session.versions.freeze(session.current, "cut", "K-7"),
            lambda: session.workshop.tables.keep_coefficient("arm_share", 0.51),
            lambda: session.versions.decide(session.current, Decision(verdict="parked", why="until autumn")),
            lambda: session.workshop.registers.keep(
                "said", Said(words="glides"), "words", origin="felt", board=session.board_id, step=session.current
            ),
            lambda: session.workshop.registers.keep(
                "rider", Rider(name="Ronja Vik", mass=73.0), "rider", uid="demo-rider-ronja-vik"
            ),
            lambda: session.briefs.take_everywhere(
                ronja(), list(session.workshop.store.referring("demo-rider-ronja-vik"))
            ),
            lambda: session.workshop.tables.keep_material(replace(session.table.rates, hour=77.0)),
            lambda: session.workshop.tables.keep_construction(replace(recipes("wing foil")[0], name="Two of glass")),
            lambda: session.service(Making).begin("K-8", "Mo"),
            lambda: session.service(Making).weigh(WeighIn("shaped", 1.9)),
            lambda: session.service(Making).work("shaped", 2.5, "rails", "Mo"),
            lambda: session.service(Making).move("sold", "Ronja"),
            lambda: session.versions.go_to(min(session.steps)),
            lambda: session.file.open_board(
                next(e.id for e in session.workshop.store.boards() if e.name.startswith("Plover"))
            ),
            lambda: self.assertTrue(self.shape.levers.pull("width", "60")),
        )

    def test_everything_in_the_order_it_was_done(self):
        states = [self.state()]
        for do in self.doings():
            do()
            self.app.processEvents()
            self.assertNotEqual(self.state(), states[-1])
            states.append(self.state())
        self.window.show_view("ride")  # where one looks does not matter
        for state in reversed(states[:-1]):
            self.trigger("edit.undo")
            self.assertEqual(self.state(), state)
            self.assertTrue(self.window.heard.isVisible() and self.window.heard.text().startswith("Taken back: "))
        for state in states[1:]:
            self.trigger("edit.redo")
            self.assertEqual(self.state(), state)
        board_id = self.session.board_id
        with closing(Store.open(self.path)) as shop:  # and the disk says the same
            self.assertEqual(shop.brief(board_id), self.session.brief)
            self.assertEqual(shop.coefficients().arm_share, 0.51)
            self.assertIn("Two of glass", [c.name for c in shop.constructions()])

    def test_the_menu_says_what_and_a_new_doing_ends_redo(self):
        self.session.versions.freeze(self.session.current, "drawn", "A1")
        name_undo(self.window)
        undo, redo = (self.window.actions_by_key[key] for key in ("edit.undo", "edit.redo"))
        self.assertEqual((undo.text(), redo.text()), ("Undo: the mark “drawn”", "Redo"))
        undo.trigger()
        name_undo(self.window)
        self.assertEqual(redo.text(), "Redo: the mark “drawn”")
        self.session.versions.set_reason(self.session.current, "another")
        redo.trigger()
        self.assertEqual(self.session.step().frozen, ())
        for _ in range(len(self.session.steps) + 1):  # what was done before this window opened: step by step
            undo.trigger()
        self.assertIn("Nothing to take back", self.problem())
        self.assertEqual(self.session.step().number, 1)

    def test_what_another_window_changed_of_the_brief_stays(self):
        self.session.briefs.set(replace(self.session.brief, place="Long bay"))
        with closing(Store.open(self.path)) as other:
            brief = other.brief(self.session.board_id)
            other.set_brief(self.session.board_id, replace(brief, notes="flat today"), brief)
        self.session.file.look_elsewhere()
        self.trigger("edit.undo")
        self.assertNotEqual(self.session.brief.place, "Long bay")
        self.assertEqual(self.session.brief.notes, "flat today")

    def test_words_half_typed_while_something_is_done_again_end_no_history(self):
        """Doing a change again leaves the version, and takes the words in its tape: a doing of their own."""
        session, tape = self.session, self.window.tape
        session.versions.freeze(session.current, "drawn", "A1")
        marked, before = session.current, session.step().reason
        self.assertTrue(self.shape.levers.pull("volume", "40"))
        self.trigger("edit.undo")
        self.trigger("edit.undo")
        tape.reason.setFocus()
        tape.reason.selectAll()
        QTest.keyClicks(tape.reason, "drier start")
        for _ in range(2):
            self.trigger("edit.redo")
        self.assertAlmostEqual(session.live.geometry.solid.volume, 0.040, places=5)
        self.assertEqual(session.steps[marked].frozen[-1], ("drawn", "A1"))
        self.assertEqual(session.steps[marked].reason, "drier start")
        for _ in range(3):
            self.trigger("edit.undo")
        self.assertEqual((session.steps[marked].frozen, session.steps[marked].reason), ((), before))

    def test_words_for_a_version_are_taken_back_when_another_board_lies_on_the_bench(self):
        session, tape = self.session, self.window.tape
        asked, before = session.current, session.step().reason
        other = next(b.id for b in session.workshop.store.boards() if b.id != session.board_id)
        session.file.open_board(other)
        self.trigger("edit.undo")
        tape.reason.setFocus()
        tape.reason.selectAll()
        QTest.keyClicks(tape.reason, "drier start")
        self.trigger("edit.redo")
        self.assertEqual(session.board_id, other)
        self.assertIn("opened", session.workshop.gestures.last)  # the words were typed before it
        session.versions._put_reason(asked, before)  # as an undo asks it that comes out of order
        self.trigger("edit.undo")
        self.assertEqual(session.steps[asked].reason, before)

    def test_a_seeded_walk_over_all_views_ends_where_it_began_and_where_it_turned(self):
        """Three thousand gestures: `python -m tools.gesture_walk 3000`."""
        walk = Walk(self.window, 5)
        self.assertEqual(walk.go(40), [])
        self.assertGreater(len(walk.count), 15)

    def test_a_hundred_mixed_edits_undos_and_redos_end_where_they_began(self):
        dice, session = random.Random(11), self.session
        do = self.doings()
        begun, depth = self.state(), 0
        for _ in range(100):
            act = dice.choice(("do", "do", "undo", "redo"))
            if act == "do":
                known = len(session.workshop.gestures._done)
                with suppress(InputError, AssertionError):  # some are refused on some boards, or change nothing
                    dice.choice(do)()
                depth = max(depth, len(session.workshop.gestures._done) - known)
            elif session.workshop.gestures.last if act == "undo" else session.workshop.gestures.next:
                self.trigger(f"edit.{act}")
        self.assertEqual(depth, 1)  # each gesture is one entry
        while session.workshop.gestures.last:
            self.trigger("edit.undo")
        self.assertEqual(self.state(), begun)
