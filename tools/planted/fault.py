"""A fault that is planted in a copy of the program."""

import ast
from typing import NamedTuple

SHARE = 0.85


class Fault(NamedTuple):
    """A fault: file below the program, function (Class.name for a method), what stands there and what is put for it.

    Without texts every value the function returns counts `SHARE` of itself.
    """

    file: str
    function: str
    text: str = ""
    instead: str = ""

    @property
    def name(self) -> str:
        """What it is called in the list."""
        what = f"{self.text} → {self.instead}" if self.text else f"× {SHARE}"
        return f"{self.file.removesuffix('.py')}:{self.function} {what}"


def scaled(file: str, functions: str) -> tuple[Fault, ...]:
    """Functions of a file, named in a line, that return `SHARE` of what they should."""
    return tuple(Fault(file, function) for function in functions.split())


def planted(source: str, fault: Fault) -> str:
    """A file's text with a fault in it; raises LookupError where its function or text is not there, or not once."""
    lines = source.splitlines(keepends=True)
    *within, name = fault.function.split(".")
    node: ast.AST = ast.parse(source)
    for part in (*within, name):
        found = [n for n in ast.iter_child_nodes(node) if isinstance(n, ast.FunctionDef | ast.ClassDef)]
        node = next((n for n in found if n.name == part), ast.Module([], []))
        if isinstance(node, ast.Module):
            raise LookupError(f"{fault.file} has no {fault.function}")
    assert isinstance(node, ast.FunctionDef)
    begin, end = sum(map(len, lines[: node.lineno - 1])), sum(map(len, lines[: node.end_lineno]))
    body = source[begin:end]
    if fault.text:
        if body.count(fault.text) != 1:
            raise LookupError(f"{fault.name}: the text stands there {body.count(fault.text)} times")
        return source[:begin] + body.replace(fault.text, fault.instead) + source[end:]
    edits = []
    for back in (n for n in ast.walk(node) if isinstance(n, ast.Return) and n.value is not None):
        value = ast.get_source_segment(source, back.value)
        start = sum(len(line.encode()) for line in lines[: back.value.lineno - 1]) + back.value.col_offset
        edits.append((start, value))
    if not edits:
        raise LookupError(f"{fault.name}: it returns nothing")
    text = source.encode()
    for start, value in sorted(edits, reverse=True):
        text = text[:start] + f"{SHARE} * ({value})".encode() + text[start + len(value.encode()) :]
    return text.decode()
