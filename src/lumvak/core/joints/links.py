"""The joints as links of the chain: on the cells, fusible, group, series, take-offs."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from lumvak.core.arrays import distinct
from lumvak.core.conductors.melting import link_curves
from lumvak.core.document.joints import Joints
from lumvak.core.figures.figure import Figure
from lumvak.core.figures.link import Link, PathLoad
from lumvak.core.joints.candidates import ROLE_NOUNS, Role, layers_name
from lumvak.core.joints.joined_pack import JoinedPack
from lumvak.core.joints.joint_figures import JointResult
from lumvak.core.joints.network_figures import NetworkFigures
from lumvak.core.joints.piece_sections import joining_of, time_constants_s
from lumvak.core.said import phrase, say
from lumvak.core.time_current import TIMES_S, Array, going_over, hold_curve


class JointLinks(Struct, frozen=True):
    """The links that joints make; ``None`` where there is no such joint."""

    contact: Link | None = None
    fusible: Link | None = None
    group: Link | None = None
    series: Link | None = None
    take_offs: Link | None = None

    @property
    def every(self) -> tuple[Link, ...]:
        """Those that are there, in the order of the current."""
        found = (self.contact, self.fusible, self.group, self.series, self.take_offs)
        return tuple(link for link in found if link is not None)

    def of_role(self, role: Role) -> Link | None:
        """The link of the group or of the series joints."""
        return self.group if role == "group" else self.series


def joint_links(
    group: JointResult,
    series: JointResult,
    joined_pack: JoinedPack,
    network: NetworkFigures | None,
    joints: Joints,
    ambient: Figure,
    load: PathLoad,
) -> JointLinks:
    """The links of the joints (methods 13).

    Where the network is solved they carry what they do as they share the current; else as if
    they shared it evenly.
    """
    contact = fusible = take_offs = None
    if network is not None and network.contact_limit is not None:
        method = joining_of(joints, joined_pack.layout.cell)
        contact = load.link("contact", "cell joints", method, "joints", network.contact_limit)
    if network is not None and network.link_limit is not None and joints.link_a is not None:
        # What surely does not melt one of them, shared as the busiest cell is.
        limit = network.link_limit
        least = link_curves(joints.link_a, ambient.number)[0] * limit.number / joints.link_a
        melts = going_over(least, limit.number)
        fusible = load.link(
            "link",
            phrase("links"),
            phrase("{} each", say(joints.link_a, "A")),
            "joints",
            limit,
            melts,
        )
    if network is not None and network.takeoff_limit is not None:
        held = strips_hold(joined_pack.at_leads, joined_pack)
        most = math.inf if held is None else None
        take_offs = load.link(
            "take-offs",
            "lead strips",
            detail="strips at the main leads",
            stage="joints",
            limit=network.takeoff_limit,
            hold_a=held,
            peak_a=most,
        )
    return JointLinks(
        contact,
        fusible,
        _of_role(group, joined_pack, network, load),
        _of_role(series, joined_pack, network, load),
        take_offs,
    )


def _of_role(
    result: JointResult, joined_pack: JoinedPack, network: NetworkFigures | None, load: PathLoad
) -> Link | None:
    """The link of one kind of joint; ``None`` where there is nothing to join."""
    role = result.setting.role
    if result.setting.joints == 0:
        return None
    limit, peak = result.figures.limit, result.figures.peak_limit
    if network is not None:
        limit = network.limits.get(role, limit)
        peak = network.peak_limits.get(role, peak)
    return load.link(
        f"{role}-joints",
        phrase("{}", ROLE_NOUNS[role]),
        detail="nothing to join"
        if limit.value is None
        else phrase("{}, {}", result.chosen.part.said, layers_name(result.chosen.layers)),
        stage="joints",
        limit=limit,
        hold_a=strips_hold(joined_pack.role(role), joined_pack),
        peak_a=math.inf if peak.value is None else peak.number,
    )


def strips_hold(
    role_mask: np.ndarray[tuple[int], np.dtype[np.bool_]], joined_pack: JoinedPack
) -> Array | None:
    """(T,) pack current in A that the pieces of a role hold; ``None`` where nothing is solved.

    Of pieces with like time constants the one that is first at its limit counts.
    """
    if joined_pack.carried is None:
        return None
    own = np.flatnonzero(role_mask & np.isfinite(joined_pack.carried.pack_limit_a))
    if not len(own):
        return None
    limits = joined_pack.carried.pack_limit_a[own]
    taus = np.round(time_constants_s(joined_pack.sections)[own], 2)
    held = np.full(TIMES_S.shape, np.inf)
    for tau in distinct(taus):
        held = np.minimum(held, hold_curve(float(limits[taus == tau].min()), max(float(tau), 0.01)))
    return held
