"""The logger: a GPS receiver on the arm that writes GPX and FIT.

``python -m kelvor.devices.gps_logger OUT.gpx|OUT.fit`` is the stand-in. It reads what it is to keep from its input, one
JSON object, and writes a file as such a device would: a stated truth with a stated noise::

    {"begun": "2026-10-14T11:00:00Z", "place": [54.2, 11.1], "wind_from": 240, "current": [0.2, 0.0], "rate": 1,
     "noise": {"place": 1.2, "speed": 0.08, "seed": 3},
     "legs": [{"heading": 290, "speed": 9.1, "seconds": 90}, {"seconds": 600}]}

A leg without a speed is a stop ashore. Headings [°] and speeds [m/s] are through the water; what the water does is
added. Turns take six seconds, slower than the legs. It knows nothing of the board, and says of itself that it is
simulated.
"""

from __future__ import annotations

import json
import struct
import sys
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import numpy as np

from kelvor.core.base.arrays import Array
from kelvor.core.base.values import frozen
from kelvor.core.water.tracks.track import FLATTENING, SEMI_MAJOR

NAME = "Kelvor simulated logger"
TURN = 6.0
"""A turn takes so long [s]."""
FIT_EPOCH = 631065600
"""1989-12-31 00:00 UTC, from which FIT counts its seconds."""


@frozen(eq=False)
class Kept:
    """What the receiver kept: seconds since 1970, latitude and longitude [°], speed over ground [m/s]."""

    seconds: Array
    latitude: Array
    longitude: Array
    speed: Array


def planned_fixes(plan: dict[str, Any]) -> Kept:
    """The fixes of a plan; raises KeyError, TypeError or ValueError for one that is none."""
    rate = float(plan.get("rate", 1.0))
    noise = plan.get("noise", {})
    rng = np.random.default_rng(int(noise.get("seed", 1)))
    legs = plan["legs"]
    lasts = np.array([float(leg["seconds"]) for leg in legs])
    if not len(legs) or lasts.min() <= 0 or lasts.sum() > 12 * 3600 or not 0.2 <= rate <= 20:
        raise ValueError("legs last from 0 to 12 hours together, fixes come 0.2 to 20 times a second")
    ends = np.cumsum(lasts)
    t = np.arange(0.0, ends[-1], 1 / rate)
    which = np.minimum(np.searchsorted(ends, t, side="right"), len(legs) - 1)
    fast = np.array([float(leg.get("speed", 0.0)) for leg in legs])
    heading = np.radians([float(leg.get("heading", 0.0)) for leg in legs])
    velocity = np.stack([fast * np.sin(heading), fast * np.cos(heading)], axis=1)[which]
    width = max(int(TURN * rate), 1)
    if width > 1:
        ramp = np.ones(width) / width
        padded = np.pad(velocity, ((width, width), (0, 0)), mode="edge")
        velocity = np.stack([np.convolve(padded[:, k], ramp, "same")[width:-width] for k in (0, 1)], axis=1)
    stands = (fast == 0.0)[which]
    velocity += np.where(stands[:, None], 0.0, np.array([float(v) for v in plan.get("current", (0.0, 0.0))]))
    places = np.concatenate([[[0.0, 0.0]], np.cumsum(0.5 * (velocity[1:] + velocity[:-1]) / rate, axis=0)])
    places += rng.normal(0.0, float(noise.get("place", 0.0)), places.shape)
    speed = np.abs(np.hypot(*velocity.T) + rng.normal(0.0, float(noise.get("speed", 0.0)), len(t)))
    latitude, longitude = _on_earth(places, tuple(float(v) for v in plan["place"]))
    begun = datetime.fromisoformat(str(plan["begun"])).astimezone(UTC).timestamp()
    return Kept(begun + t, latitude, longitude, speed)


def _on_earth(places: Array, middle: tuple[float, ...]) -> tuple[Array, Array]:
    """Metres east and north of a place [°] as degrees, by the radii of curvature there."""
    e2, north = FLATTENING * (2 - FLATTENING), np.radians(middle[0])
    for _ in range(2):  # the radius halfway
        bulge = 1 - e2 * np.sin(0.5 * (north + np.radians(middle[0]))) ** 2
        north = np.radians(middle[0]) + places[:, 1] * bulge**1.5 / (SEMI_MAJOR * (1 - e2))
    halfway = 0.5 * (north + np.radians(middle[0]))
    bulge = 1 - e2 * np.sin(halfway) ** 2
    east = places[:, 0] * np.sqrt(bulge) / (SEMI_MAJOR * np.cos(halfway))
    return np.degrees(north), middle[1] + np.degrees(east)


def gpx(kept: Kept) -> bytes:
    """The fixes as GPX 1.1, with the receiver's speed in its extensions."""
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<gpx version="1.1" creator="{NAME}" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>',
    ]
    for t, a, o, v in zip(kept.seconds, kept.latitude, kept.longitude, kept.speed, strict=True):
        stamp = datetime.fromtimestamp(float(t), UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")
        lines.append(
            f'<trkpt lat="{a:.7f}" lon="{o:.7f}"><time>{stamp}</time><extensions><speed>{v:.3f}</speed></extensions>'
            "</trkpt>"
        )
    return "\n".join([*lines, "</trkseg></trk></gpx>", ""]).encode("ascii")


def fit(kept: Kept) -> bytes:
    """The fixes as a FIT activity: a file_id and one record a fix (time in whole seconds, as FIT has it)."""
    name = NAME.encode()[:31].ljust(32, b"\0")
    body = bytearray()
    # definition 0: file_id with type, manufacturer (development), product name
    body += struct.pack("<BBBHB", 0x40, 0, 0, 0, 3) + bytes([0, 1, 0x00, 1, 2, 0x84, 8, 32, 0x07])
    body += struct.pack("<BBH", 0, 4, 255) + name
    # definition 1: record with timestamp, position_lat, position_long, enhanced_speed
    body += struct.pack("<BBBHB", 0x41, 0, 0, 20, 4)
    body += bytes([253, 4, 0x86, 0, 4, 0x85, 1, 4, 0x85, 73, 4, 0x86])
    semicircles = [np.round(v / 180.0 * 2**31).astype(np.int64) for v in (kept.latitude, kept.longitude)]
    millis = np.round(kept.speed * 1000).astype(np.int64)
    for t, a, o, v in zip(np.floor(kept.seconds).astype(np.int64) - FIT_EPOCH, *semicircles, millis, strict=True):
        body += struct.pack("<BIiiI", 1, int(t), int(a), int(o), int(v))
    head = struct.pack("<BBHI4s", 14, 0x20, 2132, len(body), b".FIT")
    head += struct.pack("<H", check_sum(head))
    whole = head + bytes(body)
    return whole + struct.pack("<H", check_sum(whole))


_CRC = (0x0000, 0xCC01, 0xD801, 0x1400, 0xF001, 0x3C00, 0x2800, 0xE401,
        0xA001, 0x6C00, 0x7800, 0xB401, 0x5000, 0x9C01, 0x8801, 0x4400)  # fmt: skip


def check_sum(data: bytes) -> int:
    """FIT's check sum (CRC-16 by nibbles, as its protocol description prints it)."""
    crc = 0
    for byte in data:
        for nibble in (byte & 0xF, byte >> 4):
            crc = ((crc >> 4) & 0x0FFF) ^ _CRC[crc & 0xF] ^ _CRC[nibble]
    return crc


def test_plan(
    order: str, speeds: tuple[float, float], current: float, scatter: float, begun: str, seed: int
) -> dict[str, Any]:
    """A plan for the runs of a test, out and back on one line with a stop ashore between: A and B sail at stated speeds
    [m/s] that scatter by so much from run to run, in a current along the line [m/s].
    """
    rng = np.random.default_rng(seed)
    legs: list[dict[str, float]] = [{"seconds": 120.0}]
    for letter in "".join(order.split()):
        speed = speeds[letter == "B"] + float(rng.normal(0.0, scatter))
        legs += [{"heading": heading, "speed": speed, "seconds": 90.0} for heading in (100.0, 280.0)]
        legs.append({"seconds": 150.0})
    along = np.radians(100.0)
    drift = [current * float(np.sin(along)), current * float(np.cos(along))]
    noise = {"place": 1.0, "speed": 0.1, "seed": seed}
    return {"begun": begun, "place": [61.9, 4.86], "rate": 1, "current": drift, "noise": noise, "legs": legs}


def main() -> int:
    """Write the file; 2 for what is no plan."""
    try:
        out = Path(sys.argv[1])
        kept = planned_fixes(json.loads(sys.stdin.read()))
        out.write_bytes(fit(kept) if out.suffix.lower() == ".fit" else gpx(kept))
    except (IndexError, KeyError, TypeError, ValueError, OSError) as error:
        sys.stderr.write(f"The logger cannot keep this: {error}\n")
        return 2
    return 0


if __name__ == "__main__":
    sys.exit(main())
