"""The handbook: its pages, and the words in them."""
