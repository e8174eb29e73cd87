"""The stage of cells and count."""
