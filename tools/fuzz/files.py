"""Damaged files thrown at every reader: each is read as it stands, or refused in one line."""

import random
import shutil
import tempfile
from collections.abc import Sequence
from pathlib import Path

from kelvor.devices import rocker_gauge, scale
from tools.fuzz.damage import NASTY, mutated_binary
from tools.fuzz.outcome import Outcome, guarded
from tools.fuzz.readers import KINDS, Kind


def fuzz_files(count: int, seed: int, outcome: Outcome, keep: Path | None = None) -> None:
    """Throw `count` damaged files of all kinds in turn at their readers; those that show a fault are kept."""
    rng = random.Random(seed)
    whole: dict[str, Sequence[bytes]] = {}
    with tempfile.TemporaryDirectory() as folder:
        for number in range(count):
            at = number % (len(KINDS) + 1)
            if at == len(KINDS):
                _device_line(rng, outcome)
                continue
            kind = KINDS[at]
            data = kind.damaged(rng.choice(whole.setdefault(kind.name, kind.whole())), rng)
            path = Path(folder) / f"{number}.{kind.ending}"
            path.write_bytes(data)
            faults = len(outcome.faults)
            throw(kind, path, data, outcome)
            if len(outcome.faults) > faults and keep is not None:
                shutil.copy(path, keep / path.name)
            path.unlink()


def throw(kind: Kind, path: Path, data: bytes, outcome: Outcome) -> None:
    """One file at its reader."""
    found: list[object] = []
    if guarded(kind.name, path, lambda: found.append(kind.read(path)), outcome):
        wrong = kind.wrong(data, found[0])
        if wrong:
            outcome.faults.append(f"{kind.name} {path.name}: read as {wrong}")


def fuzz_large(size: int, seed: int, outcome: Outcome) -> None:
    """Files of about `size` bytes of every kind that becomes large: whole, damaged, cut, and of one line."""
    rng = random.Random(seed)
    with tempfile.TemporaryDirectory() as folder:
        for kind in (kind for kind in KINDS if kind.large is not None):
            whole = kind.large(size)
            read = outcome.read[kind.name]
            for data in (whole, mutated_binary(whole, rng), whole[: len(whole) * 2 // 3], b"0" * size):
                path = Path(folder) / f"large.{kind.ending}"
                path.write_bytes(data)
                throw(kind, path, data, outcome)
                path.unlink()
            if outcome.read[kind.name] == read:
                outcome.faults.append(f"{kind.name}: {len(whole) / 1e6:.0f} MB are refused")


def _device_line(rng: random.Random, outcome: Outcome) -> None:
    line = rng.choice(("K 125.0 3.42", "END", "ST 2.847 kg", "OL", "US 1.0 lb"))
    words = line.split()
    words[rng.randrange(len(words))] = rng.choice(NASTY)
    for parse, where in (
        (rocker_gauge.parse_rocker_line, Path("rocker gauge")),
        (scale.parse_scale_line, Path("scale")),
    ):
        guarded("line", where, lambda parse=parse: parse(" ".join(words)[:4096]), outcome)
