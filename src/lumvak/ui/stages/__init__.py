"""The stages of the window, one module each."""
