"""Sizes of paper that templates are printed on."""

from __future__ import annotations

from typing import Literal

Paper = Literal["a4", "a3", "letter"]
