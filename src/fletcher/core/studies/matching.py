"""Like with like: one line is scaled until the part has the same mass, or the same stiffness, as another, or until its
lowest margin is what is needed."""

from __future__ import annotations

from typing import Literal

from fletcher.core.common.quantities import G, in_mm
from fletcher.core.document.airframe import Airframe, Layer, Part, StripLayer
from fletcher.core.document.problems import InvalidDocument, Problem
from fletcher.core.document.stock_steps import steps, widened
from fletcher.core.studies.schema import Match
from fletcher.core.studies.what_if import Trial, possible, trial, with_layer

Figure = Literal["mass", "bend", "twist", "margin"]
_CLOSE = 0.01


def read_figure(told: Trial, figure: Figure, case_id: str) -> float:
    """The figure of a trial that is matched: grams of the part, bend or twist in a case, or the lowest margin."""
    case = told.of(case_id)
    read = {"mass": told.mass_g, "bend": case.bend_mm, "twist": case.twist_deg, "margin": told.governs.margin}
    return read[figure]


def match(airframe: Airframe, part: Part, case_id: str, line_id: str, figure: Figure, wanted: float) -> Match:
    """Scale one line of a checked part until a figure is `wanted`: a strip in width, the rest in the steps of stock.

    Of a margin nothing less will do: the lightest that reaches it is taken, and only where none does the nearest.

    Raises
    ------
    InvalidDocument
        If the part has no such line, it comes in one size only, or the figure cannot be matched.
    """
    layer = next((la for la in part.layers if la.id == line_id and la.enabled), None)
    if layer is None:
        raise InvalidDocument([Problem(path="line_id", message="is not an active lay-up item", value=repr(line_id))])
    if not wanted > 0:
        raise InvalidDocument([Problem(path="wanted", message="must be greater than 0", value=f"{wanted:g}")])
    now = trial(airframe, part)
    tried = _widths(airframe, part, layer, case_id, figure, wanted) if isinstance(layer, StripLayer) else []
    tried += [(p, t, says) for lay, says in steps(layer) if (p := _with(part, lay)) and (t := trial(airframe, p))]
    if not tried:
        message = "comes in one size only. Choose a spar, tape, film or sheet to resize."
        raise InvalidDocument([Problem(path="line_id", message=message, value=repr(line_id))])
    enough = [one for one in tried if figure == "margin" and one[1].governs.margin >= wanted]
    if enough:
        best, told, says = min(enough, key=lambda one: one[1].mass_g)
    else:
        best, told, says = min(tried, key=lambda one: abs(read_figure(one[1], figure, case_id) / wanted - 1))
    reached = read_figure(told, figure, case_id)
    case = told.of(case_id)
    return Match(
        part=best,
        says=says,
        figure=figure,
        wanted=wanted,
        reached=reached,
        close=bool(enough) or abs(reached / wanted - 1) <= _CLOSE,
        grams=told.mass_g - now.mass_g,
        margin=told.governs.margin,
        bend_mm=case.bend_mm,
        first=told.governs.sentence,
    )


def _with(part: Part, layer: Layer) -> Part | None:
    """The part with a line replaced, if it could be built."""
    other = with_layer(part, layer)
    return other if possible(other) else None


def _widths(
    airframe: Airframe, part: Part, layer: StripLayer, case_id: str, figure: Figure, wanted: float
) -> list[tuple[Part, Trial, str]]:
    """Widths of a strip between almost nothing and the whole chord, closed in on the wanted figure by bisection."""
    found: list[tuple[Part, Trial, str]] = []

    def tried(width: float) -> float | None:
        strip = widened(layer, width)
        other = _with(part, strip)
        if other is None:
            return None
        told = trial(airframe, other)
        found.append((other, told, f"{in_mm(strip.width_mm, G)} wide"))
        return read_figure(told, figure, case_id) - wanted

    low, high = 0.5, layer.width_mm
    most = 0.98 * min(part.root_chord_mm, part.tip_chord_mm)
    at_low, at_high = tried(low), tried(high)
    while at_high is not None and at_low is not None and at_low * at_high > 0 and high < most:
        low, at_low = high, at_high
        high = min(1.5 * high, most)
        at_high = tried(high)
        if at_high is None:  # too wide to lie there: the widest that fits is near
            most, high, at_high = 0.9 * high, low, at_low
    if at_low is None or at_high is None or at_low * at_high > 0:
        return found
    for _ in range(12):
        middle = 0.5 * (low + high)
        at = tried(middle)
        if at is None or abs(at) < 0.002 * wanted or high - low < 0.15:
            break
        if at * at_low > 0:
            low, at_low = middle, at
        else:
            high = middle
    return found
