"""Damage done to whole files where it hurts: a field, a cell, a group code, an attribute, bytes."""

import copy
import json
import random
import re

NASTY = ("", "x", "nan", "inf", "-1", "0", "1e300", "-1e300", "1e-300", "9" * 400, "9" * 5000, "1_0", "true", "ä\u202f",
         "\ud800", "\0", "<", "&",
         "'", '"', ";", ",", "1,5", "1.234,5", "½", "-", "[", "{", "\n", "x" * 300, "0x10", "٣",
         "1" * 140_000)  # fmt: skip
VALUES = (None, True, False, -1, 0, 1, 0.5, 1e300, -1e300, 1e-300, 10**40, "", "x", "1_0", "NaN", [], {}, [1, 2],
          {"kind": "v"}, [[]], "x" * 300,
          "\u0000", "a\nb", {"datum": "tail", "offset": 1e9}, [None] * 1000)  # fmt: skip


def _places(data: object, at: tuple = ()):
    yield at
    for key, value in data.items() if isinstance(data, dict) else enumerate(data) if isinstance(data, list) else ():
        yield from _places(value, (*at, key))


def mutated_json(text: str, rng: random.Random) -> bytes:
    data = json.loads(text)
    for _ in range(rng.choice((1, 1, 1, 2, 5))):
        path = rng.choice([p for p in _places(data) if p] or [()])
        if not path:
            break
        at, value = data, copy.deepcopy(rng.choice(VALUES))
        for key in path[:-1]:
            at = at[key]
        match rng.randrange(5):
            case 0 if isinstance(at, dict):
                del at[path[-1]]
            case 1 if isinstance(at, list):
                at.extend(copy.deepcopy(at[: rng.choice((1, 50))]) * rng.choice((1, 400)))
            case 2 if isinstance(at, dict):
                at[rng.choice(("extra", "kind", "name", path[-1] + "s"))] = value
            case _:
                at[path[-1]] = value
    return mutated_bytes(json.dumps(data, ensure_ascii=rng.random() < 0.5).encode("utf-8", "surrogatepass"), rng, 0.15)


def mutated_bytes(data: bytes, rng: random.Random, share: float = 1.0) -> bytes:
    """Bytes cut, doubled, changed or put in, in a share of the cases."""
    if rng.random() > share or not data:
        return data
    at, count = rng.randrange(len(data)), rng.choice((1, 3, 40, 4000))
    match rng.randrange(4):
        case 0:
            return data[:at]
        case 1:
            return data[:at] + rng.randbytes(min(count, 400)) + data[at + count :]
        case 2:
            return data[:at] + data[max(0, at - count) : at] * rng.choice((1, 3)) + data[at:]
        case _:
            return data[:at] + rng.choice(NASTY).encode("utf-8", "surrogatepass") + data[at:]


def mutated_lines(text: str, rng: random.Random, marks: str) -> bytes:
    """Cells of a table, or lines of a drawing, changed."""
    lines = text.splitlines()
    for _ in range(rng.choice((1, 1, 2, 6))):
        i = rng.randrange(len(lines)) if rng.random() < 0.7 else rng.randrange(min(60, len(lines)))
        match rng.randrange(6):
            case 0:
                del lines[i]
                lines = lines or [""]
            case 1:
                lines[i:i] = [lines[i]] * rng.choice((1, 2, 3000))
            case 2:
                lines[i] = ""
            case 3:
                lines[i] = rng.choice(NASTY)
            case _:
                cells = lines[i].split(marks) if marks else [lines[i]]
                cells[rng.randrange(len(cells))] = rng.choice(
                    (*NASTY, "1", "99", "25", "1e22", "LINE", "ARC", "SPLINE", "INSERT")
                )
                lines[i] = (marks or "").join(cells)
    return mutated_bytes(rng.choice(("\n", "\r\n")).join(lines).encode("utf-8", "surrogatepass"), rng, 0.15)


def mutated_svg(text: str, rng: random.Random) -> bytes:
    head, parts = text.split("<", 1)[0], ["<" + part for part in text.split("<")[1:]]
    for _ in range(rng.choice((1, 1, 3))):
        i = rng.randrange(len(parts))
        match rng.randrange(7):
            case 0:
                parts[i:i] = [parts[i]] * rng.choice((1, 40))
            case 1:
                parts.pop(i)
                parts = parts or ["<svg/>"]
            case 2:
                parts[i:i] = ["<g transform='" + "scale(1.5)" * rng.choice((1, 40, 3000)) + "'>"] * rng.choice((1, 80))
            case 3:
                parts[i:i] = [
                    "<path d='M0 0 "
                    + rng.choice(("A 1 1 0 0 1 9 9 ", "L 1e300 1e300 ", "C nan 1 2 3 4 5 ", "h 1" + "0" * 40)) * 30
                    + "'/>"
                ]
            case 4:
                parts[i:i] = ["<g id='r'><use href='#r'/></g>", "<!DOCTYPE x [<!ENTITY e 'e'>]>"][rng.randrange(2) :]
            case _:
                words = parts[i].split('"')
                if len(words) > 1:
                    words[rng.randrange(len(words) // 2) * 2 + 1] = rng.choice(NASTY)
                parts[i] = '"'.join(words)
    return mutated_bytes((head + "".join(parts)).encode("utf-8", "surrogatepass"), rng, 0.15)


def mutated_xml(text: str, rng: random.Random) -> bytes:
    """Elements dropped, doubled or nested, attributes and words changed, comments and encodings put in."""
    parts = re.split(r"(<[^>]*>)", text)
    for _ in range(rng.choice((1, 1, 2, 6))):
        i = rng.randrange(len(parts))
        nasty = rng.choice((*NASTY, "-91", "181", "0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z", "2026-10-14", "now",
                            "2026-10-14T13:02:11+99:99"))  # fmt: skip
        match rng.randrange(7):
            case 0:
                parts[i] = ""
            case 1:
                parts[i : i + 4] = parts[i : i + 4] * rng.choice((2, 300))
            case 2:
                parts[i] += rng.choice(("<!-- x -->", "<?x y?>", "<Creator><!-- x --><Name/></Creator>", "<a>" * 400))
            case 3:
                parts[0] = f"<?xml version='1.0' encoding='{rng.choice(('utf-16', 'x-none', 'latin-1', ''))}'?>"
            case _:
                pieces = parts[i].split('"')
                if len(pieces) > 1:
                    pieces[rng.randrange(len(pieces) // 2) * 2 + 1] = nasty
                    parts[i] = '"'.join(pieces)
                elif parts[i].strip() and not parts[i].startswith("<"):
                    parts[i] = nasty
    return mutated_bytes("".join(parts).encode("utf-8", "surrogatepass"), rng, 0.15)


def mutated_binary(data: bytes, rng: random.Random, head: int = 400) -> bytes:
    """Bytes changed in the head of a file or anywhere, or the file cut."""
    found = bytearray(data)
    for _ in range(rng.choice((1, 1, 4, 40))):
        at = rng.randrange(min(head, len(found)) if rng.random() < 0.5 else len(found))
        found[at] = rng.choice((0, 0xFF, 0x7F, 0x80, rng.randrange(256)))
    return mutated_bytes(bytes(found), rng, 0.3)
