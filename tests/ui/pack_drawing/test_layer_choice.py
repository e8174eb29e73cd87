"""The layers of a pack are offered where there are several."""

import numpy as np
from msgspec.structs import replace

from lumvak.ui.pack_drawing.layer_choice import LayerChoice
from lumvak.ui.shell.window import Window


def test_a_layer_is_offered_for_each_and_none_where_there_is_one(window: Window) -> None:
    choice = LayerChoice()
    layout = window.session.evaluation.laid_out.joined_pack.layout
    choice.show_layers(layout)
    assert choice.isHidden() and choice.layer == 0
    choice.show_layers(replace(layout, layer=np.arange(len(layout)) % 2))
    assert not choice.isHidden()
    choice.picked.emit(1)
    assert choice.layer == 1
    # Where there are fewer than before, the last is shown.
    choice.show_layers(layout)
    assert choice.layer == 0 and choice.isHidden()
