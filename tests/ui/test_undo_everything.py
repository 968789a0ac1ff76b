"""Whatever is done to a board, step by step backward leads to where it began, and forward to where it was."""

import random

from kelvor.core.materials.recipes import recipes
from kelvor.core.seek.levers import levers
from tests.ui.case import WindowCase

BOARDS = ("Dunlin", "Shearwater")


class RandomWalk(WindowCase):
    def pull(self, dice):
        lever = dice.choice(levers(self.session.board))
        before = self.shape.lever_label(lever.key)
        if before is not None:
            self.shape._lever_nudged(lever.key, dice.choice((-2.0, -1.0, 1.0, 2.0)))

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
                entry = next(e for e in self.session.store.boards() if e.name.startswith(name))
                self.session.open_board(entry.id)
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
                self.assertEqual(self.session.store.board(self.session.current), reached)

    def test_figures_after_undo_are_those_of_the_board_not_of_the_way_there(self):
        values = {f.key: f.value for f in self.session.live.figures}
        start = self.session.current
        self.walk(7)
        while self.session.current != start:
            self.trigger("edit.undo")
        self.session.settle_now()
        for figure in self.session.live.figures:
            if figure.exists:
                self.assertEqual(figure.value, values[figure.key], figure.key)

    def test_the_next_morning_stands_where_the_walk_ended(self):
        self.walk(3)
        reached, board_id = self.session.board, self.session.board_id
        self.window.close()
        self.session.store.close()
        self.window = self.open_window()
        self.session = self.window.session
        self.shape = self.window.shape
        self.session.open_board(board_id)
        self.assertEqual(self.session.board, reached)
