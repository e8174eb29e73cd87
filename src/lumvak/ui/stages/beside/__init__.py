"""Stage: beside. A second pack, joined with this one."""
