"""Sizes of paper that templates are printed on."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

if TYPE_CHECKING:
    pass


Paper = Literal["a4", "a3", "letter"]
