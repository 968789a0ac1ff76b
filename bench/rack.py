"""The rack of a large workshop: 500 designs, 20 000 steps, 2 000 words and decisions; beside SQLite's own full-text
search.
"""

import json
import random
import sqlite3
import tempfile
import time
from contextlib import closing
from dataclasses import replace
from pathlib import Path
from statistics import median

from kelvor.core.evaluation.live import evaluate_live
from kelvor.core.rack.cards import BOOK_VERSION, drawn, packed_card
from kelvor.core.rack.feel import FEEL
from kelvor.core.rack.search import Index
from kelvor.core.register.kinds.words import Decision, Said
from kelvor.demo.boards import demo_boards
from kelvor.workshop.rack import cards
from kelvor.workshop.rows import packed, written
from kelvor.workshop.store import Store

BOARDS, STEPS, SAID = 500, 20_000, 2_000
PLAIN = (
    "rail",
    "rocker",
    "flat",
    "tail",
    "nose",
    "chop",
    "bay",
    "harbour",
    "spring",
    "autumn",
    "sold",
    "sanded",
    "repaired",
)
QUERIES = (
    "s",
    "st",
    "stuck",
    "stuck to the water",
    "wing foil 33–46 L",
    "loose tail 60-80 cm",
    "catches in chop",
    "board 77",
    "zzz",
)


def large(path):
    """A workshop of that size, written row by row as the program would."""
    random.seed(5)
    Store.create(path).close()
    fleet = [(b, brief, packed(b), packed_card(drawn(evaluate_live(b, brief)))) for _, b, brief in demo_boards()]
    words = [word for group in FEEL for word in group] + list(PLAIN)

    def phrase():
        return " ".join(random.choices(words, k=6))

    with closing(sqlite3.connect(path)) as db:
        for i in range(1, BOARDS + 1):
            board, brief, blob, card = fleet[i % len(fleet)]
            at = f"2025-{i % 12 + 1:02d}-{i % 27 + 1:02d}T10:00:00.000+00:00"
            db.execute("INSERT INTO boards VALUES (?, ?, ?, NULL)", (i, f"{board.name} {i}", at))
            db.execute(
                "INSERT INTO briefs (board_id, made_at, data) VALUES (?, ?, ?)",
                (i, at, written(replace(brief, notes=phrase()))),
            )
            for n in range(STEPS // BOARDS):
                step = (i - 1) * (STEPS // BOARDS) + n + 1
                row = (step, i, step - 1 if n else None, n + 1, at, phrase(), blob)
                db.execute("INSERT INTO steps VALUES (?, ?, ?, ?, ?, ?, '', '[]', 0.04, ?)", row)
                if n % 2:
                    db.execute("INSERT INTO reasons (step_id, made_at, text) VALUES (?, ?, ?)", (step, at, phrase()))
            db.execute("INSERT INTO cards VALUES (?, ?, ?)", (step, BOOK_VERSION, card))
            db.execute("INSERT INTO left_at VALUES (?, ?, ?)", (i, step, at))
            db.execute("INSERT INTO pins VALUES (?, ?)", (i, step))
        for n in range(SAID):
            value = Said(words=phrase(), who="Ada") if n % 2 else Decision(verdict="dropped", why=phrase())
            kind = "said" if n % 2 else "decision"
            board = n % BOARDS + 1
            names = "uid, kind, made_at, origin, gone, board_id, step_id, data"
            db.execute(
                f"INSERT INTO records ({names}) VALUES (?, ?, ?, 'felt', 0, ?, ?, ?)",
                (f"r{n}", kind, at, board, board * (STEPS // BOARDS), written(value)),
            )
        db.commit()


def run(say, timed):
    """Opening, reading the rack, searching as typed, scrolling, a step."""
    from PySide6.QtWidgets import QApplication

    from kelvor.ui.settings import Settings
    from kelvor.ui.window.application import make_application, make_window

    app = QApplication.instance() or make_application()
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "large.kelvor"
        large(path)
        begin = time.perf_counter()
        window = make_window(Store.open(path), Settings(Path(folder) / "settings.json"))
        window.show()
        app.processEvents()
        print(
            f"workshop of {BOARDS} designs, {STEPS} steps opens          {(time.perf_counter() - begin) * 1000:8.0f} "
            f"ms   aim 1000"
        )
        store = window.session.workshop.store
        reading = timed(lambda _: cards(store), 5)
        all_cards = cards(store)
        index = timed(lambda _: Index(all_cards), 5)
        print(
            f"its rack is read                                      {reading:8.0f} ms, its words put in order "
            f"{index:.0f} ms"
        )
        own = Index(all_cards)
        ours = {query: timed(lambda _, query=query: own.find(query), 9) for query in QUERIES}
        worst = max(ours, key=ours.get)
        with closing(sqlite3.connect(":memory:")) as db:
            db.execute('CREATE VIRTUAL TABLE words USING fts5(text, board UNINDEXED, prefix="1 2 3")')
            db.executemany(
                "INSERT INTO words VALUES (?, ?)",
                [(said.text, card.board) for card in all_cards for said in card.words],
            )
            theirs = timed(
                lambda _: db.execute(
                    "SELECT board, rank FROM words WHERE words MATCH 'stuck' ORDER BY rank"
                ).fetchall(),
                9,
            )
        say("search as typed, “stuck”", ours["stuck"], "SQLite FTS5, the word alone, no feelings, no ranges", theirs)
        print(f"   median {median(ours.values()):.1f} ms, most {ours[worst]:.1f} ms (“{worst}”)   aim 50")
        window.resize(1280, 800)
        window.show_view("rack")
        app.processEvents()
        rack = window.views["rack"]
        bar = rack.view.verticalScrollBar()

        def scroll(i):
            bar.setValue(i * 90 % max(bar.maximum(), 1))
            rack.view.viewport().repaint()

        print(f"the rack scrolls by a row                             {timed(scroll, 30):8.1f} ms   aim 16.7")
        rack.query.setText("wing")
        print(
            f"a letter typed and shown                              "
            f"{timed(lambda i: rack.query.setText('wing'[: 1 + i % 4]), 12):8.1f} ms   aim 50"
        )
        window.show_view("shape")
        board, step = store.boards()[0].id, store.left_at(store.boards()[0].id)
        shape = store.board(step)
        card = packed_card(drawn(window.session.live))
        commits = timed(lambda _: store.append(board, step, shape, (), card=card), 9)
        print(f"a step commits                                        {commits:8.1f} ms   aim 30")
        print(f"   its card is {len(json.loads(card)['figures'])} figures, {len(card)} bytes")
        window.close()
        store.close()
