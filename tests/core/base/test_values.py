"""Frozen values against the standard library's own dataclasses, feature by feature."""

import copy
import dataclasses
import pickle
import unittest
from dataclasses import FrozenInstanceError, dataclass, field
from typing import Annotated, ClassVar, Generic, TypeVar

from kelvor.core.base.values import frozen

T = TypeVar("T")


def _point(make):
    @make
    class Point:
        """A point."""

        x: float
        y: Annotated[float, "m"] = 0.0
        tags: list[str] = field(default_factory=list, compare=False)
        origin: ClassVar[str] = "tail"

        @property
        def both(self):
            return self.x + self.y

    return Point


def _named(make):
    @make
    class Named:
        """Given by name."""

        name: str
        seen: int = field(default=0, repr=False)
        made: int = field(init=False, default=7)

    return Named


@frozen
class Base:
    """A base, at module level so that it can be pickled."""

    a: int
    b: tuple[int, ...] = ()

    def __post_init__(self):
        object.__setattr__(self, "b", (*self.b, self.a))


@frozen
class Below(Base):
    """A value with more fields than its base."""

    c: str = "c"


@frozen(eq=False)
class Holder(Generic[T]):
    """One that is equal to itself alone."""

    item: T


OURS = _point(frozen), _named(frozen(kw_only=True))
THEIRS = _point(dataclass(frozen=True, slots=True)), _named(dataclass(frozen=True, slots=True, kw_only=True))


class Values(unittest.TestCase):
    def test_they_are_made_compared_told_and_replaced_as_the_librarys_are(self):
        for ours, theirs in zip(OURS, THEIRS, strict=True):
            given = {"x": 1.5, "y": 2.0} if "x" in ours.__match_args__ else {"name": "n"}
            a, b = ours(**given), theirs(**given)
            self.assertEqual(repr(a).split(".")[-1], repr(b).split(".")[-1])
            self.assertEqual(dataclasses.asdict(a), dataclasses.asdict(b))
            self.assertEqual([f.name for f in dataclasses.fields(a)], [f.name for f in dataclasses.fields(b)])
            self.assertEqual(hash(a), hash(b))
            self.assertEqual(a, ours(**given))
            self.assertNotEqual(a, b)
            key = next(iter(given))
            self.assertEqual(getattr(dataclasses.replace(a, **{key: 9}), key), 9)
            self.assertNotEqual(dataclasses.replace(a, **{key: 9}), a)
            self.assertEqual(ours.__match_args__, theirs.__match_args__)
            self.assertFalse(hasattr(a, "__dict__"))
            for value in (a, b):
                with self.assertRaises(FrozenInstanceError):
                    setattr(value, key, 3)
                with self.assertRaises(FrozenInstanceError):
                    delattr(value, key)
                with self.assertRaises((AttributeError, FrozenInstanceError, TypeError)):
                    value.other = 3
        with self.assertRaises(TypeError):
            OURS[1]("by place")
        with self.assertRaises(TypeError):
            OURS[0]()

    def test_a_list_of_its_own_is_made_each_time_and_left_out_of_comparing(self):
        point = OURS[0]
        a, b = point(1.0), point(1.0)
        a.tags.append("far")
        self.assertEqual((a, b.tags), (b, []))
        self.assertEqual((a.both, point.origin), (1.0, "tail"))

    def test_values_below_others_are_pickled_copied_and_finished_alike(self):
        value = Below(3, (1,), "d")
        self.assertEqual(value.b, (1, 3))
        self.assertEqual(pickle.loads(pickle.dumps(value)), value)
        self.assertEqual(copy.deepcopy(value), value)
        self.assertNotEqual(Base(3, (1,)), value)
        self.assertEqual([f.name for f in dataclasses.fields(value)], ["a", "b", "c"])
        match value:
            case Below(a, b, c):
                self.assertEqual((a, b, c), (3, (1, 3), "d"))

    def test_identity_alone_where_that_was_asked_for(self):
        one, two = Holder([1]), Holder([1])
        self.assertNotEqual(one, two)
        self.assertEqual(len({one, two}), 2)
