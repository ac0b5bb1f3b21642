"""Steps in working order, torque screw by screw, the line as built."""

from __future__ import annotations

import unittest

from awlmark.core.build.built import deviation
from awlmark.core.build.steps import RESTS, hours_of, left_to_electrician, next_step, steps_of, tools_of
from awlmark.core.build.torque import dials_of, print_torque, read_torque, unread
from awlmark.core.entry.read import read_entry
from awlmark.core.errors import InputError
from awlmark.core.job.edit import Put, put
from awlmark.core.job.file import dumps, loads
from awlmark.core.job.model import Job, new_job
from awlmark.core.job.panel_face import Breaker, DeadFront
from awlmark.core.solve.design import solve
from awlmark.data import demo_job
from tests.support import entered, refused, straight


def typed(job: Job, *entries: str) -> Job:
    """A job after entries."""
    for entry in entries:
        job = read_entry(entry, job).job
    return job


class CableJob(unittest.TestCase):
    """A line of cable speaks of cable; common practice."""

    def test_the_cable_is_run_before_it_is_stapled_and_nothing_is_called_a_raceway(self) -> None:
        job = read_entry("32a 14-50 25ft nm garage", new_job()).job
        steps = [step.id for step in steps_of(solve(job))]
        self.assertLess(steps.index("cable"), steps.index("fit:leg-1"))
        sessions = dict(hours_of(solve(job)))
        self.assertIn("Cable", sessions)
        self.assertNotIn("Raceway", sessions)

    def test_of_pipe_and_cable_the_boxes_stand_before_the_cable_comes(self) -> None:
        job = new_job()
        for text in ("48a", "up 3 emt box", "right 20 nm", "down 4 charger"):
            job = read_entry(text, job).job
        steps = [step.id for step in steps_of(solve(job))]
        places = [steps.index(one) for one in ("fit:leg-1", "end:leg-1", "cable", "fit:leg-2", "fit:leg-3", "mount")]
        self.assertEqual(places, sorted(places))
        self.assertIn("Raceway", dict(hours_of(solve(job))))


class Steps(unittest.TestCase):
    def setUp(self) -> None:
        self.steps = steps_of(solve(demo_job()))
        self.ids = [step.id for step in self.steps]

    def test_sessions_stand_in_their_order(self) -> None:
        sessions = list(RESTS)
        order = [sessions.index(step.session) for step in self.steps]
        self.assertEqual(order, sorted(order))
        self.assertIn("Do not rest", RESTS["Power down"])

    def test_dead_is_proved_with_the_tester_tried_before_and_after(self) -> None:
        at = [self.ids.index(key) for key in ("branches", "main", "lock", "try-1", "dead", "try-2", "land-ground")]
        self.assertEqual(at, sorted(at))
        self.assertIn("Line-side lugs stay live", self.steps[self.ids.index("main")].text)

    def test_the_ground_is_landed_first_and_power_comes_back_after_the_covers(self) -> None:
        at = [self.ids.index(key) for key in ("land-ground", "land-breaker", "label", "cover", "restore", "prove")]
        self.assertEqual(at, sorted(at))

    def test_the_trench_is_located_before_it_is_dug_and_laid_before_it_is_filled(self) -> None:
        at = [self.ids.index(key) for key in ("locate", "dig:leg-5", "lay:leg-5", "fill:leg-5")]
        self.assertEqual(at, sorted(at))
        self.assertNotIn("locate", [step.id for step in steps_of(solve(straight(48, 20)))])

    def test_every_step_has_its_mark_and_hours_are_those_of_the_quote(self) -> None:
        length = solve(demo_job()).line.length_m
        for step in self.steps:
            self.assertTrue(0 <= step.at_m <= length + 1e-9, step.id)
        hours = sum(step.hours for step in self.steps)
        self.assertAlmostEqual(hours, sum(hours for _session, hours in hours_of(solve(demo_job()))), places=1)
        # Two to three days of one person, a trench of 64 ft by hand among them; common practice.
        self.assertTrue(14 <= hours <= 24, hours)
        self.assertEqual(len(set(self.ids)), len(self.ids))

    def test_a_second_source_is_told(self) -> None:
        from awlmark.core.job.panel_face import Breaker

        job = put(demo_job(), Put("dead_front.breakers", (Breaker(id="s", space=1, poles=2, kind="back-fed"),)))
        main = next(step for step in steps_of(solve(job)) if step.id == "main")
        self.assertIn("second source", main.text)

    def test_done_in_order_and_back(self) -> None:
        job = typed(demo_job(), "done", "done")
        self.assertEqual(next_step(solve(job)).id, self.ids[2])
        self.assertEqual(next_step(solve(typed(job, "done 1 no"))).id, self.ids[0])
        dead = self.ids.index("dead") + 1
        with self.assertRaisesRegex(InputError, "comes before"):
            typed(job, f"done {dead}")
        self.assertEqual(loads(dumps(job)), job)
        with self.assertRaisesRegex(InputError, "step"):
            typed(job, "done 99")

    def test_a_step_is_left_to_the_electrician(self) -> None:
        number = self.ids.index("mount") + 1
        design = solve(typed(demo_job(), f"electrician {number}"))
        theirs = {step.id for step in steps_of(design) if left_to_electrician(design, step)}
        self.assertIn("mount", theirs)
        self.assertIn("land-breaker", theirs)
        self.assertNotIn("label", theirs)

    def test_tools_are_named_once_with_what_is_worn(self) -> None:
        tools = tools_of(solve(demo_job()))
        self.assertEqual(len(set(tools)), len(tools))
        self.assertIn("torque driver", tools)
        self.assertIn("eye protection", tools[-1])
        self.assertNotIn("bender", tools)
        self.assertIn("bender", tools_of(solve(put(demo_job(), Put("legs[leg-1].bend", "hand")))))

    def test_no_circuit_no_steps(self) -> None:
        self.assertEqual(steps_of(solve(straight(None, 20))), ())
        with refused(self, "step"):
            typed(straight(None, 20), "done")


class Torques(unittest.TestCase):
    def test_units(self) -> None:
        self.assertEqual(print_torque(50), "50 lbf-in, 4.2 lbf-ft, 5.6 N m")
        for text, lbf_in in (("50 in-lb", 50), ("50 lbf-in", 50), ("4 ft-lb", 48), ("5.65 N m", 50.007)):
            self.assertAlmostEqual(read_torque(text), lbf_in, places=2)
        for text in ("50", "fifty in-lb", "5000 in-lb"):
            with self.subTest(text), refused(self, "torque"):
                read_torque(text)

    def test_one_dial_a_screw(self) -> None:
        self.assertEqual([dial.id for dial in dials_of(solve(demo_job()))],
                         ["panel-G", "panel-1", "panel-2", "charger-G", "charger-1", "charger-2"])  # fmt: skip
        four = solve(straight(32, 20, charger__connection="14-50"))
        self.assertIn("Receptacle N", [dial.name for dial in dials_of(four)])

    def test_an_unread_torque_stays_unread_and_is_never_guessed(self) -> None:
        job = demo_job()
        self.assertEqual(len(unread(solve(job))), 6)
        self.assertTrue(all(dial.lbf_in is None and dial.fallback for dial in unread(solve(job))))
        with self.assertRaisesRegex(InputError, "not read"):
            typed(job, "tight charger-1")

    def test_power_stays_off_while_a_torque_is_unread(self) -> None:
        job = demo_job()
        number = next(n for n, step in enumerate(steps_of(solve(job)), 1) if step.id == "restore")
        dead = typed(job, *(f"done {n}" for n in range(1, number)))
        with self.assertRaisesRegex(InputError, "torque of ground bar is not read") as caught:
            read_entry(f"done {number}", dead)
        self.assertIn("energise <reason>", str(caught.exception))
        reasoned = typed(dead, "energise inspector read it", f"done {number}")
        self.assertIn("restore", reasoned.build.done)
        read = typed(dead, *(f"torque {dial.id} 40 in-lb" for dial in dials_of(solve(dead))), f"done {number}")
        self.assertIn("restore", read.build.done)
        with self.assertRaisesRegex(InputError, "not read"):
            typed(reasoned, f"done {number} no", "energise none", f"done {number}")

    def test_seat_torque_wiggle_torque(self) -> None:
        job = typed(demo_job(), "torque charger-1 50 in-lb", "tight charger-1", "tight charger-1", "tight charger-1")
        dial = next(dial for dial in dials_of(solve(job)) if dial.id == "charger-1")
        self.assertEqual((dial.lbf_in, dial.source, dial.done), (50, "label", 3))
        again = typed(job, "torque charger-1 45 in-lb")
        self.assertEqual(next(d for d in dials_of(solve(again)) if d.id == "charger-1").done, 0)

    def test_the_label_wins_and_the_fallback_is_called_so(self) -> None:
        job = typed(demo_job(), "lug charger 14 to 2 both 50 lbf-in", "torque panel-1 annex")
        dials = {dial.id: dial for dial in dials_of(solve(job))}
        self.assertEqual((dials["charger-1"].lbf_in, dials["charger-1"].source), (50, "label"))
        # Annex I, from memory: 45 lbf-in for 6 AWG under a wide slotted screw.
        self.assertEqual((dials["panel-1"].lbf_in, dials["panel-1"].source), (45, "annex"))
        with self.assertRaisesRegex(InputError, "No screw"):
            typed(job, "torque roof-9 50 in-lb")

    def test_an_unread_torque_never_changes_the_verdict(self) -> None:
        self.assertEqual(solve(demo_job()).verdict, "holds")


class AsBuilt(unittest.TestCase):
    def test_a_longer_leg_is_worked_out_again(self) -> None:
        self.assertIsNone(deviation(solve(demo_job())))
        found = deviation(solve(typed(demo_job(), "built 5 64 3")))
        self.assertAlmostEqual(found.longer_m, 0.0762, places=4)
        # 106 ft were cut; 99 ft 7 in and its tails take 106 ft 1 in.
        self.assertAlmostEqual(found.spare_m / 0.0254, -1.0, delta=0.1)
        shorter = deviation(solve(typed(demo_job(), "built 5 63 6")))
        self.assertGreater(shorter.spare_m, 0)

    def test_what_no_longer_holds_is_named(self) -> None:
        found = deviation(solve(typed(demo_job(), "built 5 190")))
        self.assertIn("Voltage drop", found.worse)

    def test_the_built_reading_can_become_the_plan(self) -> None:
        job = typed(demo_job(), "built 5 64 3", "built take 5")
        self.assertAlmostEqual(job.legs[4].length_m, 64.25 * 0.3048)
        self.assertIsNone(job.legs[4].built_m)
        with refused(self, "built"):
            typed(job, "built take 5")
        with refused(self, "built"):
            typed(job, "built 5")

    def test_notes_keep_their_pictures(self) -> None:
        job = typed(demo_job(), "note rock at 40 ft photo pics/7.jpg")
        self.assertEqual((job.build.notes[0].text, job.build.notes[0].photo), ("rock at 40 ft", "pics/7.jpg"))


class Moves(unittest.TestCase):
    def test_moves_bodies_and_the_controller_are_steps_before_power_comes_back(self) -> None:
        devices = tuple(Breaker(id=f"d{n}", space=n, name=f"load {n}", poles=1) for n in (1, 4, 5, 8))
        front = DeadFront(spaces=8, breakers=devices, complete=True)
        job = put(demo_job(), Put("dead_front", front), Put("supply.knockout", ""), Put("demand.managed", True))
        ids = [step.id for step in steps_of(solve(job))]
        move = next(name for name in ids if name.startswith("move:"))
        self.assertLess(ids.index("try-2"), ids.index(move))
        self.assertLess(ids.index(move), ids.index("land-breaker"))
        self.assertLess(ids.index("manage"), ids.index("restore"))
        self.assertLess(ids.index("dead-tests"), ids.index("restore"))
        # The body at the end of the leg through the wall is fitted too.
        self.assertIn("end:leg-3", ids)


class AsPlanned(unittest.TestCase):
    def test_a_line_built_as_planned_is_not_short(self) -> None:
        for text in (
            "48a; right 10 pvc40 box; right 5 pvc40; up 3 pvc40 k", "32a; up 3 nm; right 20 nm box; right 10 nm k",
            "48a; up 3 nm; right 20 nm box; down 3 emt k",
        ):  # fmt: skip
            job = entered(text)
            built = put(job, *(Put(f"legs[{leg.id}].built_m", leg.length_m) for leg in job.legs))
            found = deviation(solve(built))
            assert found is not None
            self.assertGreaterEqual(found.spare_m, -1e-6, text)
            self.assertLess(found.spare_m, 0.31)
            longer = put(built, Put(f"legs[{job.legs[-1].id}].built_m", job.legs[-1].length_m + 1.0))
            self.assertLess(deviation(solve(longer)).spare_m, found.spare_m - 0.6)
