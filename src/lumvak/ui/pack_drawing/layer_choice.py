"""Which layer of a pack its drawings show."""

from __future__ import annotations

from lumvak.core.arrangement.layout import Layout
from lumvak.ui.speech import worded
from lumvak.ui.widgets.choice import ChoiceRow


class LayerChoice(ChoiceRow):
    """Which layer of cells is shown; hidden where there is but one."""

    def __init__(self) -> None:
        super().__init__(((0, "layer 1"),), "Layer")
        self.picked.connect(self.show_value)

    @property
    def layer(self) -> int:
        """The layer that is shown, from 0."""
        return int(self.value)

    def show_layers(self, layout: Layout) -> None:
        """Offer the layers of a pack; where there are fewer than before, the last is shown."""
        count = int(layout.layer.max(initial=0)) + 1
        shown = min(self.layer, count - 1)
        self.offer([(place, worded("layer {}", place + 1)) for place in range(count)])
        self.show_value(shown)
        self.setVisible(count > 1)
