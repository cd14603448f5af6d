"""Group F: sentences agree with the figures that they stand beside."""

from __future__ import annotations

import re
from collections.abc import Iterator

from fletcher.core.document.defaults import SUITS
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.uncertainty import samples
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.sense.world import LINES, Rng, Violation, document, line, possible, put_on, sized, with_cases

OPENS = {"sure": "Enough", "likely": "Likely enough", "doubtful": "Doubtful", "no": "Not enough"}


def f1_the_sentence_agrees(rng: Rng | None, key: str, kind: str) -> Iterator[Violation]:
    """F1: the headline says the grade, and its figures are those of the verdict; F2: gravity is never "g"."""
    import numpy as np

    local = rng or np.random.default_rng(sum(map(ord, key + kind)))
    airframe, part = sized(rng, key)
    part = put_on(part, line(local, kind, part))
    part = with_cases(airframe, part, SUITS[part.kind][:6])
    if not possible(part):
        return
    with samples(8):
        for case in part.cases:
            e = estimate(airframe.model_copy(update={"parts": (part,)}), part.id, case.id, brief=True)
            v = e.verdict
            told = v.headline.split(" — ")
            if (
                not any(v.headline.startswith(s) for s in ("Cannot fly", "Bends too far", "Load factor"))
                and told[0] != OPENS[v.enough]
            ):
                yield Violation(f"F1 {key} {case.type}", 10.0, f"{v.enough}: {v.headline}", document(airframe, part))
            if v.enough == "sure" and v.limited and v.margin.low < 1:
                yield Violation(f"F1 {key} {case.type}", 10.0, f"sure at {v.margin}", document(airframe, part))
            if e.verdict != next(x for x in e.verdicts if x.case_id == case.id) or e.breaks_at != v.breaks_at:
                yield Violation(f"F2 {key} {case.type}", 5.0, "two figures under one name", document(airframe, part))
            for text in (v.headline, e.says):
                if re.search(r"\d g\b(?!/m| all up| hung| of that| that| has)", re.sub(r"of \d+ g", "", text)):
                    yield Violation(f"F2 {key} {case.type}", 2.0, text, document(airframe, part))


LAWS = (f1_the_sentence_agrees,)
WAYS = tuple(CONSTRUCTIONS)
KINDS = LINES
