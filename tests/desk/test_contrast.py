"""Every text is 4.5 to 1 and every mark 3 to 1 against what it is painted on, in all three schemes (WCAG 2)."""

from awlmark.draw.kit.palette import PALETTES
from tests.desk.support import DeskCase
from tests.desk.test_layout import VIEWS, jobs
from tests.draw.painted import WIRES, Pair, contrast, painted

TEXT, MARK = 4.5, 3.0
SHOWN = ("demo", "foundry", "three phases", "receptacle, neighbours", "full panel", "broken cable", "empty")
WIDGETS = {
    "ink": ("ground", "sheet", "well", "notefill"), "ink2": ("ground", "sheet", "well"), "stop": ("well",),
    "edge": ("ground", "sheet"),
}  # fmt: skip
"""What the style of the ordinary widgets writes on what: menus, tables, heads, echo; what cannot be chosen too."""
RIMS = {"edge": ("ground", "sheet"), "scribe": ("ground", "sheet", "notefill", "well")}
"""And frames with: fields, chips, what has the focus, the cell in hand."""


class Contrast(DeskCase):
    def test_every_pair_that_is_painted(self) -> None:
        pairs: dict[Pair, str] = {}
        every = jobs()
        for name in SHOWN:
            window = self.open(every[name])
            if name == "demo":
                window.keep_pencil()
            for view in VIEWS:
                stage, _, page = view.partition(":")
                window.session.see(stage=stage, pencils=page == "pencils", practice=None, start=False,
                                   page=page if page in ("spaces", "year") else "",
                                   run_page="bends" if page == "bends" else "line",
                                   wire_page="jobs" if page == "jobs" else "bores",
                                   parts_page="quote" if page == "quote" else "sticks",
                                   at_m=window.session.design.line.length_m * 0.6)  # fmt: skip
                if page == "practice":
                    window.practise()
                self.settle()
                for region in window.regions:
                    if region.isVisible():
                        for pair in painted(region.canvas.picture, "ground"):
                            pairs.setdefault(pair, f"{name}, {view}, {region.name}")
            window.session.see(start=True, practice=None)
            self.settle()
            for pair in painted(window.sheet.region.canvas.picture, "ground"):
                pairs.setdefault(pair, f"{name}, start")
            window.session.put_away()
            window.hide()
        self.assertGreater(len(pairs), 60)
        for scheme, palette in PALETTES.items():
            for (kind, roles, under), where in pairs.items():
                if kind == "mark" and roles <= WIRES | {"ink"} and under <= WIRES:
                    continue  # inside a cable: what its parts are stands in words
                found = max(contrast(palette[role], palette[one]) for role in roles for one in under)
                least = TEXT if kind == "text" else MARK
                with self.subTest(scheme=scheme, kind=kind, roles=sorted(roles), under=sorted(under), where=where):
                    self.assertGreaterEqual(found, least)

    def test_the_ordinary_widgets(self) -> None:
        for scheme, palette in PALETTES.items():
            for least, pairs in ((TEXT, WIDGETS), (MARK, RIMS)):
                for role, grounds in pairs.items():
                    for ground in grounds:
                        with self.subTest(scheme=scheme, role=role, ground=ground):
                            self.assertGreaterEqual(contrast(palette[role], palette[ground]), least)
