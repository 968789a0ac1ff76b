"""What several tests need and takes long: counted once a run by the process that asks first, read by the others."""

import hashlib
import os
import pickle
import tempfile
from contextlib import contextmanager
from pathlib import Path

from kelvor.core.tank.floating import stage

FOLDER = "KELVOR_TESTS_KEPT"
"""In the environment, where the processes of a run keep it."""


@contextmanager
def keeping():
    """A folder for one run."""
    with tempfile.TemporaryDirectory(prefix="kelvor-tests-") as folder:
        os.environ[FOLDER] = folder
        yield


def kept(make, *values, **named):
    """What `make` finds of these values, by their value; counted anew without a run."""
    folder = os.environ.get(FOLDER)
    if folder is None:
        return make(*values, **named)
    about = make.__module__, make.__qualname__, stage.FINE, values, sorted(named.items())  # window tests float coarsely
    name = hashlib.sha256(pickle.dumps(about)).hexdigest()
    path = Path(folder) / name
    try:
        return pickle.loads(path.read_bytes())
    except FileNotFoundError:
        found = make(*values, **named)
    with tempfile.NamedTemporaryFile(dir=folder, delete=False) as fresh:  # two threads may count the same at once
        fresh.write(pickle.dumps(found))
    Path(fresh.name).rename(path)  # whole or not at all
    return found
