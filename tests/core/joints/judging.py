"""Conductors judged for a joint, as the tests of joints ask for them."""

from lumvak.core.catalogue.catalogue import Catalogue
from lumvak.core.document.joints import Joints
from lumvak.core.joints.candidates import (
    Candidate,
    Limited,
    Setting,
    allowed_of,
    bare_conductors,
    limited_by,
    loaded,
)
from lumvak.core.joints.proposal import recommended


def setting_for(catalogue: Catalogue, role: str = "series", **changes: object) -> Setting:
    values: dict[str, object] = {
        "role": role,
        "cell": catalogue.cells["ostrel-21-48"],
        "series": 14,
        "parallel": 7,
        "current_a": 22.0,
        "peak_a": 46.0,
        "peak_s": 6.0,
        "surroundings_c": 20.0,
    }
    return Setting(**{**values, **changes})  # type: ignore[arg-type]


def all_limited(catalogue: Catalogue, setting: Setting, joints: Joints) -> tuple[Limited, ...]:
    role = setting.role
    strip = joints.series if role == "series" else joints.group
    bare = bare_conductors(role, catalogue.conductors, strip.strips, setting.bed(joints))
    allowed = allowed_of(
        role, setting.cell, setting.parallel, joints, setting.surroundings_c, setting.peak_s
    )
    return limited_by(bare, allowed)


def all_judged(catalogue: Catalogue, setting: Setting, joints: Joints) -> tuple[Candidate, ...]:
    return tuple(
        loaded(item, setting.current_a) for item in all_limited(catalogue, setting, joints)
    )


def proposal_of(catalogue: Catalogue, setting: Setting, joints: Joints) -> tuple[Candidate, str]:
    best, reason = recommended(all_limited(catalogue, setting, joints), setting, joints)
    return loaded(best, setting.current_a), reason
