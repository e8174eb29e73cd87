"""Narrow strips that the builder has picked, so that options are stopped by what they carry."""

NARROW = "nickel-0.1x5"
NARROW_STRIPS = {"joints.series.part": NARROW, "joints.group.part": NARROW}
