"""Cores that give off poison under a hot wire, or burn, are never planned, priced or mended with one."""

from __future__ import annotations

import pytest

from fletcher.core.document.airframe import Airframe, Part
from fletcher.core.document.damage import CrackMark
from fletcher.core.estimate.effort import effort_of
from fletcher.core.making.making import making
from fletcher.core.materials.tables import reference
from fletcher.core.repair.recipe import Fix
from fletcher.core.repair.repair_table import steps_of
from fletcher.core.studies.constructions import CONSTRUCTIONS

MELTS = ("EPP", "EPO", "EPS", "XPS", "EPE", "foam_board_core")
CRACK = CrackMark(id="c", at_mm=200, face="front", depth_mm=40)


def wing_of(foam: str) -> Part:
    return CONSTRUCTIONS["cut_core"].part().model_copy(update={"foam": foam})


@pytest.mark.parametrize("foam", list(reference().foams))
def test_a_wire_cuts_what_melts_and_nothing_else(foam):
    part, melts = wing_of(foam), reference().foams[foam].family in MELTS
    assert reference().foams[foam].hot_wire == melts
    effort = effort_of(part)
    assert ("hot_wire" in effort.tools) == melts
    assert ("fine saw" in effort.tools) != melts
    told = making(Airframe(name="A", all_up_mass_g=600, parts=(part,)), part, reference())
    cautions = {c.key for c in told.cautions}
    assert ("hot_wire_burn" in cautions) == ("electric_supply" in cautions) == melts
    assert "dust_general" in cautions or any("dust" in c for c in cautions)
    rows = {r.name: r for r in told.stack.rows}
    assert ("Hot-wire template: height" in rows) == melts
    sawn = rows.get("Template to saw and sand to: height")
    assert melts or (sawn is not None and sawn.says.startswith("no hot wire: "))
    assert melts or sawn.root_mm == rows["Core: height"].root_mm  # no kerf is added


@pytest.mark.parametrize(("way", "tool"), [("graft", "saw"), ("scarf", "long blade")])
@pytest.mark.parametrize("foam", ["pvc_60", "pmi_52", "balsa_block_light", "xps_30"])
def test_a_mend_names_a_wire_only_where_it_may_be_used(way, tool, foam):
    (step, *_) = steps_of(Fix(mark="c", way=way), CRACK, wing_of(foam))
    wired = any("hot wire" in t for t in step.tools)
    assert wired == ("hot_wire_fumes" in step.cautions) == (foam == "xps_30")
    assert any(tool in t for t in step.tools)


def test_sawing_takes_longer_than_the_wire():
    assert effort_of(wing_of("pvc_60")).hours.typ > 1.2 * effort_of(wing_of("xps_30")).hours.typ
