"""Drawings of a board in profile, in plan and in section."""

from __future__ import annotations

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.ride.model import RideModel, Running
from kelvor.core.ride.pictures import Form
from kelvor.core.shape.surface.geometry import Geometry


def turned(points: Array, pitch: float, about: tuple[float, float], to: tuple[float, float]) -> Array:
    """Points (n, 2) pitched nose up about a point which then lies at `to`."""
    c, s = np.cos(pitch), np.sin(pitch)
    moved = points - np.array(about)
    pitched: Array = moved @ np.array([[c, s], [-s, c]]) + np.array(to)
    return pitched


def profile(measured: Geometry) -> Array:
    """The board's profile in its base line's frame (n, 2)."""
    x = measured.shape.x
    keel, deck = measured.keel_line, measured.deck_line
    return np.concatenate([np.stack([x, keel], axis=1), np.stack([x, deck], axis=1)[::-1]])


def foil_lines(model: RideModel) -> tuple[Array, ...]:
    """Mast, fuselage and wings of the foil in the base line's frame."""
    board, foil = model.measured.board, model.brief.foil
    mast = board.mast_x
    if model.wing is None or mast is None:
        return ()
    top = model.measured.at(model.measured.keel_line, mast)
    foot = top - foil.mast_length
    front = mast + foil.lift_ahead + 0.05
    chord = model.wing.chord
    return (
        np.array([[mast - 0.05, top], [mast + 0.06, top], [mast + 0.05, foot], [mast - 0.04, foot]]),
        np.array(
            [
                [front, foot - 0.008],
                [front - foil.fuselage, foot - 0.008],
                [front - foil.fuselage, foot + 0.008],
                [front, foot + 0.008],
            ]
        ),
        np.array(
            [
                [front + chord * 0.3, foot],
                [front - chord * 0.2, foot + 0.018],
                [front - chord * 0.7, foot],
                [front - chord * 0.2, foot - 0.008],
            ]
        ),
        np.array(
            [
                [front - foil.fuselage + 0.05, foot],
                [front - foil.fuselage - 0.03, foot + 0.012],
                [front - foil.fuselage - 0.03, foot - 0.006],
            ]
        ),
    )


def in_profile(
    model: RideModel, pitch: float, about: tuple[float, float], to: tuple[float, float], *, foil: bool = True
) -> tuple[Form, ...]:
    """Board, and foil if there is one, pitched."""
    forms = [Form("board", turned(profile(model.measured), pitch, about, to), closed=True)]
    if foil:
        forms += [Form("foil", turned(p, pitch, about, to), closed=True) for p in foil_lines(model)]
    return tuple(forms)


def running_forms(model: RideModel, state: Running) -> tuple[Form, ...]:
    """The board as it runs: the keel meets the water at the end of its wetted length."""
    bottom = model.bottom
    at = min(bottom.aft + max(state.wetted, 0.02), model.measured.board.length)
    height = model.measured.at(model.measured.keel_line, at)
    return in_profile(model, model.base_trim(state), (at, height), (at, 0.0))


def plan_outline(measured: Geometry) -> Array:
    """The outline, both sides (n, 2): along, across."""
    shape = measured.shape
    port = np.stack([shape.x, shape.half_width], axis=1)
    return np.concatenate([port, (port * [1, -1])[::-1]])


def section(measured: Geometry, x: float) -> Array:
    """The section nearest to a place, both halves (n, 2): across, height above its keel."""
    i = int(np.argmin(np.abs(measured.shape.x - x)))
    half = np.stack([measured.shape.y[i], measured.shape.z[i] - measured.shape.keel[i]], axis=1)
    return np.concatenate([half, (half * [-1, 1])[::-1]])
