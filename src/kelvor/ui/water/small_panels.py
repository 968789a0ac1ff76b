"""Small windows of the Water view: words, readings, striking out, columns of a file, a test's plan."""

from __future__ import annotations

import json
from collections.abc import Callable
from datetime import UTC, datetime
from hashlib import sha256
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import get_args

from PySide6.QtWidgets import QComboBox, QFileDialog, QLabel, QLineEdit, QPlainTextEdit, QPushButton, QWidget

from kelvor.core.base.errors import InputError
from kelvor.core.base.limits import limit_of, text_of, typed_name, within
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import ColumnMeanings, Measured, OnTheWater, Read, SpeedUnit, Trial
from kelvor.core.register.record import LONGEST_PHOTO, Record, record_name
from kelvor.core.water.sessions.log import Logged
from kelvor.core.water.trials.planning import MOST_PAIRS, balanced, run_order
from kelvor.core.water.trials.trial_records import Test
from kelvor.devices.gps_logger import test_plan
from kelvor.exchange.tracks import ColumnsUnknown
from kelvor.files import read_bytes
from kelvor.ui.background.processes import Device
from kelvor.ui.controls.panel_dialog import Panel
from kelvor.ui.controls.photos import read_photo
from kelvor.ui.session.session import Session
from kelvor.ui.water.logbook import Logbook
from kelvor.ui.water.shown.trials import trial_plan_words
from kelvor.ui.water.shown.water import READ_AS
from kelvor.ui.water.trials import Trials


def number(words: str, what: str, accepts: str) -> float:
    """A number as somebody typed it; raises InputError."""
    try:
        return float(words.replace(",", ".").strip())
    except ValueError:
        raise InputError(f"“{words.strip()}” is no number", where=what, accepts=accepts) from None


SOUNDS = (".ogg", ".oga", ".opus", ".m4a", ".mp3", ".wav")
_SIGNS = (b"OggS", b"RIFF", b"ID3", b"\xff\xfb", b"\xff\xf3", b"\xff\xf2")
"""How files of sound begin; those of m4a say so four bytes later."""


def read_sound(path: Path) -> bytes:
    """A voice note, as it came; raises InputError when it is none or too large."""
    data = read_bytes(path, LONGEST_PHOTO, "voice notes")
    if not data.startswith(_SIGNS) and data[4:8] != b"ftyp":
        raise InputError("it is no sound", where=path.name, accepts="OGG, Opus, M4A, MP3 or WAV")
    return data


class WordsPanel(Panel):
    """What somebody said in a session, verbatim."""

    guide = "water#sessions"

    def __init__(self, parent: QWidget, session: Session, one: Logged) -> None:
        super().__init__(parent, f"Said on {one.value.day}", "Keep the words")
        self.session, self.one = session, one
        self.words = QPlainTextEdit()
        self.words.setAccessibleName("Words")
        self.words.setTabChangesFocus(True)
        self.words.setMinimumSize(420, 110)
        self.form.addRow("Words", self.words)
        setup = one.setup
        self.who = self.field("Who", setup.rider if setup is not None else "")
        self.rides = self.field("How they ride", setup.rides if setup is not None else "")
        self.file: tuple[str, bytes] | None = None
        self.take = QPushButton("Photo of a card, or a voice note…")
        self.take.setAutoDefault(False)
        self.take.clicked.connect(self._ask_file)
        self.form.addRow("", self.take)
        self.words.setFocus()

    def act(self) -> bool:
        """Keep them."""
        words = self.words.toPlainText()
        if not words.strip() and self.file is None:
            raise InputError("there are no words", where="Words", accepts="Type what was said, or take a file along")
        self.session.service(Logbook).say(self.one, words, self.who.text(), self.rides.text(), self.file)
        return True

    def _ask_file(self) -> None:
        kinds = " ".join(f"*{ending}" for ending in (".jpg", ".jpeg", ".png", ".webp", *SOUNDS))
        dialog = QFileDialog(self, "A photo of a card, or a voice note", "", f"Photos and sound ({kinds})")
        dialog.fileSelected.connect(lambda path: self.take_file(Path(path)))
        dialog.open()

    def take_file(self, path: Path) -> bool:
        """Take a file along; what is none of these, or too large, is refused by name."""
        try:
            self.file = path.name, read_photo(path) if path.suffix.lower() not in SOUNDS else read_sound(path)
        except InputError as error:
            self.problem.setText(str(error))
            return False
        self.take.setText(path.name)
        return True


class ReadingPanel(Panel):
    """A figure read on the water, beside what is computed for the board on the bench."""

    guide = "water#sessions"

    def __init__(
        self, parent: QWidget, session: Session, one: Logged, computed: Callable[[Logged, Read], tuple[float, str]]
    ) -> None:
        super().__init__(parent, f"Read on {one.value.day}", "Keep the reading")
        self.session, self.one, self.computed = session, one, computed
        self.explain("Least wind that lifted off or planed, a speed kept up, or the watts of a pace.")
        self.what = QComboBox()
        self.what.setAccessibleName("What")
        for key, words in READ_AS.items():
            self.what.addItem(words, key)
        self.form.addRow("What", self.what)
        self.value = self.field("Reading, kn or W", "")
        self.wind = self.field("Mean wind, kn", f"{one.value.wind_low / KNOT:.0f}" if one.value.wind_low else "")
        self.speed = self.field("At a speed of, kn", "")
        self.beside = self.field("Computed, kn or W", "")
        self.beside.setMinimumWidth(300)
        self.what.currentIndexChanged.connect(lambda _: self._propose())
        self._propose()
        self.value.setFocus()

    def _propose(self) -> None:
        what: Read = self.what.currentData()
        found, why = self.computed(self.one, what)
        self.beside.setPlaceholderText(why)
        self.beside.setToolTip(why)
        self.beside.setText("" if found <= 0 else f"{found:.0f}" if what == "watts" else f"{found / KNOT:.1f}")
        self.speed.setEnabled(what == "watts")

    def act(self) -> bool:
        """Keep it."""
        what: Read = self.what.currentData()
        size = 1.0 if what == "watts" else KNOT
        value = number(self.value.text(), "Reading", "Type it like 14.5") * size
        optional = [field.text().strip() for field in (self.wind, self.speed, self.beside)]
        wind, speed, beside = (number(words, "Reading", "Type it like 14.5") if words else 0.0 for words in optional)
        reading = OnTheWater(
            setup="-",
            what=what,
            value=within(limit_of(OnTheWater, "value"), value, "Reading"),
            wind=within(limit_of(OnTheWater, "wind"), wind * KNOT, "Wind"),
            speed=within(limit_of(OnTheWater, "speed"), speed * KNOT, "Speed"),
            computed=within(limit_of(OnTheWater, "computed"), beside * size, "Computed"),
        )
        if reading.value <= 0:
            raise InputError("it is nothing", where="Reading", accepts="Type it like 14.5")
        self.session.service(Logbook).read_on_water(self.one, reading)
        return True


class StrikePanel(Panel):
    """Why something does not count."""

    guide = "water#sessions"

    def __init__(self, parent: QWidget, record: Record, strike: Callable[[Record, str], None]) -> None:
        super().__init__(parent, "Strike out", "Strike out")
        self.record, self._strike = record, strike
        self.explain(f"{record_name(record)}: it stays readable, and counts nowhere.")
        self.why = self.field("Why", "")
        self.why.setMinimumWidth(340)
        self.why.setFocus()

    def act(self) -> bool:
        """Strike it."""
        if not self.why.text().strip():
            raise InputError("no reason is given", where="Why", accepts="Type why it does not count")
        self._strike(self.record, self.why.text())
        return True


class ColumnsPanel(Panel):
    """What the columns of a CSV file mean: asked once, remembered for every file with the same heads."""

    guide = "water#sessions"

    def __init__(self, parent: QWidget, asked: ColumnsUnknown, told: Callable[[ColumnMeanings], None]) -> None:
        super().__init__(parent, f"Columns of {asked.name}", "Read it")
        self._asked, self._told = asked, told
        self.explain("Which column is which? It is remembered for files with the same heads.")
        self.boxes: dict[str, QComboBox] = {}
        for key in ("time", "latitude", "longitude", "speed"):
            box = QComboBox()
            box.setAccessibleName(key.capitalize())
            if key == "speed":
                box.addItem("none", "")
            for head, cell in zip(asked.heads, asked.row, strict=False):
                box.addItem(f"{head}: {cell}", head)
            guess = next((i for i in range(box.count()) if key[:3] in str(box.itemData(i)).lower()), 0)
            box.setCurrentIndex(guess)
            self.boxes[key] = box
            self.form.addRow(key.capitalize(), box)
        self.unit = QComboBox()
        self.unit.setAccessibleName("Unit of speed")
        for unit in get_args(SpeedUnit):
            self.unit.addItem(unit, unit)
        self.form.addRow("Unit of speed", self.unit)

    def act(self) -> bool:
        """Read the file so."""
        meant = {key: str(box.currentData()) for key, box in self.boxes.items()}
        if len({meant[key] for key in ("time", "latitude", "longitude")}) < 3:
            raise InputError(
                "one column stands for two", where="Columns", accepts="Time, latitude and longitude differ"
            )
        self._told(ColumnMeanings(heads=self._asked.heads, unit=self.unit.currentData(), **meant))
        return True


MEASURES: dict[Measured, str] = {
    "mean speed": "Mean speed of a run", "best 500 m": "Best 500 m of a run", "best 10 s": "Best 10 s of a run",
    "upwind": "Made good upwind", "downwind": "Made good downwind",
}  # fmt: skip


class PlanPanel(Panel):
    """A test planned from what one will sail: it says what so many pairs can show."""

    guide = "water#tests"

    def __init__(self, parent: QWidget, session: Session, trials: Trials, begun: Callable[[str], None]) -> None:
        super().__init__(parent, "Plan a test", "Begin the test")
        self.session, self.trials, self._begun = session, trials, begun
        self.explain("One question, one difference. What do you have time for? It says what that can show.")
        self.question = self.field("Question", "")
        self.question.setMinimumWidth(420)
        self.board = self.field("Board", session.service(Logbook).proposed().board)
        self.differs = self.field("What differs", "the fin")
        self.a, self.b = self.field("A", ""), self.field("B", "")
        self.measure = QComboBox()
        self.measure.setAccessibleName("Compared")
        for key, words in MEASURES.items():
            self.measure.addItem(words, key)
        self.form.addRow("Compared", self.measure)
        self.pairs, self.minutes = self.field("Pairs", "4"), self.field("Minutes a run", "6")
        self.margin = self.field("Least that matters, kn", "0.2")
        self.current = self.field("Current along, kn", "")
        self.current.setPlaceholderText("out and back needs none")
        self.more = self.field("What else differs", "")
        self.more.setPlaceholderText("nothing")
        self.says = QLabel()
        self.says.setWordWrap(True)
        self.says.setMinimumHeight(52)
        self.form.addRow("Can show", self.says)
        for field in (self.pairs, self.minutes, self.margin):
            field.textChanged.connect(lambda _: self._told())
        self.measure.currentIndexChanged.connect(lambda _: self._told())
        self._told()
        self.question.setFocus()

    def _numbers(self) -> tuple[int, float, float]:
        pairs = number(self.pairs.text(), "Pairs", "A whole number such as 4")
        minutes = number(self.minutes.text(), "Minutes a run", "Such as 6")
        margin = number(self.margin.text(), "Least that matters", "Such as 0.2") * KNOT
        if pairs != int(pairs) or not 2 <= pairs <= MOST_PAIRS:
            raise InputError(f"{pairs:g} pairs", where="Pairs", accepts=f"2 to {MOST_PAIRS}, whole ones")
        return int(pairs), minutes, within(limit_of(Trial, "margin"), margin, "Least that matters")

    def _told(self) -> None:
        try:
            pairs, minutes, margin = self._numbers()
        except InputError as error:
            self.says.setText(str(error))
            return
        scatter, known = self.trials.scatter(self.measure.currentData())
        self.says.setText(trial_plan_words(pairs, minutes, scatter, margin, known))

    def _current(self) -> float | None:
        typed = self.current.text().strip()
        if not typed:
            return None
        current = number(typed, "Current", "Such as 0.5, or nothing") * KNOT
        return within(limit_of(Trial, "current"), current, "Current along")

    def act(self) -> bool:
        """Begin it."""
        pairs, _, margin = self._numbers()
        trial = Trial(
            question=typed_name(self.question.text(), "The question", text_of(Trial, "question")),
            differs=typed_name(self.differs.text(), "What differs", text_of(Trial, "differs")),
            a=typed_name(self.a.text(), "A"),
            b=typed_name(self.b.text(), "B"),
            measure=self.measure.currentData(),
            margin=margin,
            order=balanced(pairs),
            current=self._current(),
            more=self.more.text().strip(),
            board=typed_name(self.board.text(), "The board"),
        )
        self._begun(self.trials.begin(trial))
        return True


class LoggerPanel(Panel):
    """The simulated logger sails what is left of a test at a stated truth, so that one sees what a test can tell."""

    guide = "water#sessions"

    def __init__(
        self, parent: QWidget, session: Session, test: Test, sailed: Callable[[Test, bytes, str], None]
    ) -> None:
        super().__init__(parent, "Simulated logger", "Sail it")
        self.session, self.test, self._sailed = session, test, sailed
        self.explain(
            "You state the truth; the logger sails it out and back with its noise. What it says stays simulated."
        )
        self.fast_a, self.fast_b = self.field(f"{test.value.a}, kn", "18.0"), self.field(f"{test.value.b}, kn", "18.0")
        self.current = self.field("Current along, kn", "0.5")
        self.scatter = self.field("Runs scatter by, kn", "0.2")
        self.device = Device(self)
        self.device.stopped.connect(self._kept)
        self._folder = TemporaryDirectory(prefix="kelvor-logger-")
        self._file = Path(self._folder.name) / "logger.fit"

    def act(self) -> bool:
        """Run the stand-in, as a process of its own."""
        fields = (self.fast_a, self.fast_b, self.current, self.scatter)
        a, b, current, scatter = (number(field.text(), "Logger", "Knots, such as 18") * KNOT for field in fields)
        if not (0.5 < a < 30 and 0.5 < b < 30 and abs(current) < 3 and 0 <= scatter < 5):
            raise InputError("nobody sails so", where="Logger", accepts="1 to 58 kn, a current below 6 kn")
        left = run_order(self.test.value.order)[len(self.test.counted) :]
        if not left:
            raise InputError("all runs of the plan are sailed", where="Logger", accepts="Plan another test")
        seed = int(sha256(self.test.record.uid.encode()).hexdigest()[:6], 16) + len(self.test.counted)
        begun = datetime.now(UTC).replace(microsecond=0).isoformat()
        plan = test_plan("".join(left), (a, b), current, scatter, begun, seed)
        self.do.setEnabled(False)
        self.device.start("kelvor.devices.gps_logger", str(self._file), given=json.dumps(plan))
        return False

    def _kept(self) -> None:
        """It has written its file, or says nothing."""
        self.do.setEnabled(True)
        if not self._file.exists():
            self.problem.setText("The logger kept nothing: try once more.")
            return
        data = self._file.read_bytes()
        self._folder.cleanup()
        self._sailed(self.test, data, f"logger-{self.test.record.uid[:6]}-{len(self.test.counted)}.fit")
        self.close()


def line(words: str, width: int = 0) -> QLineEdit:
    """A line to type, named by what stands in it while it is empty."""
    field = QLineEdit()
    field.setAccessibleName(words)
    field.setPlaceholderText(words)
    if width:
        field.setFixedWidth(width)
    return field
