"""The catalogue as commands about parts take it: what ships, the builder's own, and more files."""

from __future__ import annotations

import argparse

from lumvak.cli.told import complain
from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.files.catalogue_file import load_catalogue
from lumvak.files.problem import FileProblem


def catalogue_of(chosen: argparse.Namespace) -> Catalogue | None:
    """The catalogue that was chosen; ``None``, and told, where a file of it is no good."""
    try:
        catalogue, problems = load_catalogue(chosen.catalogue)
    except FileProblem as problem:
        complain(chosen.command, problem)
        return None
    for text in problems:
        complain(chosen.command, text)
    return catalogue
