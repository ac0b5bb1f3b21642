"""List twins: every text of a drawing stands in its list, or in what its table says of itself."""

from awlmark.core.job.model import Job
from awlmark.core.standing import STAGES
from awlmark.data import FOUNDRY, demo_job
from awlmark.desk.window import Window
from tests.desk.support import DeskCase


class Twins(DeskCase):
    def missing(self, window: Window) -> list[str]:
        """Texts that no list of their region holds."""
        found = []
        for region in window.regions:
            if region is window.scenes.drawing or not region.isVisible():
                continue
            region.swap()
            rows = "\n".join(region.list.item(row).text() for row in range(region.list.count()))
            found += [f"{region.name}: {text.text}" for text in region.draw().texts() if text.text.strip() not in rows]
            region.swap()
        return found

    def scene(self, window: Window) -> list[str]:
        drawing = window.scenes.drawing.draw()
        window.swap_list()
        self.settle()
        twin = window.scenes.focus_target()
        if twin is window.scenes.drawing.focus_target():
            listed = window.scenes.drawing.list
            said = "\n".join(listed.item(row).text() for row in range(listed.count()))
        else:
            cells = [cell.text for row in twin.rows.cells for cell in row]
            said = "\n".join([*cells, twin.accessibleDescription()])
        window.swap_list()
        self.settle()
        return [text.text for text in drawing.texts() if text.text.strip() not in said]

    def every_stage(self, job: Job) -> None:
        window = self.open(job)
        for stage in STAGES:
            window.session.see(stage=stage)
            self.settle()
            with self.subTest(stage):
                self.assertEqual(self.missing(window), [])
                self.assertEqual(self.scene(window), [])
        window.session.see(stage="panel", page="spaces")
        self.settle()
        self.assertEqual(self.scene(window), [])

    def test_american(self) -> None:
        self.every_stage(demo_job())

    def test_british(self) -> None:
        self.every_stage(demo_job(FOUNDRY))
