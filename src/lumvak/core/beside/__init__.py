"""A second pack beside the first: joining them, and what each carries."""
