"""Airframes on the server: ownership, revisions, undo, refusals. Against real PostgreSQL."""

from __future__ import annotations

import copy
import threading
from uuid import uuid4

import pytest
from django.db import IntegrityError, connection, transaction

from fletcher.core.demo.world import demo_airframes
from fletcher.core.estimate.report import estimate
from fletcher.server.airframes.models import Airframe, Revision
from tests.server.conftest import builder


def renamed(state, name):
    return {"revision": state["revision"], "document": {**state["document"], "name": name}}


def put(client, state, name):
    return client.send("PUT", f"airframes/{state['id']}", renamed(state, name))


def test_what_is_saved_is_what_is_read(ann, wing, document):
    assert wing["revision"] == 1 and wing["document"] == document
    status, state = put(ann, wing, "Mud Lark")
    assert (status, state["revision"], state["document"]["name"]) == (200, 2, "Mud Lark")
    assert ann.send("GET", f"airframes/{wing['id']}") == (200, state)
    assert [a["document"]["name"] for a in ann.send("GET", "airframes")[1]] == ["Mud Lark"]


def test_saving_the_same_again_makes_no_revision(ann, wing):
    status, state = ann.send("PUT", f"airframes/{wing['id']}", {"revision": 1, "document": wing["document"]})
    assert (status, state["revision"]) == (200, 1)


def test_a_stale_save_is_told_and_stores_nothing(ann, wing):
    put(ann, wing, "first")
    status, state = put(ann, wing, "second")
    assert status == 409
    assert (state["revision"], state["document"]["name"]) == (2, "first")
    assert ann.send("GET", f"airframes/{wing['id']}")[1]["document"]["name"] == "first"


def test_the_same_change_sent_twice_is_no_conflict(ann, wing):
    _, first = put(ann, wing, "Again")
    # the answer was lost on its way: the page sends what it has once more, from the revision that it knows
    status, again = put(ann, wing, "Again")
    assert (status, again) == (200, first)
    assert again["revision"] == 2


def test_undo_and_redo_walk_the_history_and_survive_any_number_of_steps(ann, wing):
    state = wing
    for name in ("a", "b", "c"):
        state = put(ann, state, name)[1]

    def step(way):
        nonlocal state
        status, state = ann.send("POST", f"airframes/{wing['id']}/{way}", {"revision": state["revision"]})
        assert status == 200
        return state["document"]["name"]

    first = wing["document"]["name"]
    assert [step("undo") for _ in range(5)] == ["b", "a", first, first, first]
    assert not state["can_undo"] and state["can_redo"]
    assert [step("redo") for _ in range(2)] == ["a", "b"]
    assert step("undo") == "a"
    state = put(ann, state, "d")[1]
    assert not state["can_redo"]
    assert step("undo") == "a"
    assert step("redo") == "d"


def test_nobody_sees_or_changes_what_is_not_theirs(ann, ben, wing, client):
    address = f"airframes/{wing['id']}"
    attempts = [
        ("GET", address, None),
        ("GET", f"{address}/file", None),
        ("PUT", address, {"revision": 1, "document": wing["document"]}),
        ("POST", f"{address}/undo", {"revision": 1}),
        ("POST", f"{address}/redo", {"revision": 1}),
    ]
    for attempt in attempts:
        assert ben.send(*attempt)[0] == 404
    assert ben.send("GET", "airframes") == (200, [])
    ann.logout()
    for attempt in [
        *attempts,
        ("GET", "airframes", None),
        ("GET", "stock/catalogue", None),
        ("POST", "studies/estimate", {}),
    ]:
        assert ann.send(*attempt)[0] == 401


def test_a_query_that_names_no_owner_is_an_error(db):
    for query in (lambda: Airframe.objects.all(), lambda: Airframe.objects.filter(revision=1).count()):
        with pytest.raises(TypeError, match="owned_by"):
            query()


def test_the_database_itself_refuses_a_revision_twice(ann, wing):
    airframe = Revision.objects.get().airframe
    with pytest.raises(IntegrityError), transaction.atomic():
        Revision.objects.create(airframe=airframe, number=1, document={})


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"span_mm": -5}, "parts[0].span_mm"),
        ({"span_mm": 1e300}, "parts[0].span_mm"),
        ({"foam": "granite"}, "parts[0].foam"),
        ({"root_thickness_mm": 170}, "parts[0].root_thickness_mm"),
        (
            {"layers": [{"type": "bar", "id": "x", "stock": "carbon_rod_3", "end_mm": 5000}]},
            "parts[0].layers[0].end_mm",
        ),
        ({"cases": []}, "parts[0].cases"),
        ({"name": "a\u0000b"}, "parts[0].name"),
        ({"name": "\ud800"}, "parts[0].name"),
    ],
)
@pytest.mark.parametrize("endpoint", ["save", "create", "estimate"])
def test_impossible_documents_are_refused_by_path_and_nothing_changes(ann, wing, endpoint, change, path):
    bad = copy.deepcopy(wing["document"])
    bad["parts"][0].update(change)
    method, address, body = {
        "save": ("PUT", f"airframes/{wing['id']}", {"revision": 1, "document": bad}),
        "create": ("POST", "airframes", bad),
        "estimate": ("POST", "studies/estimate", {"document": bad, "part_id": "wing", "case_id": "bench"}),
    }[endpoint]
    status, answer = ann.send(method, address, body)
    assert status == 422
    assert path in [p["path"] for p in answer["problems"]]
    assert ann.send("GET", "airframes")[1] == [wing]


@pytest.mark.parametrize(
    "body",
    ["", "{", "null", "[]", "3", '{"revision": 1}', "[" * 50_000, '{"revision": NaN, "document": {}}', b"\xff\xfe"],
)
def test_torn_requests_are_refused(ann, wing, body):
    status, _ = ann.send("PUT", f"airframes/{wing['id']}", body)
    assert 400 <= status < 500


def test_huge_requests_are_refused(ann, wing):
    status, _answer = ann.send("PUT", f"airframes/{wing['id']}", "x" * 700_000)
    assert 400 <= status < 500
    document = copy.deepcopy(wing["document"])
    document["note"] = "n" * 5000
    assert ann.send("PUT", f"airframes/{wing['id']}", {"revision": 1, "document": document})[0] == 422


@pytest.mark.parametrize("number", [0, -1, 2**31, 2**70, 1.5, "one", None])
def test_odd_revision_numbers_never_break_the_server(ann, wing, number):
    for address in (f"airframes/{wing['id']}/undo", f"airframes/{wing['id']}/redo"):
        assert ann.send("POST", address, {"revision": number})[0] in (409, 422)


def test_unknown_airframes_and_addresses(ann):
    assert ann.send("GET", f"airframes/{uuid4()}")[0] == 404
    assert ann.send("GET", "airframes/not-an-id")[0] == 422
    assert ann.get("/api/nothing").status_code == 404


def test_estimate_is_the_cores_own(ann, document):
    question = {"document": document, "part_id": "wing", "case_id": "pull-up"}
    status, answer = ann.send("POST", "studies/estimate", question)
    expected = estimate(demo_airframes()[0], "wing", "pull-up")
    assert status == 200
    assert answer == expected.model_dump(mode="json")
    status, answer = ann.send("POST", "studies/estimate", {**question, "part_id": "fin"})
    assert status == 422 and answer["problems"][0]["path"] == "part_id" and "fin" in answer["problems"][0]["value"]
    status, answer = ann.send("POST", "studies/estimate", {**question, "case_id": "loop"})
    assert status == 422 and answer["problems"][0]["path"] == "case_id" and "loop" in answer["problems"][0]["value"]


def test_the_file_is_the_document(ann, wing, document):
    reply = ann.get(f"/api/airframes/{wing['id']}/file")
    assert reply.json() == document
    assert reply["Content-Disposition"] == 'attachment; filename="reed-warden.fletcher.json"'


def test_catalogue_and_constructions_carry_grades_and_reasons(ann):
    _, catalogue = ann.send("GET", "stock/catalogue")
    assert {s["group"] for s in catalogue.pop("sides")} == {"Foam", "Sheet", "Other"}
    assert all(m["grade"] in "ABC" for kind in catalogue.values() if isinstance(kind, list) for m in kind)
    materials = [
        m
        for name, kind in catalogue.items()
        if name not in ("adhesives", "hinges", "bar_g_per_m", "sorts")
        for m in kind
    ]
    assert all(m["basis"].startswith("Estimate:") for m in materials)
    eats = {a["key"] for a in catalogue["adhesives"] if "eps_20" in a["attacks"]}
    assert "contact_neoprene_solvent" in eats and "contact_foamsafe_clear" not in eats
    assert set(catalogue["bar_g_per_m"]) == {b["key"] for b in catalogue["bars"]}
    # a round rod of 3 mm: π/4 · 9 mm² of so many kg/m³
    rod = next(b for b in catalogue["bars"] if b["key"] == "carbon_rod_3")
    per_m = rod["density_kg_m3"]["typ"] * 3.14159265 / 4 * 9 * 1e-3
    assert catalogue["bar_g_per_m"]["carbon_rod_3"] == pytest.approx(per_m, abs=0.0006)
    assert all(round(v, 3) == v for v in catalogue["bar_g_per_m"].values())
    _, ways = ann.send("GET", "stock/constructions")
    assert len(ways) >= 15 and all(w["why"] and w["size"]["span_mm"] > 0 for w in ways)


def test_a_construction_is_built_to_size_and_what_cannot_be_is_refused_by_its_field(ann):
    way = next(w for w in ann.send("GET", "stock/constructions")[1] if w["key"] == "folded_wing")
    wanted = {"key": way["key"], "size": {**way["size"], "span_mm": 640}, "all_up_mass_g": 500, "top_speed_m_s": 12}
    status, built = ann.send("POST", "stock/construct", wanted)
    assert status == 200 and built["part"]["span_mm"] == 640 and built["part"]["foam"] is None
    assert built["part"]["cases"][0]["speed_m_s"] == pytest.approx(9.6)
    thin = {**wanted, "size": {**wanted["size"], "tip_thickness_mm": 6}}
    status, refused = ann.send("POST", "stock/construct", thin)
    assert status == 422 and refused["problems"][0]["path"].startswith("part.")
    for change in ({"key": "rope"}, {"all_up_mass_g": -1}, {"size": {**wanted["size"], "span_mm": 1e9}}):
        assert ann.send("POST", "stock/construct", {**wanted, **change})[0] == 422


def test_a_control_surface_is_compared_and_nothing_else_is(ann, document):
    question = {"document": document, "part_id": "aileron", "case_id": "deflected"}
    status, ways = ann.send("POST", "studies/surface-ways", question)
    assert status == 200 and {"As designed", "Bare foam", "Light balsa"} <= {w["name"] for w in ways}
    for change in ({"part_id": "wing", "case_id": "pull-up"}, {"part_id": "none"}, {"case_id": "none"}):
        assert ann.send("POST", "studies/surface-ways", {**question, **change})[0] == 422


@pytest.mark.django_db(transaction=True)
def test_two_savers_at_once_one_wins_and_the_other_is_told(document):
    ann = builder("ann")
    _, state = ann.send("POST", "airframes", document)
    gate, outcomes = threading.Barrier(2), []

    def save(name):
        other = type(ann)()
        other.cookies = ann.cookies.copy()
        gate.wait(10)
        outcomes.append(put(other, state, name)[0])
        connection.close()

    threads = [threading.Thread(target=save, args=(name,)) for name in ("left", "right")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(30)
    assert sorted(outcomes) == [200, 409]
    assert Revision.objects.filter(airframe_id=state["id"]).count() == 2


def test_a_case_of_every_kind_is_offered_with_figures_of_the_airframe(ann, document):
    kinds = ann.send("GET", "stock/case-kinds")[1]
    assert {"gust", "tip_strike", "tip_twist"} <= {k["type"] for k in kinds}
    of = {"wing": "wing", "plank": "plank", "fuselage": "boom", "tail": "tail", "surface": "aileron"}
    for kind in kinds:
        part = of[kind["suits"][0]]
        status, made = ann.send("POST", "studies/case", {"document": document, "part_id": part, "kind": kind["type"]})
        assert (status, made["case"]["type"], made["case"]["name"]) == (200, kind["type"], kind["name"])
    for part, kind in (("wing", "loop"), ("nothing", "gust"), ("plank", "gust")):
        status, refused = ann.send("POST", "studies/case", {"document": document, "part_id": part, "kind": kind})
        assert status == 422 and "kind" in refused["problems"][0]["path"]


def test_a_coordinate_file_is_read_or_refused_by_its_line(ann):
    from tests.core.document.test_aerofoil import round_file, sampled

    text = round_file(*sampled(21))
    status, read = ann.send("POST", "studies/aerofoil", {"text": text})
    assert status == 200 and read["section"]["shape"] == "points"
    assert read["thickness_ratio"] == pytest.approx(0.12, rel=0.02)
    status, refused = ann.send("POST", "studies/aerofoil", {"text": text.replace("\n", "\nx", 1)})
    assert (status, refused["problems"][0]["path"]) == (422, "line 2")
    assert ann.send("POST", "studies/aerofoil", {"text": "0 0\n" * 60_000})[0] == 422
