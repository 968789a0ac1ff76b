"""The open workshop: saving, tables, registers, gestures, copies."""
