"""Amounts as a document takes them: 0, or no nearer to it than the floor."""

from hypothesis import strategies as st

from lumvak.core.record import FLOOR


def amounts(most: float) -> st.SearchStrategy[float]:
    """From 0 to ``most``."""
    return st.floats(0.0, most).map(lambda value: 0.0 if value < FLOOR else value)
