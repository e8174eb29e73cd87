"""Parts to choose from, and how they are looked up."""
