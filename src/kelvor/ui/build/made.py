"""Boards that were begun of the design on the bench: weighed, worked on, moved; everything can be taken back."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import TYPE_CHECKING

from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import Origin
from kelvor.core.base.limits import NAME
from kelvor.core.base.units import inside
from kelvor.core.build.mass.stages import Stage, WeighIn
from kelvor.core.evaluation.live import Live
from kelvor.core.made.made_boards import KINDS, Made, checked_serial, made_boards, next_serial
from kelvor.core.register.record import Record, RecordKind, Whereabouts
from kelvor.core.register.stamp import Stamp, code_of
from kelvor.ui.build.orders import Orders
from kelvor.ui.session.shown_boards import Shown

if TYPE_CHECKING:
    from kelvor.core.base.mill import Mill
    from kelvor.core.build.materials.work import Activity
    from kelvor.core.made.as_built import AsBuilt
    from kelvor.core.made.proof import Needed
    from kelvor.core.made.sheet import MeasureLine
    from kelvor.core.register.kinds.shop import MadeBoard, MassReading, Proof, Worked
    from kelvor.ui.session.session import Session
    from kelvor.ui.workshop.registers import Registers

LONGEST_NAME = NAME.longest


class Making:
    """The made boards of one design, and the one under the lamp."""

    def __init__(self, session: Session) -> None:
        self._session = session
        self.orders: Orders = Orders(session, self.all_boards)
        self._chosen = ""
        self._live: tuple[object, Live] | None = None
        self._all: tuple[object, tuple[Made, ...]] | None = None

    @property
    def _registers(self) -> Registers:
        return self._session.workshop.registers

    def all_boards(self) -> tuple[Made, ...]:
        """Every made board of the workshop, the first one first."""
        here = self._registers, self._registers.turn
        if self._all is None or self._all[0] != here:
            self._all = here, made_boards(self._registers.of(*KINDS))
        return self._all[1]

    def boards(self, board: int | None = None) -> tuple[Made, ...]:
        """Those of a design, the one on the bench unless another is named."""
        ids = self._session.workshop.saving.ids
        wanted = ids(self._session.board_id if board is None else board)
        return tuple(made for made in self.all_boards() if ids(made.record.board or 0) == wanted)

    def chosen(self) -> Made | None:
        """The one under the lamp: the one that was chosen, else the last that was begun."""
        boards = self.boards()
        return next((made for made in boards if made.record.uid == self._chosen), boards[-1] if boards else None)

    def choose(self, uid: str) -> None:
        """Put one under the lamp."""
        self._chosen = uid

    def version(self, made: Made) -> int:
        """The number of the version a board is made of; 0 where that is not known."""
        step = self._session.workshop.saving.ids(made.record.step or 0)
        return self._session.steps[step].number if step in self._session.steps else 0

    def live(self) -> Live:
        """What is computed of the version the chosen board is made of; of the board on the bench without one.

        Raises
        ------
        InputError
            When that version cannot be read or drawn.
        """
        session, made = self._session, self.chosen()
        step = session.workshop.saving.ids(made.record.step or 0) if made is not None else session.current
        if step == session.current or step not in session.steps:
            return session.live
        board = session.board_at(step)
        key = (board, session.brief, session.table, session.coefficients)
        if self._live is None or self._live[0] != key:
            self._live = (key, session.drawn(board, session.brief))
        return self._live[1]

    def serial(self) -> str:
        """The serial of the chosen board, where it is made of the version on the bench."""
        session, made = self._session, self.chosen()
        ids = session.workshop.saving.ids
        return made.value.serial if made is not None and ids(made.record.step or 0) == session.current else ""

    def stamp(self) -> Stamp:
        """The stamp of the chosen board's own version; of the version on the bench without one."""
        made = self.chosen()
        if made is None:
            return self._session.versions.stamp()
        day, board = datetime.now().astimezone().date().isoformat(), self.live().board
        return Stamp(
            design=board.name, code=code_of(board), version=self.version(made), serial=made.value.serial, day=day
        )

    def suggested(self) -> str:
        """The serial that would come next."""
        return next_serial([made.value.serial for made in self.all_boards()], datetime.now().astimezone().year)

    # what is done

    def begin(self, serial: str, who: str) -> str:
        """Begin a board of the version on the bench; its identity. Weigh-ins from before there were serials go with the
        first one. Raises InputError for a serial that cannot be.
        """
        from kelvor.core.register.kinds.shop import MadeBoard

        session, workshop = self._session, self._session.workshop
        serial = checked_serial(serial, [made.value.serial for made in self.all_boards()])
        construction = session.board.construction
        day = datetime.now().astimezone().date().isoformat()
        value = MadeBoard(
            serial=serial, who=who.strip(), built=construction.name if construction is not None else "", begun=day
        )
        loose = workshop.tables.weighed if not self.boards() else ()
        with workshop.gestures.as_one(f"{serial} begun"):
            uid = self._keep("made board", value, f"{serial} begun")
            for weighed in loose:
                self._weighed(uid, serial, weighed)
                workshop.tables.weigh(session.board_id, session.current, WeighIn(weighed.stage, 0.0))
        self._chosen = uid
        session.steps_changed.emit()
        return uid

    def weigh(self, weighed: WeighIn) -> None:
        """Write what a scale said of the chosen board."""
        made = self._here()
        self._weighed(made.record.uid, made.value.serial, weighed)

    def work(self, stage: Stage, hours: float, words: str, who: str, photo: bytes | None = None) -> None:
        """Write what was done on the chosen board."""
        from hashlib import sha256

        from kelvor.core.register.kinds.shop import Worked

        made = self._here()
        value = Worked(
            made=made.record.uid,
            stage=stage,
            hours=hours,
            words=words.strip(),
            who=who.strip(),
            photo=sha256(photo).hexdigest() if photo else "",
        )
        self._keep("worked", value, f"{made.value.serial}, {stage}", blob=photo)

    def read(self, measure: MeasureLine, side: str, value: float, origin: Origin = "measured") -> None:
        """Write what was read off the chosen board; reading it again writes it anew, and what was read before stays."""
        from kelvor.core.register.kinds.shop import Read

        made = self._here()
        uid = f"{made.record.uid}-{measure.key}-{side}".rstrip("-")
        read = Read(made=made.record.uid, measure=measure.key, side=side, value=value)
        words = f"{made.value.serial}, {inside(measure.named(self._session.system))}"
        self._registers.keep(
            "read", read, words, uid=uid, origin=origin, board=made.record.board, step=made.record.step
        )

    def as_built(self) -> tuple[AsBuilt, Live]:
        """The chosen board as it was measured, and what is computed of it; raises InputError where too little was read
        or what was read closes no board.
        """
        from kelvor.core.made.as_built import as_built  # not needed before the first window

        made = self._here()
        readings = {
            key: {side: float(entry.value.value) for side, entry in sides.items() if entry.origin != "simulated"}
            for key, sides in made.readings.items()
        }
        found = as_built(self.live().geometry, readings)
        board = replace(found.board, name=f"{found.board.name} {made.value.serial}"[:LONGEST_NAME])
        return replace(found, board=board), self._session.drawn(board, self._session.brief)

    def lay_as_built_behind(self) -> str:
        """Lay the chosen board, as it was measured, behind the one on the bench; its name."""
        _, live = self.as_built()
        behind, name = self._session.overlays, f"{self._here().value.serial} as measured"
        behind.show_beside([*(other for other in behind.beside if other.name != name), Shown(live, name)])
        return name

    def keep_as_built(self) -> None:
        """Add the chosen board, as it was measured, to the workshop as a board of its own, and open it."""
        made = self._here()
        found, live = self.as_built()
        title = f"{made.value.serial} as measured at {max(found.used.values())} stations"
        self._session.file.add_board(live.board, self._session.brief, title, made.record.step)

    def schedule(self) -> tuple[Activity, ...]:
        """The work on a board of the chosen one's version; raises InputError where its construction is not stated."""
        from kelvor.core.build.costing import board_work

        live = self.live()
        construction = live.board.construction
        if construction is None:
            raise InputError("no construction is stated", where=live.board.name, accepts="Choose one in Build first")
        return board_work(live.geometry, construction, self._session.table)

    def hours_since(self) -> dict[str, float]:
        """Hours since each part of the work on the chosen board was done."""
        made, at = self.chosen(), datetime.now(UTC)
        done = made.done if made is not None else {}
        return {key: (at - datetime.fromisoformat(e.value.at)).total_seconds() / 3600 for key, e in done.items()}

    def tick(self, activity: Activity, celsius: float, humidity: float, batch: str) -> None:
        """Part of the work is done now."""
        from kelvor.core.register.kinds.shop import Done

        made = self._here()
        at = datetime.now(UTC).isoformat(timespec="seconds")
        value = Done(
            made=made.record.uid, activity=activity.key, at=at, celsius=celsius, humidity=humidity, batch=batch.strip()
        )
        uid = f"{made.record.uid}-done-{activity.key}"
        words, board, step = f"{made.value.serial}: {activity.words.lower()} done", made.record.board, made.record.step
        self._registers.keep("done", value, words, uid=uid, board=board, step=step)

    def read_all(self, readings: list[tuple[MeasureLine, str, float]], origin: Origin, words: str) -> None:
        """Write a whole draw of a gauge, taken back as one; a stand-in never writes over what was measured."""
        before = self._here().readings
        with self._session.workshop.gestures.as_one(words):
            for measure, side, value in readings:
                there = before.get(measure.key, {}).get(side)
                if origin != "simulated" or there is None or there.origin == "simulated":
                    self.read(measure, side, value, origin)

    def tolerances(self) -> dict[str, float]:
        """What this workshop lets pass, by kind of measure, where it says so itself."""
        return {r.value.kind: r.value.most for r in self._registers.of("tolerance")}

    def let_pass(self, kind: str, most: float) -> None:
        """How far off a kind of measure may be from now on."""
        from kelvor.core.made.sheet import KINDS as MEASURED
        from kelvor.core.register.kinds.shop import Tolerance

        uid = next((r.uid for r in self._registers.of("tolerance") if r.value.kind == kind), "")
        words = f"tolerance of {MEASURED[kind].words.lower()}"
        self._registers.keep("tolerance", Tolerance(kind=kind, most=most), words, uid=uid)

    def prove(self, what: str, moment: float, held: bool, words: str, who: str) -> None:
        """Write a static proof load on the chosen board."""
        from kelvor.core.register.kinds.shop import Proof

        made = self._here()
        proof = Proof(
            made=made.record.uid, what=what.strip(), moment=moment, held=held, words=words.strip(), who=who.strip()
        )
        self._keep("proof", proof, f"{made.value.serial}, proof load")

    def proof_needed(self) -> Needed:
        """The moment a proof load must reach, on which part and why; why none is told, where foam would not bear it."""
        from kelvor.core.made.proof import needed

        return needed(self.live(), self._session.table, self._session.coefficients)

    def mill(self) -> Mill:
        """The mill of the workshop."""
        return self._registers.mill()

    def set_mill(self, mill: Mill) -> None:
        """The workshop's mill is so from now on."""
        uid = next((r.uid for r in self._registers.of("mill")), "")
        self._registers.keep("mill", mill, "the mill changed", uid=uid)

    def move(self, where: Whereabouts, whose: str) -> None:
        """Where the chosen board is, and with whom."""
        made = self._here()
        value = replace(made.value, where=where, whose=whose.strip())
        self._keep("made board", value, f"{value.serial}: {where}", record=made.record)

    def strike(self, entry: Record, why: str) -> None:
        """Strike out a reading or a line, with the reason; it stays readable."""
        self._registers.keep(
            entry.kind,
            replace(entry.value, struck=why.strip()),
            f"{entry.value.stage} struck out",
            uid=entry.uid,
            origin=entry.origin,
        )

    def _weighed(self, uid: str, serial: str, weighed: WeighIn) -> None:
        from kelvor.core.register.kinds.shop import MassReading

        value = MassReading(made=uid, stage=weighed.stage, mass=weighed.mass)
        self._keep("weighed", value, f"{serial} weighed, {weighed.stage}", origin=weighed.origin)

    def _keep(
        self,
        kind: RecordKind,
        value: MadeBoard | MassReading | Worked | Proof,
        words: str,
        *,
        origin: Origin = "claimed",
        record: Record | None = None,
        blob: bytes | None = None,
    ) -> str:
        session = self._session
        board, step, uid = session.board_id, session.current, ""
        if record is not None:
            uid = record.uid
        elif (made := self.chosen()) is not None and kind != "made board":
            step = made.record.step or step
        return self._registers.keep(kind, value, words, uid=uid, origin=origin, board=board, step=step, blob=blob)

    def _here(self) -> Made:
        made = self.chosen()
        assert made is not None  # the fields wait until one is begun
        return made
