"""Tracks read from files: what our logger writes is read by independent libraries, and what others write by us."""

import json
import math
import struct
import subprocess
import sys
import tempfile
import unittest
from functools import cache
from pathlib import Path
from unittest import mock

import fitdecode
import gpxpy
import numpy as np
from tcxreader.tcxreader import TCXReader

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import ColumnMeanings
from kelvor.devices import gps_logger
from kelvor.exchange import tracks
from kelvor.exchange.tracks import ColumnsUnknown, heads_to_ask, read_line, read_track

PLAN = {
    "begun": "2026-10-14T11:00:00Z",
    "place": [54.2, 11.1],
    "rate": 1,
    "noise": {"place": 0.8, "speed": 0.08, "seed": 2},
    "legs": [
        {"heading": 290, "speed": 9.1, "seconds": 90},
        {"seconds": 60},
        {"heading": 110, "speed": 8, "seconds": 90},
    ],
}


@cache
def kept():
    return gps_logger.planned_fixes(PLAN)


def tcx(stamps, places):
    points = "".join(
        f"<Trackpoint><Time>{t}</Time><Position><LatitudeDegrees>{a:.7f}</LatitudeDegrees><LongitudeDegrees>{o:.7f}"
        "</LongitudeDegrees></Position></Trackpoint>"
        for t, (a, o) in zip(stamps, places, strict=True)
    )
    return (
        '<?xml version="1.0" encoding="UTF-8"?><TrainingCenterDatabase xmlns="http://www.garmin.com/xmlschemas/'
        'TrainingCenterDatabase/v2"><Activities><Activity Sport="Other"><Id>2026-10-14T11:00:00Z</Id><Lap StartTime='
        '"2026-10-14T11:00:00Z"><TotalTimeSeconds>200</TotalTimeSeconds><DistanceMeters>900</DistanceMeters><Calories>0'
        f"</Calories><Track>{points}</Track></Lap></Activity></Activities></TrainingCenterDatabase>"
    ).encode()


class Written(unittest.TestCase):
    """The simulated logger, as a process, writes what others read."""

    def written(self, name):
        folder = Path(tempfile.mkdtemp())
        path = folder / name
        done = subprocess.run(
            [sys.executable, "-m", "kelvor.devices.gps_logger", str(path)],
            input=json.dumps(PLAN),
            text=True,
            capture_output=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        return path

    def test_gpx_is_read_by_gpxpy(self):
        path = self.written("a.gpx")
        points = gpxpy.parse(path.read_text()).tracks[0].segments[0].points
        truth = kept()
        self.assertEqual(len(points), len(truth.seconds))
        np.testing.assert_allclose([p.latitude for p in points], truth.latitude, atol=6e-8)
        np.testing.assert_allclose([p.time.timestamp() for p in points], truth.seconds, atol=1e-3)
        ours = read_track(path.read_bytes(), path.name)
        np.testing.assert_allclose(np.degrees(ours.longitude), [p.longitude for p in points], atol=1e-12)
        np.testing.assert_allclose(ours.doppler, truth.speed, atol=6e-4)
        self.assertTrue(ours.simulated)

    def test_fit_is_read_by_fitdecode_with_its_check_sums(self):
        path = self.written("a.fit")
        truth, rows = kept(), []
        with fitdecode.FitReader(str(path), check_crc=fitdecode.CrcCheck.RAISE) as reader:
            for frame in reader:
                if isinstance(frame, fitdecode.FitDataMessage) and frame.name == "record":
                    rows.append([frame.get_value("position_lat"), frame.get_value("enhanced_speed")])
        rows = np.array(rows, dtype=float)
        np.testing.assert_allclose(rows[:, 0] * 180 / 2**31, truth.latitude, atol=5e-8)
        np.testing.assert_allclose(rows[:, 1], truth.speed, atol=6e-4)
        ours = read_track(path.read_bytes(), path.name)
        np.testing.assert_allclose(np.degrees(ours.latitude), truth.latitude, atol=5e-8)
        self.assertTrue(ours.simulated)

    def test_a_plan_that_is_none_is_refused(self):
        done = subprocess.run(
            [sys.executable, "-m", "kelvor.devices.gps_logger", "/tmp/x.fit"],
            input="{}",
            text=True,
            capture_output=True,
            check=False,
        )
        self.assertEqual(done.returncode, 2)
        self.assertIn("cannot keep this", done.stderr)


class Read(unittest.TestCase):
    def test_tcx_as_another_reader_has_it(self):
        stamps = [f"2026-10-14T11:{i // 60:02d}:{i % 60:02d}.000Z" for i in range(200)]
        places = [(54.2 + 1e-4 * i, 11.1 - 2e-4 * i) for i in range(200)]
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "a.tcx"
            path.write_bytes(tcx(stamps, places))
            theirs = TCXReader().read(str(path)).trackpoints
        ours = read_track(tcx(stamps, places), "a.tcx")
        np.testing.assert_allclose(np.degrees(ours.latitude), [p.latitude for p in theirs], atol=1e-9)
        self.assertEqual(len(ours.seconds), 200)
        self.assertIsNone(ours.doppler)

    def test_a_fix_in_another_zone_is_the_same_moment(self):
        points = "".join(
            f'<trkpt lat="54.{i:03d}" lon="11.1"><time>2026-10-14T13:00:{i:02d}+02:00</time></trkpt>' for i in range(40)
        )
        data = f'<gpx creator="a" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{points}</trkseg></trk></gpx>'
        found = read_track(data.encode(), "a.gpx")
        self.assertEqual(found.seconds[0], 1791975600.0)  # 2026-10-14 11:00 UTC

    def test_columns_are_guessed_where_they_say_it_and_asked_once_where_not(self):
        plain = b"time,lat,lon,speed [kn]\n" + b"".join(
            b"%d,54.%04d,11.1,18.0\n" % (1790000000 + i, i) for i in range(40)
        )
        found = read_track(plain, "a.csv")
        self.assertAlmostEqual(found.doppler[0], 18 * KNOT)
        odd = b"Zeit;Breite;Laenge;v\n" + b"".join(b"%d;54,%04d;11,1;30\n" % (1790000000 + i, i) for i in range(40))
        asked = heads_to_ask(odd, "b.csv", ())
        self.assertEqual(asked.heads, ("Zeit", "Breite", "Laenge", "v"))
        self.assertEqual(asked.row, ("1790000000", "54,0000", "11,1", "30"))
        with self.assertRaises(ColumnsUnknown):
            read_track(odd, "b.csv")
        meant = ColumnMeanings(
            heads=asked.heads, time="Zeit", latitude="Breite", longitude="Laenge", speed="v", unit="km/h"
        )
        self.assertIsNone(heads_to_ask(odd, "b.csv", [meant]))
        found = read_track(odd, "b.csv", [meant])
        self.assertAlmostEqual(found.doppler[3], 30 / 3.6)
        self.assertAlmostEqual(math.degrees(found.latitude[7]), 54.0007)

    def test_what_is_no_track_says_what_and_where(self):
        truth = gps_logger.fit(kept())
        flipped = bytearray(truth)
        flipped[400] ^= 4
        xml = gps_logger.gpx(kept())
        bomb = b'<!DOCTYPE g [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]><gpx creator="&b;"></gpx>'
        for data, name, words in (
            (b"", "a.gpx", "it is empty"), (b"hello", "a.txt", "of no kind that is read"),
            (bytes(flipped), "a.fit", "check sum is wrong"), (truth[:600], "a.fit", "cut short"),
            (xml[: len(xml) // 2], "a.gpx", "cut short or no XML"), (bomb, "a.gpx", "declares entities"),
            (b"<gpx></gpx>", "a.gpx", "holds no fixes"), (b"time,lat,lon\n", "a.csv", "no rows"),
            (b"time,lat,lon\n" + b"1790000000,1,2\n" * 3 + b"x,1,2\n", "a.csv", "time 4, “x”, cannot be read"),
            (b"time,lat,lon\n1790000000,1,2\n\n1790000000,north,2\n", "a.csv", "line 4, column 2: “north”"),
            (b"time,lat,lon\n1790000000,1,2\n1790000001,1\n", "a.csv", "line 3 has 2 of 3 cells"),
            (b"time,lat,lon\n" + b"now,1,2\n" * 3, "a.csv", "time 1, “now”, cannot be read"),
            (b"time,lat,lon\n" + b"0001-01-01T00:00:00Z,1,2\n" * 3, "a.csv", "the time of fix 1 lies in no year"),
            (b"time,lat,lon\n" + b"9999-12-31T23:59:59+01:00,1,2\n" * 3, "a.csv", "in no year of a watch"),
            (b"time,lat,lon\n" + b"0000-12-31T23:59:59-01:00,1,2\n" * 3, "a.csv", "a.csv"),
            (b"<?xml version='1.0' encoding='x-none'?><gpx/>", "a.gpx", "its encoding is not known"),
            (b"\x0e\x20" + struct.pack("<HI4s", 2132, 9, b".FIT") + b"\0" * 20, "a.fit", "a.fit"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaises(InputError) as caught:
                read_track(data, name)
            self.assertIn(words, str(caught.exception))
            self.assertIn(name, str(caught.exception))

    def test_comments_in_a_watchs_words_are_passed_over(self):
        creator = b"<Creator><!-- hand made --><Name>Watch</Name></Creator>"
        point = b"<Trackpoint><Time>2026-10-14T11:00:%02dZ</Time><Position><LatitudeDegrees>54</LatitudeDegrees>"
        point += b"<LongitudeDegrees>11</LongitudeDegrees></Position></Trackpoint>"
        body = b"".join(point % i for i in range(20))
        data = b"<T xmlns='x'><!-- a -->" + body + creator + b"</T>"
        self.assertEqual(read_track(data, "a.tcx").device, "Watch")

    def test_lines_of_hostile_documents_are_refused_in_a_line(self):
        for data, words in (
            (b"[" * 100_000, "nested too deeply"), (b'{"a":' * 100_000, "nested too deeply"),
            (b'{"coordinates": [[1e999, 2], [3, 4]]}', "it holds"),
            (b'{"coordinates": [[%s, 2], [3, 4]]}' % (b"9" * 400), "it holds"),
            (b"[1, 2]", "it holds 0 places"), (b"[nonsense", "it is cut short or no GeoJSON"),
            (b"<?xml version='1.0' encoding='x-none'?><gpx/>", "its encoding is not known"),
            (b"<gpx><trk></gpx>", "line 1: it is cut short or no GPX or GeoJSON"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaises(InputError) as caught:
                read_line(data, "shore.json")
            self.assertIn(words, str(caught.exception))
            self.assertLess(len(str(caught.exception)), 300)

    def test_a_file_that_is_too_large_is_refused_with_the_limit(self):
        with mock.patch.object(tracks, "MOST_BYTES", 1 << 20), self.assertRaisesRegex(InputError, "up to 1 MB"):
            read_track(b" " * (1 << 20) + b"x", "a.gpx")
