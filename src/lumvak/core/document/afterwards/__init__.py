"""What the document holds of a pack that is there: its record, and a second one."""
