"""Migrations of the workshop file, numbered from 1, each a row of statements; each version has a kept sample file in
``tests/data``.
"""

from __future__ import annotations

MIGRATIONS: tuple[tuple[str, ...], ...] = (
    (
        "CREATE TABLE boards (id INTEGER PRIMARY KEY, name TEXT NOT NULL, created_at TEXT NOT NULL, parent_step "
        "INTEGER "
        "REFERENCES steps(id))",
        "CREATE TABLE briefs (id INTEGER PRIMARY KEY, board_id INTEGER NOT NULL REFERENCES boards(id), made_at TEXT "
        "NOT NULL, "
        "data TEXT NOT NULL)",
        "CREATE TABLE steps (id INTEGER PRIMARY KEY, board_id INTEGER NOT NULL REFERENCES boards(id), parent INTEGER "
        "REFERENCES "
        "steps(id), number INTEGER NOT NULL, made_at TEXT NOT NULL, title TEXT NOT NULL, gesture TEXT NOT NULL, "
        "changes TEXT "
        "NOT NULL, volume REAL NOT NULL, snapshot BLOB NOT NULL)",
        "CREATE TABLE reasons (id INTEGER PRIMARY KEY, step_id INTEGER NOT NULL REFERENCES steps(id), made_at TEXT NOT "
        "NULL, "
        "text TEXT NOT NULL)",
        "CREATE TABLE frozen (id INTEGER PRIMARY KEY, step_id INTEGER NOT NULL REFERENCES steps(id), made_at TEXT NOT "
        "NULL, "
        "kind TEXT NOT NULL, serial TEXT NOT NULL)",
        "CREATE TABLE pins (board_id INTEGER PRIMARY KEY REFERENCES boards(id), step_id INTEGER REFERENCES steps(id))",
        "CREATE TABLE left_at (board_id INTEGER PRIMARY KEY REFERENCES boards(id), step_id INTEGER NOT NULL REFERENCES "
        "steps(id), at TEXT NOT NULL)",
        "CREATE INDEX steps_by_board ON steps(board_id)",
        "CREATE INDEX briefs_by_board ON briefs(board_id)",
    ),
    (
        "CREATE TABLE constructions (id INTEGER PRIMARY KEY, made_at TEXT NOT NULL, name TEXT NOT NULL, data TEXT NOT "
        "NULL)",
        "CREATE TABLE materials (id INTEGER PRIMARY KEY, made_at TEXT NOT NULL, kind TEXT NOT NULL, data "
        "TEXT NOT NULL)",
        "CREATE TABLE weighings (id INTEGER PRIMARY KEY, board_id INTEGER NOT NULL REFERENCES boards(id), step_id "
        "INTEGER NOT "
        "NULL REFERENCES steps(id), made_at TEXT NOT NULL, stage TEXT NOT NULL, mass REAL NOT NULL, source TEXT NOT "
        "NULL)",
        "CREATE INDEX weighings_by_board ON weighings(board_id)",
    ),
    (
        "CREATE TABLE coefficients (id INTEGER PRIMARY KEY, made_at TEXT NOT NULL, name TEXT NOT NULL, value REAL NOT "
        "NULL)",
    ),
    (
        "ALTER TABLE weighings RENAME COLUMN source TO origin",
        "UPDATE weighings SET origin = CASE WHEN origin LIKE '%simulated%' THEN 'simulated' ELSE 'measured' END",
    ),
    (
        "CREATE TABLE records (id INTEGER PRIMARY KEY, uid TEXT NOT NULL, kind TEXT NOT NULL, made_at TEXT NOT NULL, "
        "origin "
        "TEXT NOT NULL, gone INTEGER NOT NULL, board_id INTEGER REFERENCES boards(id), step_id INTEGER REFERENCES "
        "steps(id), "
        "data TEXT NOT NULL)",
        "CREATE INDEX records_by_thing ON records(uid, id)",
        "CREATE INDEX records_by_kind ON records(kind)",
        "CREATE TABLE blob_parts (id INTEGER PRIMARY KEY, sha TEXT NOT NULL, part INTEGER NOT NULL, data "
        "BLOB NOT NULL)",
        "CREATE UNIQUE INDEX blob_parts_by_blob ON blob_parts(sha, part)",
        "CREATE TABLE cards (step_id INTEGER PRIMARY KEY REFERENCES steps(id), book INTEGER NOT NULL, data TEXT NOT "
        "NULL)",
        "CREATE TRIGGER records_stay BEFORE UPDATE ON records BEGIN SELECT RAISE(ABORT, 'records are only added'); END",
        "CREATE TRIGGER records_are_kept BEFORE DELETE ON records BEGIN SELECT RAISE(ABORT, 'records are only added'); "
        "END",
    ),
    (
        "CREATE TRIGGER steps_follow AFTER INSERT ON steps WHEN NEW.parent >= NEW.id BEGIN SELECT RAISE(ABORT, 'a step "
        "follows one before it'); END",
    ),
)
