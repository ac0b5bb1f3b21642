"""What a screen reader hears of the running program, on a display and the accessibility bus."""

import unittest

from tests.desk.listener import ACTION, Desktop, missing


@unittest.skipIf(missing(), f"not installed: {missing()}")
class Listener(unittest.TestCase):
    def test_a_reader_walks_the_drawings_presses_in_them_and_hears_what_changes(self) -> None:
        with Desktop() as desktop:
            window = desktop.window()
            drawings = desktop.canvases(window)
            for name in ("Stages and line state", "Ladder of amps", "Run scene", "Section and slip", "Tape"):
                self.assertIn(name, drawings)
            ladder = desktop.children(drawings["Ladder of amps"])
            self.assertGreater(len(ladder), 3)
            for place, rung in enumerate(ladder, 1):
                self.assertTrue(desktop.name(rung))
                self.assertEqual(desktop.description(rung), f"{place} of {len(ladder)}")
            stages = desktop.children(drawings["Stages and line state"])
            wire = next(stage for stage in stages if desktop.name(stage).startswith("Wire"))
            self.assertEqual(desktop.role(wire), "push button")
            before = [desktop.name(area) for area in desktop.children(drawings["Run scene"])]
            self.assertTrue(desktop.ask(wire, ACTION, "DoAction", "i", 0))
            self.assertNotEqual(before, [desktop.name(area) for area in desktop.children(drawings["Run scene"])])
            desktop.type("breaker 30")
            self.assertIn("stop", desktop.hear("The line: "))
            desktop.type("right banana")
            desktop.hear("banana")
            desktop.type("key Home")
            first = desktop.children(drawings["Ladder of amps"])[0]
            while desktop.focus() != first:
                pass  # the drawing is reached before what stands in it
            self.assertEqual(desktop.description(first), f"1 of {len(desktop.children(drawings['Ladder of amps']))}")


if __name__ == "__main__":
    unittest.main()
