"""What was decided, said and felt about boards, and boards from a notebook."""

from __future__ import annotations

from typing import Annotated, Literal

from kelvor.core.base.disciplines import Discipline
from kelvor.core.base.limits import NAME, Limit, Many, Text
from kelvor.core.base.units import Quantity
from kelvor.core.base.values import frozen
from kelvor.core.register.record import FILE_NAME, OF, SHA, Verdict


@frozen(kw_only=True)
class Decision:
    """What became of a step, why, and who decided."""

    verdict: Verdict = "kept"
    why: Annotated[str, Text(4000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""


@frozen(kw_only=True)
class Said:
    """Words about a board, verbatim, who said them and how they ride; in which session, where it was one. A photo of a
    card or a voice note counts as words: `file` is its SHA-256, `file_name` what it was called.
    """

    words: Annotated[str, Text(20_000, lines=True, least=1)]
    who: Annotated[str, Text(80)] = ""
    rides: Annotated[str, Text(400)] = ""
    session: Annotated[str, OF] = ""
    file: Annotated[str, SHA] = ""
    file_name: Annotated[str, Text(FILE_NAME)] = ""
    struck: Annotated[str, Text(400)] = ""


@frozen(kw_only=True)
class OldBoard:
    """A board from a notebook: a name, sizes as somebody wrote them down [m, m³], words, and a photo by its SHA-256."""

    name: Annotated[str, NAME] = "Old board"
    discipline: Discipline = "wing foil"
    length: Annotated[float, Limit(0, 7, Quantity.LENGTH)] = 0.0
    width: Annotated[float, Limit(0, 2, Quantity.LENGTH)] = 0.0
    volume: Annotated[float, Limit(0, 1, Quantity.VOLUME)] = 0.0
    made: Annotated[str, Text(40)] = ""
    words: Annotated[str, Text(20_000, lines=True)] = ""
    who: Annotated[str, Text(80)] = ""
    photo: Annotated[str, SHA] = ""


@frozen(kw_only=True)
class Feel:
    """Words that mean the same when riders of this workshop speak."""

    words: Annotated[tuple[Annotated[str, Text(40, least=1)], ...], Many(40)]


@frozen(kw_only=True)
class LeastFelt:
    """The least difference of a lever's reading that riders of this workshop feel, in SI."""

    name: Annotated[str, Text(120, least=1)]
    lever: Annotated[str, Text(200, least=1)]
    least: Annotated[float, Limit(1e-9, 1e6, unit="SI")]


NoteKind = Literal["rule", "patent", "name", "safety"]


@frozen(kw_only=True)
class Note:
    """A caution kept with a design: of a class rule, a patent, a name or safety, and which feature it is about. Never
    legal advice.
    """

    kind: NoteKind = "safety"
    about: Annotated[str, Text(200)] = ""
    words: Annotated[str, Text(4000, lines=True, least=1)]
    source: Annotated[str, Text(400)] = ""
