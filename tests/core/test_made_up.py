"""A wiring method is rows of data: a rigid plastic pipe that nobody makes is added, and everything knows what it is."""

import os
import shutil
import subprocess
import sys
import tempfile
import textwrap
import unittest
from pathlib import Path

from awlmark.core.books.nec import printed

SCRIPT = textwrap.dedent(
    """
    import json, sys
    from pathlib import Path
    from awlmark.core.books.nec import printed
    printed.FOLDER = Path(sys.argv[1])
    from awlmark.core.books import open_book
    from awlmark.core.job.edit import Put, put
    from awlmark.core.solve.design import solve
    from tests.support import entered

    def told(method):
        job = entered(
            f"48a; up 3 {method}; right 30 {method}; out 8in stone; right 60 {method}; down 4 {method}; trench 60;"
            "up 4 k; leg 6 cover 18in; leg 5 exposed yes; leg 7 exposed yes; leg 4 slip yes"
        )
        made = solve(put(job, Put("site.low_c", -10.0), Put("site.high_c", 40.0)))
        parts = {part.key.replace(f":{method}:", ":it:"): part.quantity for part in made.parts}
        findings = [
            (each.id, each.severity, each.text.replace(book.methods[method].name, "it")) for each in made.findings
        ]
        straps = [leg.method.support for leg in made.line.legs]
        return {"parts": parts, "findings": findings, "straps": straps}

    book = open_book("nec-2023")
    print(json.dumps([told("pvc80"), told("vitrine")]))
    """
)


class MadeUp(unittest.TestCase):
    def test_a_rigid_plastic_raceway_is_rows_of_data_only(self) -> None:
        """Vitrine pipe is PVC 80 by another name: list, bends, supports, risers, walls, expansion are PVC 80's."""
        import json

        with tempfile.TemporaryDirectory() as name:
            tables = Path(name) / "tables"
            shutil.copytree(printed.FOLDER, tables)
            for table in ("methods", "raceway_ch9_t4", "raceway_outside_diameter"):
                path = tables / f"{table}.csv"
                lines = path.read_text(encoding="utf-8").splitlines()
                more = []
                for line in lines:
                    if line.startswith(("pvc80,", "PVC80,")):
                        line = line.replace("pvc80,PVC 80", "vitrine,Vitrine")
                        more.append(line.replace("PVC80", "VITRINE").replace("pvc80", "vitrine"))
                self.assertTrue(more, table)
                path.write_text("\n".join([*lines, *more]) + "\n", encoding="utf-8")
            done = subprocess.run(
                [sys.executable, "-c", SCRIPT, str(tables)], capture_output=True, text=True, env=os.environ, check=False
            )
            self.assertEqual(done.returncode, 0, done.stderr)
        known, made_up = json.loads(done.stdout)
        self.assertEqual(made_up, known)
        kinds = {key.partition(":")[0] for key in made_up["parts"]}
        self.assertLessEqual(
            {"cement", "adapter and locknut", "elbow", "strap", "stick", "coupling", "expansion"}, kinds
        )
        told = {finding[0].partition(":")[0] for finding in made_up["findings"]}
        self.assertLessEqual({"moves", "supports"}, told)
        self.assertNotIn("guard:leg-4", {finding[0] for finding in made_up["findings"] if finding[1] == "stop"})
