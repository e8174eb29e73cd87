"""Packs and cells beside each other: all of them, the ladder of counts, why not, what would do."""
