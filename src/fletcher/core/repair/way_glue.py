"""The glue of each joint of a repair, where that of the seams will not do.

In its bed a bar is pushed along a wet film: contact adhesives grab half way and are scraped off. One length to another,
stiff on stiff, passes on far more than foam does: melts, contact adhesives, rubbery cement and foaming polyurethane
creep there. Into a closed crack only what is thin goes: a contact adhesive would have to air on both faces, melts and
pastes stay outside. What holds is read from the tables of pairs and foams.
"""

from __future__ import annotations

from collections.abc import Sequence

from fletcher.core.adhesion.adhesives import adhesives, between, foam_families, on_foams, suits_foam
from fletcher.core.document.airframe import FilmLayer, Part, StripLayer
from fletcher.core.document.damage import PeeledMark
from fletcher.core.materials.plates import lying
from fletcher.core.materials.tables import reference

SPLICED = frozenset({"sleeve", "sleeve_one", "scarf_bar"})
"""Ways in which one length of a bar is glued to another, or to a sleeve."""
SPLICES = "splices"
"""Names the joints of such lengths among those of a repair."""
BEDDED = frozenset({"sister", "replace_bar", "rebed", "sleeve_one"})
"""Ways in which a bar is glued into foam."""
STIFF = ("epoxy_30min", "epoxy_structural_slow", "epoxy_5min")
"""What stiff parts are glued with, the usual one first."""
SOON_MIN = 120.0
"""[J] A launch sooner than this asks for a glue that sets quickly."""
_GRABS = frozenset({"contact", "tape", "waterborne"})
"""Kinds of adhesive that are not drawn into a bed: they grab at once, or never dry there."""
_STIFF_FROM, _BED_FROM = 3, 2
"""From this mark of five on a glue suits stiff parts, and a bar in foam: there a melt will do in a field, in stages."""


def splice_glue(seam: str, at_hand: Sequence[str] = (), launch_min: float = 1e9) -> str:
    """What lengths of bars are glued together with in a repair whose seams have the glue `seam`: that one if it suits,
    else what is at hand, else what is hard by the launch."""
    row = between().get((seam, "composite_composite"))
    if seam not in adhesives() or (row is not None and row.suits >= _STIFF_FROM):
        return seam
    order = STIFF[::-1] if launch_min < SOON_MIN else STIFF
    return next((key for key in order if key in at_hand), order[0])


def bed_glue(seam: str, part: Part, at_hand: Sequence[str] = (), launch_min: float = 1e9) -> str:
    """What bars are glued into the part's foam with: the glue of the seams if it can be drawn into a bed, else the best
    that can, of what is at hand first; for a launch soon one that sets by then."""
    if seam not in adhesives() or _suits_bed(seam, part):
        return seam
    rows = [key for key in adhesives() if _suits_bed(key, part)] or list(STIFF)

    def rank(key: str) -> tuple[bool, bool, float]:
        late = launch_min < SOON_MIN and adhesives()[key].fixture_min.typ > launch_min / 4
        return key not in at_hand, late, -_holds(key, part)

    return min(rows, key=rank)


THREAD = "polyester_thread_0.4"
"""What splits are wrapped with, and the mouths of sleeved tubes."""
WRAPPED = frozenset({"wrap_bar", "sleeve", "sleeve_one"})
"""Ways that take thread."""


def wrap_glue(part: Part) -> str:
    """What wets the turns of a wrap and runs into the split: thin cyanoacrylate, a foam-safe one beside a foam that the
    other eats, thin epoxy where neither may be used."""
    return next((key for key in ("ca_thin", "ca_foamsafe") if suits_foam(key, part.foam)), "epoxy_laminating")


SKIN_GLUE = "contact_foamsafe_clear"
"""What skins and strips are laid down again with, and lapped: no foam is hurt by it, and it bends with them."""
CLOTHS = frozenset({"glass_cloth", "carbon_cloth", "carbon_ud", "aramid_cloth", "laminate"})
"""Families of skins that are laid in resin."""


def skin_glue(mark: PeeledMark, part: Part) -> str:
    """What a peeled skin is laid down again with, or a new one: cloth in laminating epoxy, all else as `SKIN_GLUE`."""
    line = next((la for la in part.layers if la.id == mark.of), None)
    if isinstance(line, FilmLayer | StripLayer):
        skin = line.skin
        if not isinstance(skin, str) or lying(skin, reference()).family in CLOTHS:
            return "epoxy_laminating"
    return SKIN_GLUE


_WICKS = ("ca_foamsafe", "solvent_rubbery_clear", "pu_foaming_white", "pu_foaming_brown", "epoxy_laminating", "ca_thin")
"""What goes into a closed crack: it wicks, or is worked in while the crack is flexed."""


def crack_glue(seam: str, part: Part, at_hand: Sequence[str] = (), launch_min: float = 1e9) -> str:
    """What is worked into a closed crack: the glue of the seams if it goes in, else the best that does, of what is at
    hand first; for a launch soon one that sets by then."""

    def suits(key: str) -> bool:
        row = between().get((key, "foam_foam"))
        return key in _WICKS and row is not None and row.suits >= _BED_FROM and suits_foam(key, part.foam)

    if seam not in adhesives() or suits(seam):
        return seam

    def rank(key: str) -> tuple[bool, bool]:
        return key not in at_hand, launch_min < SOON_MIN and adhesives()[key].fixture_min.typ > launch_min / 4

    return min([key for key in _WICKS if suits(key)] or [seam], key=rank)


def _suits_bed(key: str, part: Part) -> bool:
    row = between().get((key, "foam_composite"))
    fits = row is not None and row.suits >= _BED_FROM and adhesives()[key].kind not in _GRABS
    return fits and suits_foam(key, part.foam)


def _holds(key: str, part: Part) -> float:
    """Share of the foam's strength that a bar in its bed reaches with a glue, typical."""
    row, family = between()[key, "foam_composite"], foam_families().get(part.foam or "")
    own = 1.0 if row.efficiency is None else row.efficiency.typ
    return own if family is None else own * on_foams()[key, family].efficiency.typ
