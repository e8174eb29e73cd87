"""The working of figures that the evaluation does not hold."""

from __future__ import annotations

from msgspec.structs import replace

from lumvak.core.evaluate import evaluate
from lumvak.core.figures.figure import Figure, walk
from lumvak.ui.session import Session
from lumvak.ui.speech import spoken, worded


def explain_made(session: Session, figure: Figure) -> None:
    """Show how a figure worked out on demand comes about."""
    if session.add_figures(walk((figure,)), session.revision):
        session.explain(figure.key)


def explain_other(session: Session, pack: tuple[str, int, int], key: str) -> None:
    """Show how the figure ``key`` comes about for another pack (cell id, series, parallel)."""
    cell, series, parallel = pack
    project = session.project
    taken = replace(project.pack, cell=cell, series=series, parallel=parallel)
    evaluation = evaluate(
        replace(project, pack=taken),
        session.catalogue,
        found=session.evaluation.sized.options,
    )
    figure = evaluation.figures.get(key)
    if figure is None:
        return
    name = worded("{}S{}P of {}", series, parallel, evaluation.sized.choice.cell.name)
    own = replace(
        figure,
        key=f"{key} of {cell} {series}S{parallel}P",
        label=f"{spoken(figure.label)}, {name}",
    )
    session.add_figures((own,), session.revision)
    session.explain(own.key)
