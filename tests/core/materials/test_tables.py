"""The tables agree with themselves: mass with thickness, strength with stiffness, cloth with its fibres; every column
is read and every row has a price."""

from __future__ import annotations

from functools import partial

import pytest

from fletcher.core.estimate.effort import prices
from fletcher.core.materials import reader, tables
from fletcher.core.materials.materials import Bar, Cloth, Cord, Fastener
from fletcher.core.materials.reader import record, rows
from fletcher.core.materials.tables import reference

READERS = {
    "foams.csv": tables._foam, "skins.csv": tables._skin, "bars.csv": partial(record, Bar),
    "sheets.csv": tables._sheet, "cloths.csv": partial(record, Cloth), "cords.csv": partial(record, Cord),
    "fittings.csv": tables._fitting, "fasteners.csv": partial(record, Fastener), "resins.csv": tables._resin,
}  # fmt: skip


class Watched(dict):
    """A row that remembers which of its columns were asked for."""

    def __init__(self, row, asked):
        super().__init__(row)
        self.asked = asked

    def __getitem__(self, column):
        self.asked.add(column)
        return super().__getitem__(column)

    def get(self, column, default=None):
        self.asked.add(column)
        return super().get(column, default)


@pytest.mark.parametrize("table", READERS)
def test_every_column_of_a_table_is_read(table, monkeypatch):
    asked: set[str] = set()
    watched = [(line, Watched(row, asked)) for line, row in rows(table)]
    monkeypatch.setattr(reader, "rows", lambda _: iter(watched))
    read = reader.records(table, READERS[table])
    assert set(watched[0][1]) - asked == set()
    assert len(read) == len(watched)


@pytest.mark.parametrize("name", list(vars(reference())))
def test_every_row_has_a_price(name):
    store = getattr(reference(), name)
    assert store and [key for key in store if key not in prices()] == []


DENSITY = {
    "balsa": (90, 240), "plywood": (400, 800), "hardwood": (400, 800), "glass_laminate": (1700, 2000),
    "carbon_laminate": (1450, 1650), "HDPE": (930, 980), "nylon": (1080, 1180), "aluminium": (2600, 2800),
    "HIPS": (1020, 1080), "PC": (1150, 1250), "PET": (1250, 1400), "XPS": (25, 45), "EPP": (15, 60),
    "moulded": (20, 60), "twin_wall": (150, 220), "board": (50, 140),
}  # fmt: skip
"""kg/m³ by family of sheet."""
STRAIN = {
    "carbon_pultruded": (0.009, 0.014), "carbon_rollwrapped": (0.008, 0.013), "glass_pultruded": (0.015, 0.025),
    "bamboo": (0.007, 0.014), "hardwood": (0.005, 0.009), "wood": (0.005, 0.009), "aluminium": (0.002, 0.008),
    "steel_wire": (0.007, 0.013), "carbon_tow": (0.009, 0.016),
}  # fmt: skip
"""Tensile strength over E by family of bar."""


def test_sheets_weigh_what_their_thickness_and_density_make():
    for sheet in reference().sheets.values():
        low, high = DENSITY[sheet.family]
        assert low <= sheet.areal_mass_g_m2.typ / sheet.thickness_mm.typ <= high, sheet.key


def test_bars_part_at_a_strain_of_their_class_and_are_weaker_pressed():
    for bar in reference().bars.values():
        low, high = STRAIN[bar.family]
        assert low <= bar.tensile_strength_MPa.typ / bar.E_MPa.typ <= high, bar.key
        assert bar.compressive_strength_MPa.typ <= bar.tensile_strength_MPa.typ, bar.key


@pytest.mark.parametrize(("prefix", "fibre"), [("glass_", (2400, 2650)), ("carbon_", (1700, 1900)),
                                              ("aramid_", (1400, 1480))])  # fmt: skip
def test_cloth_skins_carry_what_their_fibres_do(prefix, fibre):
    """E·t of a cloth skin goes with its grams of fibre: half of them lie along the part in a weave, all in a one-way
    cloth. Resin adds its mass, so a skin is heavier than its fibre and lighter than fibre of its thickness."""
    for skin in reference().skins.values():
        cloth = reference().cloths.get(skin.key)
        if cloth is None or not skin.key.startswith(prefix):
            continue
        along = 1.0 if cloth.weave == "one_way" else 0.5
        areal = cloth.areal_mass_g_m2.typ * 1e-6
        carried = skin.E_along_MPa.typ * skin.thickness_mm.typ
        by_fibres = cloth.E_fibre_MPa * along * areal / (cloth.fibre_density_g_cm3 * 1e-3)
        assert 0.75 < carried / by_fibres < 1.35, skin.key
        assert fibre[0] < 1e3 * cloth.fibre_density_g_cm3 < fibre[1]
        assert areal < skin.areal_mass_g_m2.typ * 1e-6 < fibre[1] * 1e-6 * skin.total_thickness_mm, skin.key


def test_skins_part_at_a_strain_that_a_solid_can_have():
    stretchy = {"coat_rubbery", "pvc_tape_soft"}
    for skin in reference().skins.values():
        strain = skin.tensile_strength_MPa.typ / skin.E_along_MPa.typ
        assert 0.001 < strain < (0.5 if skin.key in stretchy else 0.1), skin.key
        assert 300 < skin.areal_mass_g_m2.typ / skin.total_thickness_mm < 2300, skin.key
        if skin.yield_MPa is not None:
            assert skin.yield_MPa.typ <= skin.tensile_strength_MPa.typ, skin.key
        # what breaks when it wrinkles carries compression; a film that draws does not break by being pulled to it
        assert skin.wrinkle != "break" or skin.compressive_strength_MPa is not None, skin.key
        assert skin.pull != "state" or skin.drawn_MPa is not None or skin.yield_MPa is not None, skin.key
