"""What leaves the desk: which files, into which folder, under which names; and what is printed, seen first."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Final

from msgspec.structs import replace
from PySide6.QtCore import QSettings, Qt
from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QHBoxLayout,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from awlmark.core.books.words import cap
from awlmark.core.entry.papers import MOST
from awlmark.core.errors import AwlmarkError
from awlmark.core.job.edit import Put, put
from awlmark.core.solve.design import Design
from awlmark.desk.session import Session
from awlmark.export import file_name, folder_name
from awlmark.paper import WRITERS, prints, write_all

if TYPE_CHECKING:
    from PySide6.QtPrintSupport import QPrinter

    from awlmark.draw.kit.picture import Picture

TOLD: Final = {
    "parts.csv": "the list, for the counter",
    "parts.xlsx": "the list, as a workbook",
    "walls.dxf": "walls and yard, for a drawing program",
    "walls.svg": "plan, walls and yard, as a picture",
    "bends.svg": "bends by hand, at true size",
    "packet.pdf": "the packet, for {desk} and the site",
    "tests.pdf": "the test sheet alone",
    "log.csv": "the readings",
}
FIELDS: Final = {
    "customer": "Customer", "address": "Site", "permit": "Permit number", "designer": "Designed by",
    "licence": "Licence",
}  # fmt: skip
PAPERS: Final[dict[str, str | None]] = {"by the job's units": None, "Letter": "letter", "A4": "a4"}
REPLACE, LEAVE = "Replace them", "Leave them"
TICKED, FOLDER, OWN = "export_files", "export_folder", "export_own_folder"
"""Names that the answers are remembered under."""


class ExportDialog(QDialog):
    """Ticks, a folder, and what stands there already; the answers are remembered."""

    def __init__(
        self, parent: QWidget, design: Design, settings: QSettings, start: str,
        ask: Callable[[str, str, tuple[str, ...]], str], said: Callable[[str], object],
    ) -> None:  # fmt: skip
        super().__init__(parent)
        self.design, self.settings, self._ask, self._said = design, settings, ask, said
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Export")
        self.written: list[Path] = []
        column = QVBoxLayout(self)
        column.addWidget(QLabel("What is written:"))
        ticked = str(settings.value(TICKED, ",".join(WRITERS))).split(",")
        self.ticks: dict[str, QCheckBox] = {}
        for name in WRITERS:
            tick = QCheckBox(f"{name}: {TOLD[name].format(desk=design.book.words.desk)}")
            tick.setChecked(name in ticked)
            tick.toggled.connect(self._follow)
            self.ticks[name] = tick
            column.addWidget(tick)
        row = QHBoxLayout()
        self.folder = QLineEdit(str(settings.value(FOLDER, start)))
        self.folder.setAccessibleName("Folder")
        self.folder.textChanged.connect(self._follow)
        choose = QPushButton("Choose…")
        choose.clicked.connect(self._choose)
        row.addWidget(QLabel("Into"))
        row.addWidget(self.folder, 1)
        row.addWidget(choose)
        column.addLayout(row)
        self.own = QCheckBox(f"A folder of its own: {folder_name(design.job)}")
        self.own.setChecked(settings.value(OWN, "yes") == "yes")
        self.own.toggled.connect(self._follow)
        column.addWidget(self.own)
        self.where = QLabel()
        self.where.setWordWrap(True)
        self.where.setTextFormat(Qt.TextFormat.PlainText)
        column.addWidget(self.where)
        self.buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        self.go = self.buttons.addButton("Export", QDialogButtonBox.ButtonRole.ActionRole)
        self.open_folder = self.buttons.addButton("Open the folder", QDialogButtonBox.ButtonRole.ActionRole)
        self.go.clicked.connect(self.write)
        self.open_folder.clicked.connect(self._open)
        self.buttons.rejected.connect(self.reject)
        column.addWidget(self.buttons)
        self.go.setDefault(True)
        self._follow()

    @property
    def names(self) -> tuple[str, ...]:
        """Files that are ticked."""
        return tuple(name for name, tick in self.ticks.items() if tick.isChecked())

    @property
    def target(self) -> Path:
        """Where they go."""
        folder = Path(self.folder.text().strip()).expanduser()
        return folder / folder_name(self.design.job) if self.own.isChecked() else folder

    def there(self) -> list[Path]:
        """Files that stand there already."""
        paths = (self.target / file_name(self.design.job, name) for name in self.names)
        return [path for path in paths if path.exists()]

    def _choose(self) -> None:
        name = QFileDialog.getExistingDirectory(self, "Folder for what is exported", self.folder.text())
        if name:
            self.folder.setText(name)

    def _follow(self) -> None:
        """Say where the files will be."""
        count = len(self.names)
        self.go.setEnabled(count > 0 and bool(self.folder.text().strip()))
        self.open_folder.setEnabled(bool(self.written) and self.target.is_dir())
        if not count:
            self.where.setText("Tick what is to be written.")
            return
        there = len(self.there())
        made = "" if self.target.is_dir() else " The folder is made."
        told = f" {there} of them stand there already." if there else ""
        first = file_name(self.design.job, self.names[0])
        self.where.setText(f"{count} files, such as {first}, in {self.target}.{made}{told}")

    def write(self) -> None:
        """Write what is ticked; what stands there already is replaced only when that is said."""
        names, there = self.names, self.there()
        if there:
            listed = "\n".join(path.name for path in there[:8])
            answer = self._ask("Replace?", f"In {self.target} there are already:\n{listed}", (REPLACE, LEAVE, "Cancel"))
            if answer == "Cancel":
                return
            if answer == LEAVE:
                kept = {path.name for path in there}
                names = tuple(name for name in names if file_name(self.design.job, name) not in kept)
        try:
            self.written = write_all(self.design, self.target, names, self._said, own_names=True)
        except AwlmarkError as problem:
            self.where.setText(str(problem))
            return
        self.settings.setValue(TICKED, ",".join(self.names))
        self.settings.setValue(FOLDER, self.folder.text().strip())
        self.settings.setValue(OWN, "yes" if self.own.isChecked() else "no")
        self._follow()
        self.where.setText(f"{len(self.written)} files are in {self.target}.")
        self._said(f"{len(self.written)} files are in {self.target}.")

    def _open(self) -> None:
        from PySide6.QtCore import QUrl
        from PySide6.QtGui import QDesktopServices

        QDesktopServices.openUrl(QUrl.fromLocalFile(str(self.target)))


class PrintDialog(QDialog):
    """Which sheets, and what heads them; the preview shows them before a printer does."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        super().__init__(parent)
        self.session = session
        self.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.setWindowTitle("Print")
        column, form = QVBoxLayout(self), QFormLayout()
        papers = session.job.papers
        self.fields: dict[str, QLineEdit] = {}
        words = session.design.book.words
        named = {"permit": f"{cap(words.permit)} number", "licence": cap(words.license)}
        for field, name in FIELDS.items():
            line = QLineEdit(getattr(papers, field))
            line.setMaxLength(MOST[field])
            self.fields[field] = line
            form.addRow(named.get(field, name), line)
        self.paper = QComboBox()
        self.paper.addItems(list(PAPERS))
        self.paper.setCurrentText(next(name for name, size in PAPERS.items() if size == papers.paper))
        form.addRow("Paper", self.paper)
        column.addLayout(form)
        column.addWidget(QLabel("What is printed:"))
        self.list = QListWidget()
        self.list.setAccessibleName("Sheets")
        self.prints = prints(session.design)
        self.list.addItems(list(self.prints))
        self.list.setCurrentRow(0)
        self.list.itemActivated.connect(lambda _item: self.preview())
        column.addWidget(self.list)
        self.told = QLabel("What heads the sheets is kept with the job.")
        column.addWidget(self.told)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        see = buttons.addButton("See it first…", QDialogButtonBox.ButtonRole.ActionRole)
        see.setDefault(True)
        see.clicked.connect(self.preview)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def keep(self) -> None:
        """Take what heads the sheets into the job, as one step."""
        told = {field: line.text().strip() for field, line in self.fields.items()}
        job = self.session.job
        papers = replace(job.papers, **told, paper=PAPERS[self.paper.currentText()])
        if papers != job.papers:
            self.session.apply("head of the papers", put(job, Put("papers", papers)))

    def pages(self) -> list[Picture]:
        """The sheets that are chosen."""
        return self.prints[self.list.currentItem().text()](self.session.design)

    def preview(self) -> None:
        """Show them as they print; the preview's own button sends them to a printer."""
        from PySide6.QtPrintSupport import QPrintPreviewDialog

        self.keep()
        pages = self.pages()
        if not pages:
            self.told.setText("There is nothing of that to print yet.")
            return
        # The preview does not keep its printer.
        self.printer = printer_for(pages)
        self.shown = QPrintPreviewDialog(self.printer, self)
        self.shown.setWindowTitle(f"{self.session.job.name}: {self.list.currentItem().text()}")
        self.shown.paintRequested.connect(lambda onto: print_pages(onto, pages))
        self.shown.resize(900, 720)
        self.shown.open()


def printer_for(pages: list[Picture]) -> QPrinter:
    """A printer set to the paper of some pages."""
    from PySide6.QtCore import QMarginsF, QSizeF
    from PySide6.QtGui import QPageLayout, QPageSize
    from PySide6.QtPrintSupport import QPrinter

    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    size = QPageSize(QSizeF(pages[0].width, pages[0].height), QPageSize.Unit.Point)
    printer.setPageLayout(QPageLayout(size, QPageLayout.Orientation.Portrait, QMarginsF(0, 0, 0, 0)))
    printer.setFullPage(True)
    return printer


def print_pages(printer: QPrinter, pages: list[Picture]) -> None:
    """Paint pages onto a printer at their true size, whatever its resolution."""
    from PySide6.QtGui import QPainter

    from awlmark.ink.painter import paint

    painter = QPainter()
    if not painter.begin(printer):
        raise AwlmarkError("The printer takes no page.")
    for number, page in enumerate(pages):
        if number:
            printer.newPage()
        painter.resetTransform()
        scale = printer.resolution() / 72
        painter.scale(scale, scale)
        paint(painter, page, "light", paper=True)
    painter.end()
