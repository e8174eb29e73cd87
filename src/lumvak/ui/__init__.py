"""The window: draws the Evaluation and sends edits to the session."""
