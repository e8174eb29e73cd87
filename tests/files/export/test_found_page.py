"""The page about a found pack as a file: one page, whatever was seen."""

import io

import pypdf
import pytest
from msgspec.structs import replace

from lumvak.core.as_found.audit import audited
from lumvak.core.document.afterwards.as_found import AsFound
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.export.found_page import page_bytes
from tests.core.as_found.test_risks import SOUND

PARTS = load_catalogue()[0]
WORN = replace(
    SOUND, promised_a=90.0, fuse="none", fuse_a=None, bleeds=False, alike="mixed", held="glue",
    state="swollen", charger="bms", sense_leads=3, group_v=(3.7,) * 9 + (1.0,),
)  # fmt: skip


@pytest.mark.parametrize("found", [AsFound(begun=True), SOUND, WORN])
def test_it_is_one_page(found: AsFound) -> None:
    name = "A pack with as long a name as somebody may give to it, from a barn"
    made = page_bytes(audited(found, PARTS), name, "x.pdf")
    pages = pypdf.PdfReader(io.BytesIO(made)).pages
    assert len(pages) == 1 and "certifies nothing" in pages[0].extract_text()


def test_a_page_that_opens_anywhere() -> None:
    made = page_bytes(audited(SOUND, PARTS), "<b>", "X.HTML").decode("utf-8")
    assert made.startswith("<!DOCTYPE html>") and "&lt;b&gt;, as found" in made
