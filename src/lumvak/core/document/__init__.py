"""The project: what the builder decided or measured."""
