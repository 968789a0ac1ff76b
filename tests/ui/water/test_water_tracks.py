"""Tracks in the Water view: read, shown, scrubbed, refused."""

import unittest
from itertools import count
from unittest import mock

from PySide6.QtCore import Qt

from kelvor.core.base.errors import InputError
from kelvor.core.base.units import KNOT
from kelvor.core.register.kinds.water import TrackFile
from kelvor.ui.ride.ride_requests import RideRequests
from kelvor.ui.water import track_job
from tests.ui.water.test_water import Water, logged


class Jobs(unittest.TestCase):
    def test_a_track_that_is_never_done_being_looked_at_is_refused_by_name(self):
        endless = mock.patch.object(track_job, "track_read", lambda _: [None for _ in count() if _ < 0])
        with endless, mock.patch.object(track_job, "READ_SECONDS", 2), self.assertRaises(InputError) as caught:
            track_job.track_job(logged("2026-06-01"), "day.fit")
        self.assertIn("day.fit: reading it took longer than 2 s. Cut the file in two", str(caught.exception))


class Tracks(Water):
    rides = True

    def test_a_track_is_read_shown_and_scrubbed(self):
        self.wait_for(lambda: self.page.panel.read() is not None)
        read = self.page.panel.read()
        self.assertIn("Simulated by our own logger", self.page.panel.told.text())
        self.assertIn("Wind by the runs", self.page.panel.told.text())
        rows = {row.label: row for row in self.page.bests.rows()}
        best = next(b for b in read.bests if b.name == "500 m")
        self.assertEqual(rows["500 m"].value, f"{best.speed / KNOT:.1f} kn")
        self.assertIn(f"±{best.band / KNOT:.2f}", rows["500 m"].aside)
        frame = self.page.panel.line._frame()
        self.click(self.page.panel.line, frame.left() + frame.width() / 2, frame.center().y())
        self.assertIn("kn", self.page.panel.moment.words())
        middle = self.page.panel.map.moment
        self.assertAlmostEqual(middle, read.clean.t[-1] / 2, delta=read.clean.t[-1] / 100)
        self.key(self.page.panel.line, Qt.Key.Key_PageDown)
        self.assertIn("run at", self.page.panel.moment.words())
        self.assertGreater(self.page.panel.map.moment, middle)
        x, y = self.page.panel.map.places(read.clean.east[[600]], read.clean.north[[600]])
        self.click(self.page.panel.map, float(x[0]), float(y[0]))
        t = self.page.panel.map.moment
        here = [abs(v[int(t)] - v[600]) for v in (read.clean.east, read.clean.north)]
        self.assertLess(max(here), 40.0)
        self.assertGreater(self.page.panel.polar.rowCount(), 3)
        self.window.grab()

    def test_runs_and_turns_are_told_and_the_map_follows_them(self):
        self.wait_for(lambda: self.page.panel.read() is not None)
        read, table = self.page.panel.read(), self.page.panel.runs
        kinds = [self.cell(table, i, 1) for i in range(table.rowCount())]
        self.assertEqual(kinds.count("run"), len(read.runs))
        self.assertGreater(kinds.count("tack"), 3)
        self.assertGreater(kinds.count("gybe"), 3)
        first = kinds.index("run")
        self.assertIn(self.cell(table, first, 6), ("port", "starboard"))
        table.selectRow(first)
        self.assertAlmostEqual(self.page.panel.map.moment, read.runs[0].begins, delta=1.0)

    def test_the_computed_polar_stands_beside_where_the_board_is_on_the_bench(self):
        self.wait_for(lambda: self.page.panel.read() is not None)
        self.assertIn("Put the board that was ridden on the bench", self.page.panel.computed_at.text())
        names = {entry.name: entry.id for entry in self.session.workshop.store.boards()}
        self.session.file.open_board(names["Shearwater 76"])
        self.session.results.settle_now()
        self.wait_for(lambda: self.session.service(RideRequests).ride is not None)
        self.page.panel._shown = ""
        self.page.refresh()
        self.wait_for(lambda: self.page.panel.read() is not None)
        self.assertRegex(self.page.panel.computed_at.text(), r"Computed in \d+ kn with Merlin")
        self.page.read_button.click()
        panel = self.panel()
        panel.what.setCurrentIndex(panel.what.findData("speed"))
        self.assertEqual(self.session.brief.wing.name, self.page.one().setup.drive)
        self.assertEqual(panel.beside.text(), f"{self.session.results.as_counted()['run_speed'].value / KNOT:.1f}")
        shown = [self.cell(self.page.panel.polar, i, 4) for i in range(self.page.panel.polar.rowCount())]
        self.assertGreater(sum(bool(words) for words in shown), 3)
        line = next(
            x for x in self.session.service(RideRequests).ride.pictures["polar"].lines if x.name == "board speed"
        )
        self.assertLessEqual(max(float(words) for words in shown if words), line.y.max() / KNOT + 0.06)

    def test_a_shore_line_lies_on_the_map_of_its_place(self):
        self.wait_for(lambda: self.page.panel.read() is not None)
        shore = self.folder / "shore.geojson"
        shore.write_text('{"type": "LineString", "coordinates": [[4.85, 61.89], [4.86, 61.90], [4.88, 61.905]]}')
        self.assertTrue(self.page.panel.take_shore(shore))
        east, north = self.page.panel.map._line
        self.assertEqual(len(east), 3)
        self.assertAlmostEqual(north[1] - north[0], 1114.0, delta=3.0)  # a hundredth of a degree of latitude
        self.window.grab()
        (self.folder / "no.gpx").write_text("<gpx></gpx>")
        self.assertFalse(self.page.panel.take_shore(self.folder / "no.gpx"))
        self.assertIn("no.gpx: it holds 0 places", self.page.panel.problem.text())
        self.session.undo()
        self.assertIsNone(self.page.panel.map._line)

    def test_a_track_of_another_day_has_a_draft_of_its_own_and_the_raw_file_stays_as_it_came(self):
        chosen = self.page.one().uid
        path = self.folder / "other.fit"
        path.write_bytes(logged("2026-11-02"))
        self.assertTrue(self.page.add_track(path))
        self.wait_for(lambda: any(one.value.day == "2026-11-02" for one in self.log.all()))
        self.assertNotEqual(self.page.one().uid, chosen)
        track = self.page.panel.track()
        self.assertIsInstance(track.value, TrackFile)
        self.assertEqual(self.log.raw(track.value.sha), path.read_bytes())
        self.assertGreater(dict(track.value.bests)["10 s"], 8.5)

    def test_columns_of_a_csv_file_are_asked_once(self):
        def table(minute):
            rows = (f"{1794654000 + 60 * minute + i};61,{90000 + i:05d};4,9;32" for i in range(200))
            return "\n".join(["Zeit;Breite;Laenge;v", *rows]).encode()

        for name, minute in (("a.csv", 0), ("b.csv", 30)):
            (self.folder / name).write_bytes(table(minute))
        self.page.add_track(self.folder / "a.csv")
        panel = self.panel()
        self.assertIn("a.csv", panel.windowTitle())
        for key, head in (("time", "Zeit"), ("latitude", "Breite"), ("longitude", "Laenge"), ("speed", "v")):
            panel.boxes[key].setCurrentIndex(panel.boxes[key].findData(head))
        panel.unit.setCurrentIndex(panel.unit.findData("km/h"))
        self.key(panel.do, Qt.Key.Key_Return)
        self.wait_for(lambda: self.page.panel.track() is not None and self.page.panel.track().value.name == "a.csv")
        self.assertAlmostEqual(dict(self.page.panel.track().value.bests)["10 s"], 32 / 3.6, places=3)
        shown = len(self.window.dialogs.shown)
        self.page.add_track(self.folder / "b.csv")
        self.wait_for(lambda: any(t.value.name == "b.csv" for one in self.log.all() for t in one.tracks))
        self.assertLessEqual(len(self.window.dialogs.shown), shown)

    def test_a_broken_file_is_named_and_the_next_one_is_read(self):
        (self.folder / "broken.gpx").write_bytes(b"<gpx><trk>")
        (self.folder / "good.fit").write_bytes(logged("2026-11-05"))
        self.page.add_track(self.folder / "broken.gpx")
        self.page.add_track(self.folder / "good.fit")
        self.wait_for(lambda: any(one.value.day == "2026-11-05" for one in self.log.all()))
        self.assertFalse(any(t.value.name == "broken.gpx" for one in self.log.all() for t in one.tracks))
