"""Display lists onto PDF pages, the same bytes for the same pages."""

from __future__ import annotations

from collections.abc import Sequence

from awlmark.core.errors import AwlmarkError
from awlmark.core.plain import printed
from awlmark.draw.kit.picture import Picture

RESOLUTION = 1200
"""Units of the page to an inch, so that nothing snaps to a coarse grid."""
FIXED_DATE = "D:20260101000000Z"
"""Stands where a PDF wants a date: a file tells its job, not the hour and the zone it was written in."""


def write_pdf(pages: Sequence[Picture], title: str) -> bytes:
    """Pages, in points, as one PDF.

    Parameters
    ----------
    pages : sequence of Picture
        All of one size, 72 to the inch.
    title : str
        Of the document.

    Raises
    ------
    AwlmarkError
        When Qt cannot begin the document.
    """
    from PySide6.QtCore import QBuffer, QByteArray, QHashSeed, QMarginsF, QSizeF, QUuid
    from PySide6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter

    from awlmark.ink.application import offscreen_application
    from awlmark.ink.painter import paint

    keep = offscreen_application()
    # Qt writes its fonts in the order of a hash, which it salts anew for every process.
    QHashSeed.setDeterministicGlobalSeed()
    data = QByteArray()
    buffer = QBuffer(data)
    buffer.open(QBuffer.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(RESOLUTION)
    title = printed(title)
    writer.setTitle(title)
    writer.setCreator("Awlmark")
    writer.setDocumentId(QUuid.createUuidV5(QUuid("{6d4d6f1e-5f0b-5b0e-9a53-1f3c1d7c0a11}"), title.encode()))
    writer.setDocumentXmpMetadata(QByteArray(b" "))
    size = QPageSize(QSizeF(pages[0].width, pages[0].height), QPageSize.Unit.Point)
    writer.setPageLayout(QPageLayout(size, QPageLayout.Orientation.Portrait, QMarginsF(0, 0, 0, 0)))
    painter = QPainter()
    if not painter.begin(writer):
        raise AwlmarkError("The PDF cannot be begun: Qt refused the document.")
    for number, picture in enumerate(pages):
        if number:
            writer.newPage()
        painter.resetTransform()
        painter.scale(RESOLUTION / 72, RESOLUTION / 72)
        paint(painter, picture, "light", paper=True)
    painter.end()
    buffer.close()
    QHashSeed.resetRandomGlobalSeed()
    del keep
    return _readable(bytes(data.data()))


def _readable(data: bytes) -> bytes:
    """The same document whose spaces are read back as spaces.

    The shipped typeface has one glyph for space and tab, and Qt tells readers that it is the tab.
    """
    import io

    from pypdf import PdfWriter
    from pypdf.generic import StreamObject

    writer = PdfWriter(clone_from=io.BytesIO(data))
    for thing in writer._objects:
        if isinstance(thing, StreamObject):
            content = thing.get_data()
            if b"beginbfrange" in content or b"beginbfchar" in content:
                thing.set_data(content.replace(b"<0009>", b"<0020>"))
    writer.add_metadata({"/CreationDate": FIXED_DATE, "/ModDate": FIXED_DATE})
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()
