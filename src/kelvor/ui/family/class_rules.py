"""Class rules as one window sees them: which there are, and under which one a board is designed."""

from __future__ import annotations

from typing import TYPE_CHECKING

from kelvor.core.family.class_rules import RuleStanding, check_rule, rule_standing
from kelvor.core.register.kinds.family import ClassRule, Entered
from kelvor.core.register.record import Record
from kelvor.ui.build.made import Making

if TYPE_CHECKING:
    from kelvor.ui.session.session import Session
    from kelvor.ui.workshop.registers import Registers


class ClassRules:
    """The class rules of a workshop. Everything can be taken back."""

    def __init__(self, session: Session) -> None:
        self._session = session

    @property
    def _registers(self) -> Registers:
        return self._session.workshop.registers

    def all(self) -> list[Record]:
        """Every rule, by name."""
        return self._registers.of("class rule")

    def keep(self, rule: ClassRule, uid: str = "") -> str:
        """Keep a new rule, or one written anew; its identity. Raises InputError where it is none."""
        check_rule(rule)
        return self._registers.keep("class rule", rule, f"class rule “{rule.name}”", uid=uid)

    def take_off(self, record: Record) -> None:
        """Take a rule off; boards under it are under none."""
        self._registers.take_off(record.uid, f"class rule “{record.value.name}” taken off")

    def _entry(self, board_id: int) -> Record | None:
        ids = self._session.workshop.saving.ids
        return next(
            (r for r in self._registers.of("entered") if r.board is not None and ids(r.board) == ids(board_id)), None
        )

    def under(self, board_id: int) -> Record | None:
        """The rule a board is designed under."""
        entry = self._entry(board_id)
        rule = self._registers.get(entry.value.rule) if entry is not None and entry.value.rule else None
        return rule if rule is not None and not rule.gone else None

    def enter(self, board_id: int, uid: str) -> None:
        """Design a board under a rule, or under none."""
        entry = self._entry(board_id)
        rule = self._registers.get(uid) if uid else None
        words = f"designed under “{rule.value.name}”" if rule is not None else "designed under no class rule"
        self._registers.keep("entered", Entered(rule=uid), words, uid=entry.uid if entry else "", board=board_id)

    def here(self) -> tuple[ClassRule, RuleStanding] | None:
        """The rule of the board on the bench, and how the board stands to it now; none where there is none."""
        session = self._session
        rule = self.under(session.board_id)
        if rule is None:
            return None
        return rule.value, rule_standing(
            rule.value, session.results.figures(), session.brief, session.service(Making).tolerances()
        )
