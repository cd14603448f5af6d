"""Reference tables, and bands drawn from them."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.materials import reader, tables, uncertainty
from fletcher.core.materials.materials import Bar, Cord, Range
from fletcher.core.materials.reader import MaterialDataError, record, rows
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import SAMPLES, Inputs, band, draw_bar, draw_foam, draw_skin, limits
from fletcher.core.studies.constructions import CONSTRUCTIONS
from tests.core.factories import run


def test_tables_are_read_whole_and_say_where_values_come_from():
    known = reference()
    assert len(known.foams) >= 20 and len(known.skins) >= 30 and len(known.bars) >= 40
    for table in (known.foams, known.skins, known.bars):
        for m in table.values():
            assert m.basis.startswith("Estimate:"), m.key
            assert m.grade in "ABC"


def test_foams_are_consistent_with_themselves():
    for foam in reference().foams.values():
        mean = 0.5 * (foam.E_tension_MPa.typ + foam.E_compression_MPa.typ)
        if foam.family == "balsa":  # wood: soft in shear for its stiffness along the grain
            assert 0.05 < 2 * (1 + foam.poisson) * foam.G_MPa.typ / mean < 0.2
            continue
        assert 0.6 < 2 * (1 + foam.poisson) * foam.G_MPa.typ / mean < 1.2, foam.key
        assert 1.0 <= foam.E_tension_MPa.typ / foam.E_compression_MPa.typ <= 1.75, foam.key


def test_flat_sizes_follow_the_edge():
    strip = reference().bars["carbon_strip_5x1"]
    assert strip.size() == (5, 1) and strip.size(on_edge=True) == (1, 5)
    assert strip.second_moment_mm4(True) == pytest.approx(25 * strip.second_moment_mm4(False))


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (("density_kg_m3_low", "99"), "density_kg_m3"),
        (("E_tension_MPa_typ", ""), "E_tension_MPa"),
        (("G_MPa_high", "nan"), "G_MPa"),
        (("grade", "Z"), "grade"),
        (("basis", " "), "basis"),
    ],
)
def test_a_table_that_contradicts_itself_is_refused(monkeypatch, change, says):
    foams = list(rows("foams.csv"))
    foams[2] = (foams[2][0], {**foams[2][1], change[0]: change[1]})
    monkeypatch.setattr(reader, "rows", lambda table: iter(foams))
    with pytest.raises(MaterialDataError, match=f"foams.csv line 4.*{says}"):
        reader.records("foams.csv", tables._foam)


@pytest.mark.parametrize(
    ("kind", "change", "says"),
    [
        (Bar, {"shape": "beam"}, "shape"),
        (Bar, {"bore_mm": ""}, "bore_mm: required for a tube, greater than 0"),
        (Bar, {"E_MPa_low": "1e9"}, "E_MPa: needs 0 <= low <= typical <= high"),
        (Bar, {"E_MPa_low": "", "E_MPa_typ": "", "E_MPa_high": ""}, "E_MPa"),
        (Cord, {"diameter_mm": "-1"}, "diameter_mm"),
        (Cord, {"diameter_mm": "thin"}, "diameter_mm"),
        (Cord, {"name": ""}, "name"),
    ],
)
def test_a_row_is_refused_by_its_column(kind, change, says):
    table = {Bar: "bars.csv", Cord: "cords.csv"}[kind]
    row = next(r for _, r in rows(table) if kind is Cord or r["shape"] == "tube")
    assert record(kind, row).key == row["key"]
    with pytest.raises(ValueError, match=says):
        record(kind, {**row, **change})


def test_draws_have_the_stated_quantiles_and_correlations():
    foam = reference().foams["epp_20"]
    draw = draw_foam(foam)
    assert draw.G.shape == (SAMPLES + 1,)
    assert draw.G[0] == foam.G_MPa.typ
    low, middle, high = np.percentile(draw.G[1:], (5, 50, 95))
    assert low == pytest.approx(foam.G_MPa.low, rel=0.12)
    assert middle == pytest.approx(foam.G_MPa.typ, rel=0.05)
    assert high == pytest.approx(foam.G_MPa.high, rel=0.12)
    logs = np.log([v[1:] for v in (draw.E_tension, draw.E_compression, draw.tensile)])
    found = np.corrcoef(logs)
    assert found[0, 1] == pytest.approx(0.85, abs=0.08)
    assert found[0, 2] == pytest.approx(0.6, abs=0.15)


def test_the_same_document_gives_the_same_band_and_other_layers_keep_their_draws():
    uncertainty._draw_foam.cache_clear()
    first = draw_foam(reference().foams["eps_20"]).G.copy()
    draw_skin(reference().skins["glass_49"])
    draw_bar(reference().bars["balsa_5x10"])
    uncertainty._draw_foam.cache_clear()
    assert np.array_equal(first, draw_foam(reference().foams["eps_20"]).G)


def test_band_names_the_input_that_causes_it_and_not_what_is_drawn_with_it():
    rng = np.random.default_rng(1)
    cause = np.concatenate([[1.0], np.exp(0.3 * rng.standard_normal(SAMPLES))])
    beside = np.concatenate([[1.0], cause[1:] * np.exp(0.02 * rng.standard_normal(SAMPLES))])
    other = np.concatenate([[1.0], np.exp(0.3 * rng.standard_normal(SAMPLES))])
    found = band(5 * cause, Inputs([("other", other), ("cause", cause), ("beside", beside)]))
    assert found.causes[0] == "cause"
    assert "beside" not in found.causes and "other" not in found.causes
    assert found.low < 5 < found.high


def test_exact_inputs_give_no_band():
    part = CONSTRUCTIONS["plank"].part()
    a = run(part)
    spread = a.response.deflection[1:, 10].std()
    assert spread > 0
    with pytest.raises(ValueError, match="low <= typical"):
        Range(2, 1, 3)


def test_between_two_points_that_are_infinite_lies_infinity():
    values = np.full((101, 2), np.inf)
    values[:50, 1] = np.arange(50)
    with np.errstate(invalid="raise"):
        low, high = limits(values)
    assert np.isinf([low[0], high[0], high[1]]).all() and low[1] == pytest.approx(5.0)
