"""Centre, tensor and weighing against worked figures, and what moving and mirroring do."""

import numpy as np
import pytest

from fletcher.core.balance.masses import balance, box, plate, point, rod
from fletcher.core.balance.weighing import Supports, height_of_centre, sideways, with_mass_known
from fletcher.core.validation.weighings import reading_sd


def close(value, wanted):
    return value == pytest.approx(wanted, rel=1e-4)


def heron():
    half = plate(96, 600, (180, 140), 20, (220, 25, 40), 4)
    tail = plate(9, 220, (130, 100), 15, (800, 0, 30), 0)
    return [
        half, half.mirrored(), tail, tail.mirrored(),
        plate(6, 160, (120, 80), 30, (800, 0, 35), 90),
        rod(12, (390, 0, 20), (910, 0, 20)), rod(70, (40, 0, 10), (390, 0, 10)),
        point(55, 20, 0, 15), point(12, 5, 0, 15), point(28, 90, 0, 5), box(182, (130, 0, 0), 105, 34, 25),
        point(9, 230, 12, 12), point(19, 300, 0, 10), box(60, (180, 0, -15), 40, 30, 25),
        point(9.5, 320, 250, 55), point(9.5, 320, -250, 55),
    ]  # fmt: skip


def test_a_plate_lies_where_its_dihedral_puts_it():
    half = plate(96, 600, (180, 140), 20, (220, 25, 40), 4)
    assert half.at == pytest.approx([310, 311.7997, 60.05499], rel=1e-5)
    assert half.mirrored().at == pytest.approx([310, -311.7997, 60.05499], rel=1e-5)


def test_mass_centre_and_tensor_of_a_whole_airframe():
    found = balance(heron())
    assert found.grams == 682
    assert found.at == pytest.approx([227.4457, 0.15836, 22.37032], rel=1e-4)
    tensor = found.tensor / 1e3  # kg·mm²
    assert np.diag(tensor) == pytest.approx([26444.84, 21026.58, 46282.63], rel=1e-4)
    assert [tensor[0, 1], tensor[0, 2], tensor[1, 2]] == pytest.approx([-0.27586, -1732.01, 1.12], rel=1e-3)
    assert found.gyration_mm == pytest.approx([196.915, 175.587, 260.505], rel=1e-4)
    assert close(found.swing_s(300, 1000), 3.48454)


def test_moving_a_mass_moves_the_centre_by_its_share():
    before, masses = balance(heron()), heron()
    masses[10] = box(182, (90, 10, 4), 105, 34, 25)
    moved = balance(masses).at - before.at
    assert moved == pytest.approx(182 / 682 * np.array([-40, 10, 4]))


def test_a_mirrored_airframe_has_the_opposite_signs_and_nothing_else():
    before, after = balance(heron()), balance([m.mirrored() for m in heron()])
    assert after.at == pytest.approx(before.at * [1, -1, 1])
    signs = np.array([[1, -1, 1], [-1, 1, -1], [1, -1, 1]])
    assert after.tensor == pytest.approx(before.tensor * signs)


def test_twice_the_mass_and_twice_the_size():
    masses = heron()
    double = balance([type(m)(2 * m.grams, m.at, 2 * m.own) for m in masses])
    large = balance([type(m)(8 * m.grams, 2 * m.at, 32 * m.own) for m in masses])
    before = balance(masses)
    assert double.at == pytest.approx(before.at) and double.tensor == pytest.approx(2 * before.tensor)
    assert large.at == pytest.approx(2 * before.at) and large.tensor == pytest.approx(32 * before.tensor)
    xx, yy, zz = np.diag(before.tensor)
    assert xx + yy >= zz and yy + zz >= xx and zz + xx >= yy


def test_nothing_has_no_centre():
    with pytest.raises(ValueError, match="nothing weighs"):
        balance([])


def test_two_supports():
    on = Supports(390, 519, 120, 420)
    assert on.grams == 909 and close(on.level_mm, 291.2871) and on.centre_mm == on.level_mm
    tilted = Supports(390, 519, 120, 420, 3, 0, 0, 35)
    assert close(tilted.centre_mm, 289.4529)
    assert close(Supports(390, 519, 120, 420, 3, -20, 5, 35).centre_mm, 289.1528)
    assert close(height_of_centre(287.05, 294.6, 12), 35.52)
    assert on.centre_mm > tilted.centre_mm  # nose up with the centre above the supports reads too far aft


def test_errors_of_weighing():
    on = Supports(390, 519, 120, 420, centre_z_mm=35)
    assert close(on.sd_mm(1.0, 0.5, 0.5), 0.5257)
    middle = on.level_mm
    near = Supports(454.5, 454.5, middle - 75, middle + 75, centre_z_mm=35)
    assert close(near.sd_mm(1.0, 0.5, 0.5), 0.4816)
    assert reading_sd(420, 1.0) == pytest.approx(1.019, abs=5e-4)


def test_one_scale_and_sideways():
    at, other = with_mass_known(1480, 150, 550, 615)
    assert close(at, 316.2162) and other == 865
    off, grams = sideways(412, 424, -300, 300, 590)
    assert close(off, 4.3062) and close(grams, 6.102)


@pytest.mark.parametrize(
    ("readings", "places"), [((-1, 500), (100, 400)), ((0, 0), (100, 400)), ((200, 300), (100, 110))]
)
def test_impossible_supports_are_refused(readings, places):
    with pytest.raises(ValueError, match=r"supports|readings"):
        Supports(*readings, *places)
