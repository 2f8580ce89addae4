"""The text of the pages of a PDF file."""

from pathlib import Path

import pypdfium2


def texts_of(path: Path) -> list[str]:
    """Page by page, lines as they stand."""
    with pypdfium2.PdfDocument(path) as document:
        return [page.get_textpage().get_text_range().replace("\r\n", "\n") for page in document]
