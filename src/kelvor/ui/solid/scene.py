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
STRIPES = 14
"""Reflection lines between straight up and straight out."""


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


class Scene:
    """One board with its fittings, water and section plane."""

    def __init__(self) -> None:
        self.window = vtkRenderWindow()
        self.window.SetOffScreenRendering(1)
        self.window.SetMultiSamples(0)
        self.renderer = vtkRenderer()
        self.window.AddRenderer(self.renderer)
        self._actors: dict[str, vtkActor] = {}
        self._stripes = _stripes()
        self.reflections = False
        self.renderer.SetBackground(1.0, 1.0, 1.0)
        for direction, strength in (((-0.4, 0.7, 1.0), 0.75), ((0.6, -0.9, 0.25), 0.45), ((0.0, 0.3, -1.0), 0.35)):
            light = vtkLight()
            light.SetLightTypeToCameraLight()
            light.SetPosition(*direction)
            light.SetFocalPoint(0, 0, 0)
            light.SetIntensity(strength)
            self.renderer.AddLight(light)
        self.renderer.GetActiveCamera().ParallelProjectionOn()
        self.azimuth, self.elevation, self.zoom = 35.0, 28.0, 1.0
        self.centre, self.span, self.pan = (0.0, 0.0, 0.0), 1.0, (0.0, 0.0)

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
    ) -> None:
        """Show something under a name, in place of what stood there; None takes it away."""
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
            normals.Update()
            data = normals.GetOutput()
            if self.reflections:
                data.GetPointData().SetTCoords(numpy_to_vtk(_reflected(data), deep=True))
        mapper.SetInputData(data)
        mapper.ScalarVisibilityOff()
        actor = vtkActor()
        actor.SetMapper(mapper)
        look = actor.GetProperty()
        look.SetColor(*colour)
        look.SetOpacity(opacity)
        look.SetLineWidth(width)
        look.SetAmbient(0.25)
        look.SetDiffuse(0.8)
        if smooth and self.reflections:
            actor.SetTexture(self._stripes)
        elif smooth:
            look.SetSpecular(0.25)
            look.SetSpecularPower(30)
        if width > 1.0:
            look.LightingOff()
        self._actors[name] = actor
        self.renderer.AddActor(actor)

    def frame(self, low: Array, high: Array) -> None:
        """What the camera looks at: a box [m]."""
        middle = (low + high) / 2
        self.centre = (float(middle[0]), float(middle[1]), float(middle[2]))
        self.span = float(np.max(high - low))

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
        focus = np.array(self.centre) + right * self.pan[0] + up * self.pan[1]
        camera.SetFocalPoint(*focus)
        camera.SetPosition(*(focus + towards * 4 * self.span))
        camera.SetViewUp(*up)
        across = self.span * (abs(np.cos(a)) + 0.25) * 0.60
        tall = across * height / max(width, 1)
        camera.SetParallelScale(max(tall, 0.2 * self.span) / self.zoom)
        self.renderer.ResetCameraClippingRange()


def _reflected(data: vtkPolyData) -> Array:
    """Texture coordinates of reflection lines: long lamps overhead, along the board and across it."""
    n = vtk_to_numpy(data.GetPointData().GetNormals())
    angle = np.arctan2(n[:, 1], n[:, 2]) + 0.35 * np.arcsin(np.clip(n[:, 0], -1, 1))
    found: Array = np.stack([angle / (np.pi / 2) * STRIPES, np.zeros(len(n))], axis=1)
    return found.astype(np.float32)


def _stripes() -> vtkTexture:
    """Dark and light bands, repeated."""
    image = vtkImageData()
    image.SetDimensions(64, 1, 1)
    t = np.arange(64) / 64
    band = (255 * (0.28 + 0.72 / (1 + np.exp(-18 * (np.abs(t - 0.5) - 0.25))))).astype(np.uint8)
    image.GetPointData().SetScalars(numpy_to_vtk(np.stack([band] * 3, axis=1), deep=True))
    texture = vtkTexture()
    texture.SetInputData(image)
    texture.RepeatOn()
    texture.InterpolateOn()
    return texture
