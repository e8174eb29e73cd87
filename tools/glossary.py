"""Writes the handbook's page of words from docs/glossary.md."""

from __future__ import annotations

from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "docs" / "glossary.md"
PAGE = ROOT / "src" / "lumvak" / "data" / "handbook" / "words.md"
HEAD = "# Words\n\nEach term as Lumvak uses it. F1 with the pointer on a word opens it here.\n"


def page_text() -> str:
    """The page, in Markdown: a term and its meaning a paragraph."""
    rows = [
        [cell.strip() for cell in line.strip().strip("|").split("|")]
        for line in SOURCE.read_text("utf-8").splitlines()
        if line.startswith("| ") and not line.startswith("| term")
    ]
    return HEAD + "".join(f"\n**{term}**: {meaning}.\n" for term, meaning, _ in rows)


if __name__ == "__main__":
    PAGE.write_text(page_text(), "utf-8")
    print(f"wrote {PAGE.relative_to(ROOT)}")
