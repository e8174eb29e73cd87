"""The stage where the pack is proven."""
