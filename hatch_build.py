"""What the wheel says of itself: the README, with its pictures where it has a home on the web.

``LUMVAK_HOME`` is the address below which this tree is shown, as it stands when a wheel is built;
links of the README lead there then. Without it links into the tree become plain words, so that
nothing on a package index leads nowhere.
"""

import os
import re
from pathlib import Path
from typing import Any

from hatchling.metadata.plugin.interface import MetadataHookInterface

PICTURE = re.compile(r"!\[([^\]]*)\]\((?!https?:)([^)]+)\)\n?")
LINK = re.compile(r"\[([^\]]*)\]\((?!https?:|#)([^)]+)\)")


def readme_for(text: str, home: str) -> str:
    """The README for a package index; ``home`` is where this tree is on the web, or empty."""
    if home:
        at = home.rstrip("/")
        return LINK.sub(rf"[\1]({at}/\2)", text)
    return LINK.sub(r"\1", PICTURE.sub("", text))


class ReadmeHook(MetadataHookInterface):
    """Gives hatchling the README and the links."""

    def update(self, metadata: dict[str, Any]) -> None:
        """Set the README, and the links where there is a home."""
        home = os.environ.get("LUMVAK_HOME", "")
        text = Path(self.root, "README.md").read_text("utf-8")
        metadata["readme"] = {
            "content-type": "text/markdown",
            "text": readme_for(text, home),
        }
        if home:
            pages = {"Documentation": "README.md", "Changes": "CHANGELOG.md"}
            metadata["urls"] = {
                "Home": home,
                **{name: f"{home.rstrip('/')}/{page}" for name, page in pages.items()},
            }
