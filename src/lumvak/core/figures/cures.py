"""Where each finding is cured: the field of the document that changes it."""

from __future__ import annotations

import re

from lumvak.core.figures.finding import Finding

# By the code of a finding, or a pattern of codes: the path of the field to go to. An empty path is
# a caution, which nothing that is typed changes; “*” is the field that the finding is about.
# fmt: off
CURES: tuple[tuple[str, str], ...] = (
    # The need.
    ("window-assumed", "*"), ("window-class", "*"), ("peak-estimated", "need.peak_given"),
    ("peak-under-load", "need.peak_current_a"), ("inverter-mains", "need.rails"),
    ("nickel-count", "need.nickel_cells"), ("rail-.*", "need.rails"),
    ("power-load", "need.load_basis"), ("over-controller", "need.controller_limit_a"),
    ("lead-window", "need.max_voltage_v"), ("lead-charger", "need.lead_charger"),
    ("stall-cut", "need.stall_current_a"), ("stall-not-cut", "need.stall_current_a"),
    # Cells and count.
    ("need-.*", "pack.parallel"), ("oversized", "need.runtime_h"),
    ("nothing-serves", "need.rated_voltage_v"), ("limits-refuse", "pack.most_mass_kg"),
    ("over-voltage", "pack.series"), ("gives-up", "pack.series"), ("runs-low", "pack.series"),
    ("over-60-v", "pack.series"), ("cells-thin", "pack.parallel"), ("beyond-sheet", "pack.cell"),
    ("resistance-assumed", "pack.cell"), ("rating-hot", "pack.cell"), ("reclaimed", "pack.cell"),
    ("starts-weak", "need.coldest_c"),
    # Discharge.
    ("first-run", ""), ("power-not-to-be-had", "pack.parallel"),
    ("peak-stops", "need.peak_current_a"), ("too-warm", "pack.parallel"),
    # Arrangement.
    ("does-not-fit", "arrangement.room.kind"), ("barriers", "arrangement.barrier_v"),
    ("barrier-tight", "joints.gap_mm"), ("no-gap", "joints.gap_mm"),
    ("way-gone", "arrangement.way"), ("exit-.*", "arrangement.kept_free"),
    ("metal-wall", "arrangement.wall_mm"), ("metal-.*", "joints.least_mm"),
    ("holder-.*", "arrangement.holder"),
    ("outline-.*|cut-out-outside", "arrangement.room.kind"),
    ("parts?-.*", "arrangement.kept_free"),
    ("cells?-outside|cells-overlap|spots-count|pack-open", "arrangement.spots"),
    # Joints.
    ("live-terminals", ""), ("rings", ""), ("solder-heat", "joints.joining"),
    ("cells-uneven", "joints.take_off"), ("piece-hot", "joints.series.part"),
    ("not-solved", "joints.side_a"), ("strings", "joints.scheme"),
    ("joint-layers", "joints.series.part"), ("joint-stack", "joints.series.layers"),
    ("bar-narrow", "joints.thread"), ("cell-unconnected", "joints.side_a"),
    ("joint-shorts", "joints.changes"), ("lead-.*", "joints.lead_points"),
    ("measured-nowhere", "pack.parallel"), ("series-joint-.*", "joints.series.part"),
    ("group-joint-.*", "joints.group.part"), ("joints-set-rating", "joints.series.part"),
    ("series-set-rating", "joints.series.part"), ("group-set-rating", "joints.group.part"),
    ("links-limit", "joints.link_a"), ("links-set-rating", "joints.link_a"),
    ("bridge-needless", "joints.series.part"), ("bridge-.*", "joints.bridge"),
    ("fold-side", "joints.side_a"), ("weld-.*", "joints.weld_test.reads"),
    # Power path.
    ("measure-first", ""), ("power-over-60-v", "pack.series"), ("leads-limit", "leads.wire"),
    ("leads-set-rating", "leads.wire"), ("charge-leads-limit", "charge_leads.wire"),
    ("spark", "power.precharge"), ("no-precharge", "power.precharge"),
    ("precharge-.*", "power.precharge"), ("connector-as-specified", "power.connector"),
    ("connector-.*", "power.connector"), ("bms-as-specified", "protection.board"),
    ("switch-.*", "power.switch"), ("no-surge", "power.surge"), ("surge-.*", "power.surge"),
    ("fuse-late", "power.fuse_place"), ("no-fuse", "power.fuse"),
    ("fuse-window", "leads.wire"), ("fuse-.*", "power.fuse"),
    ("links-before-board", "joints.link_a"), ("no-charge-fuse", "power.charge_fuse"),
    ("charge-fuse-window", "charge_leads.wire"), ("charge-fuse-.*", "power.charge_fuse"),
    ("board-.*", "protection.board"), ("one-port", "need.contacts"),
    ("setting-beyond", "protection.settings"), ("settings-unused", "protection.settings"),
    ("overload-unguarded", "power.fuse"), ("shelf-.*", "rest.charge"),
    ("balance-leads-unfused", "balance_leads.fuse_a"), ("cells-set-rating", "pack.parallel"),
    (".*-set-rating", "pack.parallel"),
    # Prove.
    ("proof-.*", ""),
    # Charging.
    ("braking-full", "pack.ceiling_v"), ("lamp-waits", "charging.by"),
    ("charger-under", "need.charger_voltage_v"), ("charger-.*", "charging.charger"),
    ("cold-charge", "need.coldest_c"), ("ceiling-too-high", "pack.ceiling_v"),
    ("floor-over-ceiling", "charging.floor_v"), ("evens-stop", "charging.by"),
    ("never-even", "charging.by"), ("charge-waits", "charging.cell_c"),
    ("group-dead", "charging.groups"), ("groups-out-of-step", "charging.groups"),
    ("groups-small", "charging.groups"),
    # Cells in hand.
    ("old-count", "hand.old.groups"), ("old-join", "hand.old.groups"),
    ("old-unread", "hand.old.groups"), ("old-uneven", "hand.old.groups"),
    ("old-chemistry", "hand.old.cell"), ("old-years", "hand.old.years"),
    ("old-full", "pack.ceiling_v"), ("old-.*", "pack.parallel"),
    ("hand-placed-rejected", "hand.placed"), ("hand-.*", "hand.cells"),
    # Balance leads.
    ("taps-astray", "balance_leads.ways"), ("taps-few-inputs", "protection.board"),
    ("taps-bricks", "balance_leads.modules"), ("taps-.*", "balance_leads.totals"),
    ("watch-drift", "watch.calibrations"), ("watch-count", "watch.sets"),
    ("watch-.*", "watch.sets"),
)
# fmt: on
# So each section of the path is set.
LINKS = {
    "cells": "pack.parallel",
    "group-joints": "joints.group.part",
    "take-offs": "joints.take_off",
    "series-joints": "joints.series.part",
    "link": "joints.link_a",
    "contact": "joints.joining",
    "leads": "leads.wire",
    "fuse": "power.fuse",
    "board": "protection.board",
    "connector": "power.connector",
    "switch": "power.switch",
    "surge": "power.surge",
}  # fmt: skip


def cure_of(finding: Finding) -> str | None:
    """Path of the field that changes a finding.

    Empty for a caution, which nothing changes; ``None`` where there is no such code.
    """
    if finding.cure:
        return finding.cure
    path = next((path for known, path in CURES if re.fullmatch(known, finding.code)), None)
    return finding.figure if path == "*" else path
