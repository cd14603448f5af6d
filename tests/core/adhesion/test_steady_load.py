"""What glue bears for good: shares by kind, rubber before contact, and what creeps is ruled out by what stays on."""

from __future__ import annotations

import itertools

import pytest

from fletcher.core.adhesion.adhesives import adhesives
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import glue
from fletcher.core.adhesion.steady_load import STEADY, steady_share
from fletcher.core.materials.tables import reference


def ask(**changes):
    return {c.key: c for c in glue(GlueNeed(schools={}, **changes), reference()).choices}


@pytest.mark.parametrize(
    ("key", "share"),
    [
        ("tape_transfer", 0.05), ("spray_contact_foamsafe", 0.05), ("contact_foamsafe_clear", 0.08),
        ("hotmelt_low", 0.08), ("contact_neoprene_solvent", 0.15), ("solvent_rubbery_clear", 0.2), ("pva_white", 0.3),
        ("pu_foaming_white", 0.45), ("ca_medium", 0.45), ("epoxy_30min", 0.45),
    ],
)  # fmt: skip
def test_each_kind_keeps_its_share(key, share):
    drawn = steady_share(adhesives()[key])
    assert float(drawn[0]) == pytest.approx(share) and drawn.min() > 0 and drawn.max() < 1


def test_R9_a_parked_strip_of_tape_bears_a_twentieth_of_its_hold(proof):
    """REPAIR, check R9: 25 wide, 150 long, 0.05 MPa: 187.5 N for a minute, 9.375 N parked."""
    hold = 25 * 150 * 0.05
    proof("parked tape", hold * STEADY["tape"].typ, 9.375, 1e-9)


def test_what_it_bears_for_good_is_its_share_of_what_it_holds_cured():
    for key, c in ask(area_cm2=20).items():
        assert c.steady_N.typ == pytest.approx(c.finally_N.typ * float(steady_share(adhesives()[key])[0]))
        assert c.steady_N.low <= c.steady_N.typ <= c.steady_N.high < c.finally_N.high


def test_a_load_that_stays_on_rules_out_what_creeps_and_leaves_what_does_not():
    free, hung = ask(hold_N=60), ask(hold_N=60, steady_N=50)
    assert not free["contact_foamsafe_clear"].vetoes and not hung["pu_foaming_white"].vetoes
    assert "creeps" in hung["contact_foamsafe_clear"].vetoes[-1] and "50 N" in hung["contact_foamsafe_clear"].vetoes[-1]
    assert hung["contact_foamsafe_clear"].then_N == free["contact_foamsafe_clear"].then_N
    order = list(hung)
    assert order.index("pu_foaming_white") < order.index("contact_foamsafe_clear")


def test_more_that_stays_on_never_lets_a_glue_back_in():
    out = [{k for k, c in ask(steady_N=n).items() if c.vetoes} for n in (0, 2, 10, 60, 400)]
    for less, more in itertools.pairwise(out):
        assert less <= more
    assert out[0] < out[-1]
