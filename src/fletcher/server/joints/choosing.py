"""Which glue, which hinge, how to hold a thing in: ranked; they store nothing."""

from __future__ import annotations

from django.http import HttpResponse
from ninja import Router

from fletcher.core.adhesion.adhesives import School, schools
from fletcher.core.adhesion.glue_table import GlueTable, TableWish, glue_table
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.preferences import TOPICS
from fletcher.core.adhesion.retention import HeldIn, HoldNeed, hold
from fletcher.core.adhesion.selection import Gluing, glue
from fletcher.core.joints.hinges import HingeNeed, Hinging, hinge
from fletcher.core.materials.tables import reference
from fletcher.server.common.requests import SignedIn
from fletcher.server.joints.services import coupons_of

router = Router(tags=["joints"])


@router.post("/glue", response=Gluing)
def read_glue(request: SignedIn, payload: GlueNeed) -> HttpResponse:
    """Every adhesive for a joint, ranked, with what rules one out, and what the builder's own coupons say."""
    found = glue(payload, reference(), coupons_of(request.user))
    # straight from the model: to check and copy every curve again costs as much as the ranking
    return HttpResponse(found.model_dump_json(), content_type="application/json")


@router.post("/glue-table", response=GlueTable)
def read_glue_table(request: SignedIn, payload: TableWish) -> GlueTable:
    """Some glues on some pairs: what a square centimetre holds after so many minutes."""
    return glue_table(payload, reference())


@router.get("/schools", response=list[School])
def read_schools(request: SignedIn) -> list[School]:
    """Where practice disagrees on adhesives, with both arguments and the test that would settle it."""
    return [s for s in schools() if s.key in TOPICS]


@router.post("/hold", response=HeldIn)
def read_hold(request: SignedIn, payload: HoldNeed) -> HeldIn:
    """Every way of holding a battery, hatch or payload in, and the knock that it survives."""
    return hold(payload, reference())


@router.post("/hinge", response=Hinging)
def read_hinge(request: SignedIn, payload: HingeNeed) -> Hinging:
    """Every method of hinging a surface, ranked, with the throw that its geometry leaves."""
    return hinge(payload, reference())
