"""Throw damaged files at every reader, and damaged rows at every table: each is read as it stands, or refused in one
line.

    .venv/bin/python -m tools.fuzz [FILES] [WORKSHOPS] [SEED]

A fault is a traceback, a message of more than one line, a hang, what is read as
something else than it says, a workshop that is changed by being looked at, or
one whose rescue drops a row and names none.
"""
