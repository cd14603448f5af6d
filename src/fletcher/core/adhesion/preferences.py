"""Where practice disagrees: what a builder's school does to a ranking of adhesives. Facts that rule one out stand."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal

from fletcher.core.adhesion.adhesives import Adhesive, schools

Side = Literal["one", "other"]

_WAYS: dict[str, dict[str, str]] = {
    "contact_wet_or_dry": {"one": "flashed", "other": "wet"},
    "mist_polyurethane": {"one": "misted", "other": "dry"},
    "accelerator_use": {"one": "accelerated", "other": "plain"},
}
"""Topics that settle how an adhesive is put on."""

_LIKES: dict[str, tuple[frozenset[str], frozenset[str]]] = {
    "foaming_pu_structural": (frozenset({"pu_foaming_brown", "pu_foaming_white"}), frozenset()),
    "ca_on_bead_foam": (frozenset({"ca_medium", "ca_gel", "ca_flexible", "ca_foamsafe", "ca_thin"}), frozenset()),
    "hot_glue_use": (frozenset({"hotmelt_low", "hotmelt_high"}), frozenset()),
    "foam_safe_grades": (
        frozenset({"ca_foamsafe", "contact_foamsafe_clear", "spray_contact_foamsafe"}),
        frozenset({"ca_medium", "ca_gel", "contact_neoprene_solvent", "spray_contact_solvent"}),
    ),
    "flexible_or_rigid_line": (
        frozenset({"solvent_rubbery_clear", "contact_foamsafe_clear"}),
        frozenset({"epoxy_30min", "epoxy_structural_slow"}),
    ),
    "pva_in_foam": (frozenset({"pva_white", "aliphatic_wood", "aliphatic_waterresistant"}), frozenset()),
}
"""Topics on liking: what each side prefers. Where the other side likes nothing, it avoids what the first one likes."""

WORTH = 12.0
"""[J] Points that a school's liking is worth: it moves places, it does not make a weak joint strong."""

TOPICS = (*_WAYS, *_LIKES)
"""Topics that bear on the choice of an adhesive."""

assert {s.key for s in schools()} >= set(TOPICS)


def way(a: Adhesive, chosen: Mapping[str, Side]) -> str | None:
    """The technique that the chosen schools insist on for an adhesive, if they speak of it."""
    for topic, sides in _WAYS.items():
        spoken = next(s for s in schools() if s.key == topic).adhesives
        if topic in chosen and a.key in spoken:
            return sides[chosen[topic]]
    return None


def liking(key: str, chosen: Mapping[str, Side]) -> float:
    """Points for an adhesive by the chosen schools."""
    total = 0.0
    for topic, (one, other) in _LIKES.items():
        side = chosen.get(topic)
        if side is None:
            continue
        liked, disliked = (one, other) if side == "one" else (other, frozenset() if other else one)
        total += WORTH * (key in liked) - WORTH * (key in disliked)
    return total
