"""Parts side by side: the same figures of each, under the same load cases."""

from __future__ import annotations

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.estimate.report import estimate
from fletcher.core.estimate.schema import Estimate
from fletcher.core.materials.tables import reference
from fletcher.core.studies.schema import Figures
from fletcher.core.validation.airframe import check_part


def compare(airframe: Airframe, part: Part, case_id: str, others: list[Part]) -> list[Figures]:
    """The figures of other states of a checked part in its place, in this order, all under the part's own load cases
    in the airframe's setting. One that these cases do not fit (a load beyond its end) keeps its own.

    Raises
    ------
    KeyError
        If the part has no such case.
    """
    return [figures(airframe, part, case_id, other) for other in others]


def figures(airframe: Airframe, part: Part, case_id: str, other: Part) -> Figures:
    """The figures of another part in this one's place; see `compare`."""
    same = other.model_copy(update={"cases": part.cases, "id": part.id})
    own = bool(check_part(same, reference()))
    if own:
        same = other.model_copy(update={"id": part.id})
    kept = case_id if any(c.id == case_id for c in same.cases) else same.cases[0].id
    return _figures(estimate(airframe.model_copy(update={"parts": (same,)}), part.id, kept), own)


def _figures(e: Estimate, own: bool) -> Figures:
    return Figures(
        added_g=e.added_g,
        mass_g=e.mass_g,
        bend_mm=e.deflection_mm,
        twist_deg=e.twist_deg,
        breaks_at=e.breaks_at,
        margin=e.margin,
        governs=next(v.name for v in e.verdicts if v.case_id == e.governs),
        first=e.first.sentence,
        at_mm=e.first.at_mm,
        behaviour=e.snaps[0].sentence if e.snaps else None,
        balance_mm=e.balance_mm,
        cost=e.effort.cost,
        hours=e.effort.hours,
        tough_mJ=min((t.first_mJ for t in e.toughness), key=lambda b: b.typ, default=None),
        bow_mm=None if e.warp is None else e.warp.bow_mm,
        divergence_m_s=e.shakes.divergence_m_s if e.shakes else None,
        own_cases=own,
    )
