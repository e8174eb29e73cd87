"""Where the cells lie."""
