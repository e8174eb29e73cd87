"""Words of the field, one for one thing: what is said keeps to them, and so does the handbook."""

import re
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT / "tools"))

# What is not said, and what is said in its place.
NOT_SAID = {
    r"(?<!, )\bboards?\b(?! of 0)": "BMS",
    r"\bsurvives?\b": "maximum voltage",
    r"\bfor good\b": "continuous",
    r"\bschools?\b": "sizing criterion",
    r"\bleans? on the\b": "relies on the BMS cut-off",
    r"\bout of step\b": "out of balance",
    r"\blamp (first )?turns\b": "charger shows full",
    r"\bceilings?\b": "charge limit",
    r"\bfair share\b": "equal share",
    r"\btake-off places\b": "main-lead positions",
    r"\bmovers?\b": "active balancer",
    r"\bsnake\b": "serpentine",
    r"\b[Ee]ven(s|ed|ing)? (them |it |groups )?out\b": "balance",
    r"\bcounts on,": "usable after ageing",
    r"^charged to$": "charge voltage per cell",
    r"^follow it$": "use the top-ranked pack",
    r"^take in hand$": "use this pack",
    r"\bto spare\b": "margin",
    r"\bdeal(s|t|ing)?\b": "assign",
    r"\b[Rr]est voltages?\b": "OCV",
    r"\b[Ss]lips: ": "common mistakes",
    r"^(weight|price)$": "mass, cost",
    r"\bseries joints?\b": "series connection",
    r"\bgroup joints?\b": "group strip",
    r"\b[Cc]ounted on\b": "usable after ageing",
    r"\b[Pp]ut away\b": "stored",
    r"\bpack in hand\b": "the chosen pack",
    r"\b[Vv]essels?\b": "group",
    r"^(No heavier|No dearer|Weight counts|Around the pack)\b": "mass, cost, cooling",
}
# Keys of files, heads of tables that are read again, modules as a builder named them, words by
# which people look for something, and a sentence in which a word means something else.
KEPT = {"joint 3", "lead 3, joint 3, main minus or main plus"}


@pytest.fixture(scope="module")
def said() -> dict[str, str]:
    import sentences

    return {
        text: place
        for text, place in sentences.sentences().items()
        if text not in KEPT and not re.fullmatch(r"[a-z0-9_.\-]+", text)
    }


@pytest.mark.parametrize("wrong", NOT_SAID)
def test_no_sentence_says_it_otherwise(said: dict[str, str], wrong: str) -> None:
    found = [
        f"{place}: {text}" for text, place in said.items() if re.search(wrong, text, re.IGNORECASE)
    ]
    assert not found, f"say “{NOT_SAID[wrong]}”: {found}"


@pytest.mark.parametrize("page", sorted((ROOT / "src/lumvak/data/handbook").glob("*.md")))
def test_the_handbook_says_it_so_too(page: Path) -> None:
    text = re.sub(r"`[^`]*`|\([^)]*\)", "", page.read_text("utf-8"))
    found = [
        (wrong, hit.group(0))
        for wrong in NOT_SAID
        if not wrong.startswith("^")
        for hit in re.finditer(wrong, text)
    ]
    assert not found


def test_one_who_looks_for_the_usual_word_finds_it(said: dict[str, str]) -> None:
    words = " ".join(said)
    for wanted in (
        "BMS",
        "OCV",
        "Maximum voltage",
        "Low-voltage cut-off",
        "series connections",
        "group strips",
        "sizing criterion",
        "active balancer",
    ):
        assert wanted in words


@pytest.mark.parametrize("page", sorted((ROOT / "src/lumvak/data/handbook").glob("*.md")))
def test_what_the_handbook_points_at_is_called_so_on_the_screen(page: Path) -> None:
    import sentences

    if page.is_symlink():
        return
    seen = "\n".join(sentences.sentences()).lower()
    named = re.findall(r"(?<!\*)\*(?!\*)([^*]+?)\*(?!\*)", page.read_text("utf-8"))
    words = [" ".join(name.lower().split()).rstrip(".,?…:") for name in named]
    assert [word for word in words if word not in seen] == []
