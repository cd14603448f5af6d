"""Trials: what a part does with typical material values alone, so that hundreds of what-ifs can be told in a moment.

A trial costs about a third of an estimate with its bands; whoever shows one says so, and shows an estimate for what is
kept.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fletcher.core.document.airframe import Airframe, Layer, Part
from fletcher.core.document.cases import Case
from fletcher.core.estimate import phrasing
from fletcher.core.estimate.analyse import Analysis, under_all
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.estimate.report import read_at, twist_at
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.validation.airframe import check_part


@dataclass(frozen=True)
class CaseTrial:
    """One case of a trial: break load over the load, the multiple of it from which something stays, the safety factor,
    how far it bends and twists, and what breaks: the `kind` of failure of the line `line_id`."""

    case_id: str
    name: str
    counts: bool
    breaks_at: float
    stays_at: float
    asked: float
    bend_mm: float
    twist_deg: float
    kind: str
    line_id: str | None
    sentence: str
    at_mm: float
    by_kind: dict[tuple[str, str | None], float]
    """Times the load at which each kind of failure of each line comes by the linear answer."""

    @property
    def margin(self) -> float:
        """Break load over load times safety factor."""
        return self.breaks_at / self.asked


@dataclass(frozen=True)
class Trial:
    """A part tried with typical values: grams, and every case."""

    mass_g: float
    added_g: float
    cases: tuple[CaseTrial, ...]
    divergence_m_s: float

    @property
    def governs(self) -> CaseTrial:
        """The case that leaves least, of those that count, or of all where none does."""
        return min([c for c in self.cases if c.counts] or self.cases, key=lambda c: c.margin)

    def of(self, case_id: str) -> CaseTrial:
        """One of its cases."""
        return next(c for c in self.cases if c.case_id == case_id)

    def losses(self, then: Trial, case_id: str) -> tuple[tuple[float, str], ...]:
        """What a change to `then` loses, as shares, each with its words: of the margin, and of the stiffness in bending
        and in twist in a case. Of a twist below a degree a share says nothing: it counts against a degree."""
        a, b = self.of(case_id), then.of(case_id)
        out = [(1 - then.governs.margin / self.governs.margin, "is weaker")]
        if a.bend_mm > 1e-6:
            out.append((b.bend_mm / a.bend_mm - 1, "deflects more"))
        out.append(((b.twist_deg - a.twist_deg) / max(a.twist_deg, 1.0), "twists more"))
        return tuple(out)


def _case_trial(a: Analysis) -> CaseTrial:
    elements, j = a.prepared.elements, a.judged
    layers = elements.part.layers
    by_kind: dict[tuple[str, str | None], float] = {}
    for mode in a.modes:
        key = (mode.kind, None if mode.line is None else layers[mode.line].id)
        by_kind[key] = min(by_kind.get(key, np.inf), 1 / max(float(mode.use[0].max()), 1e-9))
    stays = [float(c.at[0]) for c in j.changes if c.stays]
    final = j.final.mode
    return CaseTrial(
        case_id=a.case.id,
        name=a.case.name,
        counts=a.case.counts,
        breaks_at=float(min(j.breaks[0], 1e9)),
        stays_at=min(stays, default=1e9),
        asked=a.case.safety_factor,
        bend_mm=float(np.abs(a.deflection[0, read_at(a)])),
        twist_deg=float(np.degrees(np.abs(a.twist[0, twist_at(a)]))),
        kind=final.kind,
        line_id=None if final.line is None else layers[final.line].id,
        sentence=phrasing.failure_sentence(final, elements),
        at_mm=float(a.prepared.geometry.y[j.final.k]),
        by_kind=by_kind,
    )


def trial(airframe: Airframe, part: Part, cases: tuple[Case, ...] | None = None) -> Trial:
    """Try a checked part in all of its cases, or in those given."""
    with samples(0):
        prepared = prepared_for(part, airframe.setting)
        grams = prepared.grams[:, 0]
        told = [_case_trial(a) for a in under_all(prepared, airframe, part, list(cases or part.cases))]
        divergence = float(prepared.shaking.divergence[0])
    return Trial(float(grams.sum()), float(grams[:-1].sum()), tuple(told), divergence)


def possible(part: Part) -> bool:
    """Whether a changed part could be built and computed."""
    return not check_part(part, reference())


def without(part: Part, line_id: str) -> Part:
    """The part with one line switched off."""
    layers = tuple(la.model_copy(update={"enabled": False}) if la.id == line_id else la for la in part.layers)
    return part.model_copy(update={"layers": layers})


def with_layer(part: Part, layer: Layer) -> Part:
    """The part with the line of the same id replaced; not checked."""
    return part.model_copy(update={"layers": tuple(layer if la.id == layer.id else la for la in part.layers)})


def with_line(part: Part, line_id: str, **changes: object) -> Part:
    """The part with fields of one line changed; not checked."""
    layers = tuple(la.model_copy(update=changes) if la.id == line_id else la for la in part.layers)
    return part.model_copy(update={"layers": layers})
