"""The run of a pack in time, and how sure it is."""
