"""Paper for the water and from it: a board's card, a test's order, the history of a board; each beside the window."""

from __future__ import annotations

from datetime import datetime
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from kelvor.core.register.stamp import Stamp
from kelvor.ui.build.made import Making
from kelvor.ui.hand_out.on_paper import OnPaper
from kelvor.ui.water.logbook import Logbook

if TYPE_CHECKING:
    from kelvor.core.made.made_boards import Made
    from kelvor.core.water.trials.trial_records import Test
    from kelvor.ui.water.shown.history import HistoryChapter


class WaterPapers(OnPaper):
    """Papers of the Water view, under the stamp of the board they are about."""

    def session_card(self) -> None:
        """Ask where a card goes that is ringed on the beach: of the board that was ridden last."""
        board = self.session.service(Logbook).proposed().board
        self._ask("Card for the beach", f"{board} card.pdf", self.write_session_card)

    def write_session_card(self, path: Path) -> None:
        """Write the card: the last set-up, and what may be ringed instead."""
        from kelvor.exchange.beach_papers import write_session_card
        from kelvor.ui.water.shown.cards import session_fields
        from kelvor.ui.water.shown.water import CAUTION

        session = self.session
        setup = session.service(Logbook).proposed()
        log = session.service(Logbook).all()
        place = log[0].value.place if log else session.brief.place
        fields = session_fields(setup, place, session.workshop.registers.of, session.system)
        stamp = self._stamp_of(setup.made)
        self._sheets.ask(write_session_card, [(setup.board, stamp.words, fields, CAUTION, path, True)])
        session.versions.handed_out("card for the beach", stamp, session.current)

    def test_card(self, test: Test | None) -> None:
        """Ask where a test's card goes."""
        if test is None:
            self._not_done("Plan a test first.")
            return
        self._ask("Test card", f"{test.value.board} test.pdf", partial(self.write_test_card, test))

    def write_test_card(self, test: Test, path: Path) -> None:
        """Write the order of a test, a line for each run."""
        from kelvor.exchange.beach_papers import write_test_card
        from kelvor.ui.water.shown.cards import test_lines, test_words
        from kelvor.ui.water.shown.water import CAUTION

        riders = list(dict.fromkeys(run.rider for run in test.counted if run.rider)) or [self.session.brief.rider.name]
        names = self.session.service(Logbook).board_names()
        stamp = self._stamp_of(next((uid for uid, words in names.items() if words == test.value.board), ""))
        told, lines = test_words(test.value), test_lines(test.value, riders)
        self._sheets.ask(write_test_card, [(test.value.question, stamp.words, told, lines, CAUTION, path, True)])
        self.session.versions.handed_out("test card", stamp, self.session.current)

    def history(self, made: Made | None, chapters: list[HistoryChapter]) -> None:
        """Ask where the history of a board goes."""
        if made is None:
            self._not_done("Begin a board first, in Build, Boards made: a history belongs to a serial.")
            return
        self._ask("History", f"{made.value.serial} history.pdf", partial(self.write_history, made, chapters))

    def write_history(self, made: Made, chapters: list[HistoryChapter], path: Path) -> None:
        """Write the history of a board."""
        from kelvor.exchange.beach_papers import write_history

        stamp = self._stamp_of(made.record.uid)
        rows = [(chapter.title, chapter.origin, chapter.rows) for chapter in chapters]
        self._sheets.ask(write_history, [(f"{made.value.serial}: history", stamp.words, rows, path, True)])
        self.session.versions.handed_out("history", stamp, made.record.step or self.session.current)

    def _stamp_of(self, uid: str) -> Stamp:
        """The stamp of a made board's own version; of the version on the bench for one that is not kept."""
        from kelvor.core.register.stamp import code_of

        session = self.session
        made = next((m for m in session.service(Making).all_boards() if m.record.uid == uid), None)
        if made is None or not made.record.step:
            return session.versions.stamp()
        ids = session.workshop.saving.ids
        step, board_id = ids(made.record.step), ids(made.record.board or 0)
        board = session.board_at(step)
        number = next((s.number for s in session.workshop.store.steps(board_id).values() if s.id == step), 0)
        day = datetime.now().astimezone().date().isoformat()
        return Stamp(design=board.name, code=code_of(board), version=number, serial=made.value.serial, day=day)
