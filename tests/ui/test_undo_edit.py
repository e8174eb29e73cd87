"""Edits on the undo stack: taken, taken back, and one where they are of one kind."""

from PyQt6.QtGui import QUndoStack

from lumvak.ui.undo_edit import UndoEdit


def test_an_edit_that_merges_is_one_step_with_the_one_before_it() -> None:
    stack, taken = QUndoStack(), list[int]()
    for before, after, text in ((0, 1, "readings"), (1, 2, "readings"), (2, 3, "other")):
        stack.push(UndoEdit(taken.append, before, after, text, merges=True))
    assert stack.count() == 2 and taken == [1, 2, 3]
    stack.undo()
    stack.undo()
    assert taken[-2:] == [2, 0]
    stack.redo()
    assert taken[-1] == 2


def test_one_that_does_not_merge_stands_alone() -> None:
    stack, taken = QUndoStack(), list[int]()
    for before in (0, 1):
        stack.push(UndoEdit(taken.append, before, before + 1, "name", merges=False))
    assert stack.count() == 2
