"""Coupons and trials through the API: kept for one builder, refused by their field, photographs made safe."""

from __future__ import annotations

import io
import uuid

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from fletcher.core.adhesion.coupons import Coupon
from fletcher.core.adhesion.joint_capacity import GlueNeed
from fletcher.core.adhesion.selection import glue
from fletcher.core.materials.tables import reference
from fletcher.server.common.photographs import LONGEST_PX, MAX_BYTES
from fletcher.server.joints import services

CLEAN = {
    "adhesive": "contact_foamsafe_clear", "one": "epp_30", "other": "epp_30", "effort": "low",
    "face": {"clean_seam": 100},
}  # fmt: skip
WISH = {"arms": [{"adhesive": "contact_foamsafe_clear"}, {"adhesive": "ca_foamsafe"}], "control": False}


def kept(client, **change):
    status, told = client.send("POST", "joints/coupons", {"coupon": {**CLEAN, **change}})
    assert status == 201, told
    return told


def put(client, coupon_id, data: bytes, name="face.jpg"):
    return client.post(f"/api/joints/coupons/{coupon_id}/photo", {"photo": SimpleUploadedFile(name, data)})


def picture(size=(2400, 1200), kind="JPEG", **extra) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", size, (200, 120, 40)).save(out, kind, **extra)
    return out.getvalue()


def test_coupons_move_the_builders_own_ranking_and_nobody_elses(ann, ben):
    need = {"one": "epp_30", "other": "epp_30"}
    before = ann.send("POST", "joints/glue", need)[1]
    for _ in range(4):
        kept(ann)
    after = ann.send("POST", "joints/glue", need)[1]
    assert after == glue(GlueNeed(**need), reference(), [Coupon(**CLEAN)] * 4).model_dump(mode="json")
    assert after["choices"][0]["key"] != before["choices"][0]["key"] == "contact_foamsafe_clear"
    assert any("Foam-safe clear contact" in text for text in after["coupons_say"])
    assert ben.send("POST", "joints/glue", need)[1] == before


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"face": {"clean_seam": 60}}, "coupon.face"),
        ({"face": {"clean_seam": 80, "foam_deep": 80}}, "coupon.face"),
        ({"face": {"clean_seam": -5, "foam_deep": 100}}, "coupon.face.clean_seam"),
        ({"face": {"looks_fine": 100}}, "coupon.face.looks_fine"),
        ({"adhesive": "spit"}, "coupon.adhesive"),
        ({"technique": "misted"}, "coupon.technique"),
        ({"other": "cheese"}, "coupon.other"),
        ({"load_N": -3}, "coupon.load_N"),
        ({"load_N": "Infinity"}, "coupon.load_N"),
        ({"minutes": 0}, "coupon.minutes"),
        ({"area_cm2": 0.1, "width_mm": 400}, "coupon.width_mm"),
        ({"note": "x" * 401}, "coupon.note"),
    ],
)
def test_a_coupon_that_cannot_be_is_refused_by_its_field(ann, change, path):
    status, told = ann.send("POST", "joints/coupons", {"coupon": {**CLEAN, **change}})
    assert status == 422
    assert told["problems"][0]["path"] == path
    assert ann.send("GET", "joints/coupons") == (200, {"coupons": [], "more": False})


def test_a_coupon_is_its_owners_alone(ann, ben):
    one = kept(ann)["id"]
    assert ben.send("GET", "joints/coupons") == (200, {"coupons": [], "more": False})
    assert ben.send("DELETE", f"joints/coupons/{one}")[0] == 404
    assert put(ben, one, picture()).status_code == 404
    assert put(ann, one, picture()).status_code == 200
    assert ben.get(f"/api/joints/coupons/{one}/photo").status_code == 404
    assert ann.send("DELETE", f"joints/coupons/{one}")[0] == 204
    assert ann.send("GET", "joints/coupons") == (200, {"coupons": [], "more": False})


def test_a_photograph_is_kept_small_upright_and_without_what_the_camera_wrote(ann):
    one = kept(ann)["id"]
    exif = Image.Exif()
    exif[0x0112] = 6  # taken with the camera on its side
    exif[0x010F] = "A camera"
    data = picture(exif=exif, comment=b"taken at home", icc_profile=b"a profile")
    assert b"taken at home" in data
    assert put(ann, one, data).json()["has_photo"] is True
    answer = ann.get(f"/api/joints/coupons/{one}/photo")
    assert (answer["Content-Type"], answer["X-Content-Type-Options"]) == ("image/jpeg", "nosniff")
    seen = Image.open(io.BytesIO(answer.content))
    assert seen.size == (LONGEST_PX // 2, LONGEST_PX)
    assert not seen.getexif() and b"taken at home" not in answer.content and not seen.info.get("icc_profile")
    assert ann.send("GET", "joints/coupons")[1]["coupons"][0]["has_photo"] is True


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"<svg xmlns='http://www.w3.org/2000/svg'/>", "cannot be read as an image"),
        (b"GIF89a" + bytes(40), "cannot be read as an image"),
        (picture()[:200], "cannot be read as an image"),
        (b"", "cannot be read as an image"),
        (picture((4000, 4001), "PNG"), "has too many points: at most 16 million as PNG"),
        (picture((20_000, 9_001), "PNG"), "has too many points: at most 16 million as PNG"),
        (bytes(MAX_BYTES + 1), "no more than 8 MB"),
    ],
)
def test_what_is_no_photograph_or_too_large_is_refused_with_its_limit(ann, data, says):
    one = kept(ann)["id"]
    answer = put(ann, one, data)
    assert answer.status_code == 422
    problem = answer.json()["problems"][0]
    assert problem["path"] == "photo" and says in problem["message"]
    assert ann.get(f"/api/joints/coupons/{one}/photo").status_code == 404


def test_a_body_beyond_all_uploads_is_refused_unread(ann):
    answer = ann.generic("POST", "/api/joints/coupons", b"{}", "application/json", CONTENT_LENGTH="99000000")
    assert answer.status_code == 413
    assert "no more than 9 MB" in answer.json()["problems"][0]["message"]


def test_a_trial_reads_its_own_coupons(ann, ben):
    status, trial = ann.send("POST", "joints/trials", WISH)
    assert status == 201 and trial["reading"]["broken"] == [0, 0]
    for label, face in (("A", {"foam_deep": 100}), ("B", {"clean_seam": 100})):
        for n in range(6):
            coupon = {**CLEAN, "label": f"{label}{n}", "face": face}
            assert ann.send("POST", "joints/coupons", {"coupon": coupon, "trial_id": trial["id"]})[0] == 201
    kept(ann, label="B7", face={"foam_deep": 100})  # not of this trial
    reading = ann.send("GET", "joints/trials")[1][0]["reading"]
    assert reading["broken"] == [6, 6]
    assert reading["verdicts"][0]["settled"] == "real"
    assert reading["verdicts"][0]["better"].startswith("Foam-safe clear contact")
    assert ben.send("GET", "joints/trials") == (200, [])
    status, _ = ben.send("POST", "joints/coupons", {"coupon": CLEAN, "trial_id": trial["id"]})
    assert status == 404
    assert ann.send("DELETE", f"joints/trials/{uuid.uuid4()}")[0] == 404
    assert ann.send("DELETE", f"joints/trials/{trial['id']}")[0] == 204
    assert len(ann.send("GET", "joints/coupons")[1]["coupons"]) == 1


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"arms": []}, "arms"),
        ({"arms": [{"adhesive": "ca_foamsafe"}], "control": False}, "arms"),
        ({"arms": [{"adhesive": "ca_foamsafe"}, {"adhesive": "ca_foamsafe"}]}, "arms[1]"),
        ({"arms": [{"adhesive": "ca_foamsafe", "technique": "misted"}]}, "arms[0].technique"),
        ({"one": "metal", "other": "film"}, "other"),
        ({"difference_percent": 5}, "difference_percent"),
    ],
)
def test_a_trial_that_cannot_be_planned_is_refused_by_its_field(ann, change, path):
    for place in ("joints/trial-plan", "joints/trials"):
        status, told = ann.send("POST", place, {**WISH, **change})
        assert status == 422
        assert told["problems"][0]["path"].endswith(path)


def test_trials_are_kept_up_to_a_tenth_of_the_coupons(ann, monkeypatch):
    monkeypatch.setattr(services, "MOST", 20)
    for _ in range(2):
        assert ann.send("POST", "joints/trials", WISH)[0] == 201
    status, told = ann.send("POST", "joints/trials", WISH)
    assert status == 422 and "at most 2" in told["problems"][0]["message"]
    assert len(ann.send("GET", "joints/trials")[1]) == 2
