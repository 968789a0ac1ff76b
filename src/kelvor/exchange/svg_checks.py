"""What an SVG is, before its curves are drawn out: its root, its unit, and how much of it there is."""

from __future__ import annotations

import re
from xml.etree import ElementTree
from xml.parsers import expat

from kelvor.core.base.errors import InputError
from kelvor.core.base.plain_text import one_line

MOST_ELEMENTS = 20_000
"""Of a drawing, each copy that a `use` makes counted."""
DEEPEST = 60
LONGEST_TRANSFORM = 2000
LONGEST_PATHS = 4_000_000
"""Signs of all path data together."""
_ENDLESS = re.compile(r"\d{60}")
_NUMBER = re.compile(r"[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d{1,2})?")
_SIZE = re.compile(r"\s*([+]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d{1,2})?)\s*(mm|cm|in|pt|pc|Q)\s*")


def checked_svg(text: str, where: str) -> tuple[str, str]:
    """The drawing with its size said in full, and which unit it is in, in words.

    Raises
    ------
    InputError
        When it is no SVG, declares entities, or would grow beyond all measure.
    """
    root = _tree(text, where)
    if _name(root) != "svg":
        raise InputError(
            f"its root is “{one_line(_name(root), 40)}”, not svg", where=where, accepts="Save it as plain SVG"
        )
    by_id = {element.get("id", ""): element for element in root.iter()}
    if _weight(root, by_id, {}, 0, where) > MOST_ELEMENTS:
        raise InputError(
            f"the drawing has over {MOST_ELEMENTS} elements", where=where, accepts="Keep the outline alone"
        )
    if sum(len(element.get("d", "")) + len(element.get("points", "")) for element in root.iter()) > LONGEST_PATHS:
        raise InputError("its paths are too long", where=where, accepts="Keep the outline alone")
    if any(len(element.get("transform", "")) > LONGEST_TRANSFORM for element in root.iter()):
        raise InputError("an element of it is moved about without end", where=where, accepts="Save it as plain SVG")
    if any(_ENDLESS.search(value) for element in root.iter() for value in element.attrib.values()):
        raise InputError("a number in it has too many digits", where=where, accepts="Save it as plain SVG")
    return _sized(root, text, where)


def _sized(root: ElementTree.Element, text: str, where: str) -> tuple[str, str]:
    """A drawing that gives one of width and height gets the other, in the proportions of its view box; libraries ignore
    it else.
    """
    sizes = {key: match for key in ("width", "height") if (match := _SIZE.fullmatch(root.get(key, "")))}
    if not sizes:
        return text, "The drawing does not say its size: 96 units were taken for an inch"
    key, match = next(iter(sizes.items()))
    note = f"Read at the size the drawing says: {match[1]} {match[2]} {'wide' if key == 'width' else 'high'}"
    box = [float(part) for part in re.findall(r"[-+.eE0-9]+", root.get("viewBox", "")) if _NUMBER.fullmatch(part)]
    if len(sizes) == 2 or "viewBox" not in root.attrib:
        return text, note
    if len(box) != 4 or not (0 < box[2] < 1e9 and 0 < box[3] < 1e9):
        raise InputError("its view box cannot be", where=where, accepts="Give viewBox=“0 0 width height”")
    share = box[3] / box[2] if key == "width" else box[2] / box[3]
    root.set("height" if key == "width" else "width", f"{float(match[1]) * share:.9g}{match[2]}")
    return ElementTree.tostring(root, encoding="unicode"), note


def _tree(text: str, where: str) -> ElementTree.Element:
    parser = expat.ParserCreate()
    depth = count = 0

    def entity(*_: object) -> None:
        raise InputError("it declares entities of its own", where=where, accepts="Save it as plain SVG")

    def began(*_: object) -> None:
        nonlocal depth, count
        depth, count = depth + 1, count + 1
        if depth > DEEPEST:
            raise InputError(
                f"its elements are nested more than {DEEPEST} deep", where=where, accepts="Save it as plain SVG"
            )
        if count > MOST_ELEMENTS:
            raise InputError(
                f"the drawing has over {MOST_ELEMENTS} elements", where=where, accepts="Keep the outline alone"
            )

    def ended(*_: object) -> None:
        nonlocal depth
        depth -= 1

    parser.EntityDeclHandler, parser.StartElementHandler, parser.EndElementHandler = entity, began, ended
    try:
        data = text.encode("utf-8")
        parser.Parse(data, True)
        return ElementTree.fromstring(data)
    except (expat.ExpatError, ElementTree.ParseError, LookupError) as error:
        raise InputError(
            f"this is no SVG ({one_line(str(error), 80)})", where=where, accepts="Save it as plain SVG"
        ) from None
    except (UnicodeError, ValueError):
        raise InputError("this SVG is not in UTF-8", where=where, accepts="Save it as plain SVG in UTF-8") from None


def _name(element: ElementTree.Element) -> str:
    return str(element.tag).rsplit("}", 1)[-1]


def _weight(
    element: ElementTree.Element,
    by_id: dict[str, ElementTree.Element],
    known: dict[ElementTree.Element, int],
    depth: int,
    where: str,
) -> int:
    """Elements below one, with every copy that a `use` makes; refuses circles."""
    if element in known:
        if known[element] == 0:
            raise InputError("a part of it uses itself", where=where, accepts="Save it as plain SVG")
        return known[element]
    if depth > 4 * DEEPEST:
        raise InputError("its parts use one another too deep", where=where, accepts="Save it as plain SVG")
    known[element] = 0
    total = 1 + sum(_weight(child, by_id, known, depth + 1, where) for child in element)
    if _name(element) == "use":
        link = next((value for key, value in element.attrib.items() if key.rsplit("}", 1)[-1] == "href"), "")
        target = by_id.get(link.removeprefix("#"))
        total += _weight(target, by_id, known, depth + 1, where) if target is not None and link.startswith("#") else 0
    known[element] = min(total, 10 * MOST_ELEMENTS)
    return known[element]
