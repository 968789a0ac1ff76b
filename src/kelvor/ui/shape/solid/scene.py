"""The board as a VTK scene, drawn off screen into an array of pixels; it knows no widget."""

from __future__ import annotations

import os
from typing import Any

import numpy as np
from numpy.typing import NDArray

os.environ.setdefault("VTK_DEFAULT_OPENGL_WINDOW", "vtkEGLRenderWindow")  # no window system is needed, nor asked

import vtkmodules.vtkRenderingOpenGL2
from vtkmodules.util import numpy_support
from vtkmodules.vtkCommonCore import vtkPoints, vtkUnsignedCharArray
from vtkmodules.vtkCommonDataModel import vtkCellArray, vtkImageData, vtkPolyData
from vtkmodules.vtkFiltersCore import vtkPolyDataNormals
from vtkmodules.vtkRenderingCore import (
    vtkActor,
    vtkLight,
    vtkPolyDataMapper,
    vtkRenderer,
    vtkRenderWindow,
    vtkTexture,
)

assert vtkmodules.vtkRenderingOpenGL2  # the driver registers itself when imported

_support: Any = numpy_support
numpy_to_vtk, vtk_to_numpy = _support.numpy_to_vtk, _support.vtk_to_numpy

Array = NDArray[np.float64]
Colour = tuple[float, float, float]
CREASE = 38.0
"""Edges sharper than this are drawn sharp [°]."""
MARGIN = 1.12
"""Room left around the board."""
STRIPES = 56
"""Lamps that a full turn of the surface away from the eye runs through."""
LEAST_SEEN = 0.05
"""Keeps lamps steady where the surface reflects along them."""
REFLECTIONS = ("off", "lamps along", "lamps across")
"""Reflection lines: none, of lamps along the board (sections and outline), of lamps across it (rocker and deck)."""


def surface(vertices: Array, triangles: NDArray[np.int64]) -> vtkPolyData:
    """Triangles as VTK data."""
    data = vtkPolyData()
    points = vtkPoints()
    points.SetData(numpy_to_vtk(np.ascontiguousarray(vertices, np.float32), deep=True))
    data.SetPoints(points)
    cells = vtkCellArray()
    count = len(triangles)
    flat = np.concatenate([np.full((count, 1), 3), triangles], axis=1).astype(np.int64).ravel()
    cells.SetCells(count, _support.numpy_to_vtkIdTypeArray(flat, deep=True))
    data.SetPolys(cells)
    return data


def lines(strands: list[Array]) -> vtkPolyData:
    """Polylines as VTK data."""
    data = vtkPolyData()
    points = vtkPoints()
    joined = np.concatenate(strands) if strands else np.zeros((0, 3))
    points.SetData(numpy_to_vtk(np.ascontiguousarray(joined, np.float32), deep=True))
    data.SetPoints(points)
    cells, first = vtkCellArray(), 0
    for strand in strands:
        cells.InsertNextCell(len(strand))
        for i in range(len(strand)):
            cells.InsertCellPoint(first + i)
        first += len(strand)
    data.SetLines(cells)
    return data


class SolidScene:
    """One board with its fittings, water and section plane."""

    def __init__(self) -> None:
        self.window = vtkRenderWindow()
        self.window.SetOffScreenRendering(1)
        self.window.SetMultiSamples(0)
        self.renderer = vtkRenderer()
        self.window.AddRenderer(self.renderer)
        self._actors: dict[str, vtkActor] = {}
        self._stripes = _stripes()
        self.reflections = "off"
        self._normals: Array | None = None
        self._coordinates: Any = None
        self.renderer.SetBackground(1.0, 1.0, 1.0)
        self.renderer.UseFXAAOn()
        for direction, strength in (((-0.5, 0.9, 0.7), 0.74), ((0.3, -0.9, 0.6), 0.52)):
            light = vtkLight()
            light.SetLightTypeToCameraLight()
            light.SetPosition(*direction)
            light.SetFocalPoint(0, 0, 0)
            light.SetIntensity(strength)
            self.renderer.AddLight(light)
        self.renderer.GetActiveCamera().ParallelProjectionOn()
        self.azimuth, self.elevation, self.zoom = 35.0, 28.0, 1.0
        self.low, self.high, self.pan = np.zeros(3), np.ones(3), (0.0, 0.0)

    def set_background(self, colour: Colour) -> None:
        """The paper behind the board."""
        self.renderer.SetBackground(*colour)

    def put(
        self,
        name: str,
        data: vtkPolyData | None,
        colour: Colour,
        *,
        opacity: float = 1.0,
        width: float = 1.0,
        smooth: bool = False,
        mirror: bool = False,
        sharp: bool = True,
    ) -> None:
        """Show something under a name, in place of what stood there; None takes it away.

        What is `smooth` is shaded round, up to the crease angle if `sharp`; one `mirror` may show reflection lines.
        """
        actor = self._actors.pop(name, None)
        if actor is not None:
            self.renderer.RemoveActor(actor)
        if data is None:
            return
        mapper = vtkPolyDataMapper()
        if smooth:
            normals = vtkPolyDataNormals()
            normals.SetInputData(data)
            normals.SetFeatureAngle(CREASE)
            normals.ConsistencyOff()
            normals.SetSplitting(sharp)
            normals.Update()
            data = normals.GetOutput()
            if mirror:
                found: Any = data.GetPointData().GetNormals()
                self._normals = np.array(vtk_to_numpy(found), dtype=float)
                self._coordinates = data.GetPointData()
        mapper.SetInputData(data)
        mapper.ScalarVisibilityOff()
        actor = vtkActor()
        actor.SetMapper(mapper)
        look = actor.GetProperty()
        look.SetColor(*colour)
        look.SetOpacity(opacity)
        look.SetLineWidth(width)
        look.SetAmbient(0.40)
        look.SetDiffuse(0.74)
        if mirror and self.reflections != "off":
            actor.SetTexture(self._stripes)
            look.SetAmbient(0.75)
            look.SetDiffuse(0.35)
        elif smooth:
            look.SetSpecular(0.18)
            look.SetSpecularPower(24)
        if width > 1.0:
            look.LightingOff()
        self._actors[name] = actor
        self.renderer.AddActor(actor)

    def frame(self, low: Array, high: Array) -> None:
        """What the camera looks at: a box [m]."""
        self.low, self.high = low, high

    @property
    def span(self) -> float:
        """The longest side of what is looked at [m]."""
        return float(np.max(self.high - self.low))

    def orbit(self, azimuth: float, elevation: float) -> None:
        """Turn the board under the eye [°]."""
        self.azimuth = (self.azimuth + azimuth) % 360.0
        self.elevation = min(max(self.elevation + elevation, -89.0), 89.0)

    def image(self, width: int, height: int) -> NDArray[np.uint8]:
        """The picture as (height, width, 4) bytes, red green blue alpha, top row first."""
        self._aim(width, height)
        self.window.SetSize(width, height)
        self.window.Render()
        pixels: Any = vtkUnsignedCharArray()
        window: Any = self.window
        window.GetRGBACharPixelData(0, 0, width - 1, height - 1, 0, pixels)
        flat: Any = vtk_to_numpy(pixels)
        found: NDArray[np.uint8] = np.ascontiguousarray(flat.reshape(height, width, 4)[::-1])
        return found

    def _aim(self, width: int, height: int) -> None:
        camera = self.renderer.GetActiveCamera()
        a, e = np.radians(self.azimuth), np.radians(self.elevation)
        towards = np.array([-np.cos(e) * np.sin(a), -np.cos(e) * np.cos(a), np.sin(e)])
        right = np.array([np.cos(a), -np.sin(a), 0.0])
        up = np.cross(right, -towards)
        focus = (self.low + self.high) / 2 + right * self.pan[0] + up * self.pan[1]
        camera.SetFocalPoint(*focus)
        camera.SetPosition(*(focus + towards * 4 * self.span))
        camera.SetViewUp(*up)
        size = self.high - self.low
        across, tall = (float(np.abs(size) @ np.abs(axis)) / 2 for axis in (right, up))
        camera.SetParallelScale(MARGIN * max(tall, across * height / max(width, 1)) / self.zoom)
        self.renderer.ResetCameraClippingRange()
        if self.reflections != "off" and self._normals is not None:
            seen = _lamps(self._normals, -towards, 1 if self.reflections == "lamps along" else 0)
            self._coordinates.SetTCoords(numpy_to_vtk(seen, deep=True))


def _lamps(normals: Array, look: Array, axis: int) -> Array:
    """Texture coordinates of straight lamps seen in the surface: `axis` 1 for lamps along the board, 0 for lamps across
    it.
    """
    mirrored = look - 2 * (normals @ look)[:, None] * normals
    found: Array = mirrored[:, axis] / np.sqrt(mirrored[:, axis] ** 2 + mirrored[:, 2] ** 2 + LEAST_SEEN)
    return np.stack([found * STRIPES / 2, np.zeros(len(found))], axis=1).astype(np.float32)


def _stripes() -> vtkTexture:
    """Dark and light bands, repeated."""
    image = vtkImageData()
    image.SetDimensions(64, 2, 1)
    t = np.tile(np.arange(64) / 64, 2)
    band = (255 * (0.34 + 0.66 / (1 + np.exp(-18 * (np.abs(t - 0.5) - 0.25))))).astype(np.uint8)
    image.GetPointData().SetScalars(numpy_to_vtk(np.stack([band] * 3, axis=1), deep=True))
    texture = vtkTexture()
    texture.SetInputData(image)
    texture.RepeatOn()
    texture.InterpolateOn()
    texture.MipmapOn()  # lamps too close to tell apart turn grey, not into a pattern of their own
    return texture
