"""The operations of an airframe: what is done on each piece, what waits for what, and which gate stands before it.

Order comes from the lay-up (`cover`), then from rules: what lies inside before a face is closed; a second half is cut
once the first one's hand was checked; all joints loaded before the bench test. Waits belong to the glue: fixed before
what moves the piece, gelled before what trims it, loaded at the slow end before the bench test. Minutes of hands come
from the work table; those of the airframe as a whole are judgement [J].
"""

from __future__ import annotations

import math
import zlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field

from fletcher.core.adhesion.adhesives import adhesives, curings
from fletcher.core.adhesion.cautions import cautions_for
from fletcher.core.adhesion.curing import techniques
from fletcher.core.adhesion.readiness import ready_after, slowed
from fletcher.core.common.quantities import quantity
from fletcher.core.document.airframe import (
    Airframe,
    BarLayer,
    CutLayer,
    FilmLayer,
    FittingLayer,
    HingeLayer,
    JointLayer,
    Laminate,
    Layer,
    Part,
    StripLayer,
    WallLayer,
)
from fletcher.core.estimate.effort import Step, minutes_of, tasks, work_by_line
from fletcher.core.estimate.phrasing import line_label
from fletcher.core.estimate.prepare import prepared_for
from fletcher.core.making.setting_cards import Means, SettingCard, cards_of, wire_card
from fletcher.core.materials.materials import Range
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import Band, samples
from fletcher.core.plan.clearance import computed
from fletcher.core.plan.cover import bonds, edges, inside, shuts
from fletcher.core.plan.flat_pieces import piece_key
from fletcher.core.plan.gates import gates
from fletcher.core.plan.schedule import Impossible
from fletcher.core.plan.schema import AfterAt, BuildStep, ShopWish

MARK = Range(2, 4, 8)
"""[J] Minutes to draw datum lines and label a piece."""
WEIGH = Range(1, 2, 4)
JOIN, SQUARE, FIT, LINK, BALANCE, BENCH, FIRST = (
    Range(10, 20, 40), Range(10, 20, 40), Range(4, 8, 20), Range(6, 12, 30), Range(5, 10, 20), Range(8, 15, 30),
    Range(8, 15, 30),
)  # fmt: skip
"""[J] Minutes to join halves, set square, fit an item, link a control, balance, test on the bench, check for flight."""
UNKNOWN = "glue, none entered,"
"""Stands for the glue of a joint that names none."""
CLOSES_MIN = 2.0
"""[J] Minutes to close what was coated and aired."""
LONG_MM = 700.0
"""A half longer than this is joined by two people, where there are two."""
_IRONED = frozenset({"hot_iron_film", "covering_film"})
_ELECTRONICS = frozenset({"servo", "battery", "receiver", "controller"})
_STUCK = ("tape", "film")
"""Hinge methods that stick by themselves."""
_CLOTHS = ("_cloth", "_ud")


@dataclass
class _Piece:
    """A part on one side, with its operations as they come up."""

    part: Part
    side: str
    made: list[BuildStep] = field(default_factory=list)

    @property
    def key(self) -> str:
        return piece_key(self.part, self.side)

    @property
    def name(self) -> str:
        return self.part.name + (f", {self.side}" if self.side else "")


@dataclass(frozen=True)
class _Glue:
    """What sets after an operation: its name and key (empty: not entered), typical minutes until it holds itself and
    until it has gelled, and until it carries its load at the slow end; of what is coated on both faces and aired: from
    when to when it is closed."""

    name: str = ""
    fixed: int = 0
    gelled: int = 0
    loaded: int = 0
    airs: tuple[int, int] | None = None
    key: str = ""


_NONE = _Glue()


def side_of(piece: _Piece) -> str:
    """Left or right, where a piece has a hand."""
    return piece.side or (piece.part.hand if piece.part.hand in ("left", "right") else "")


def operations(airframe: Airframe, shop: ShopWish) -> list[BuildStep]:
    """All operations of a checked airframe, in an order that is possible.

    Raises
    ------
    Impossible
        Where a glue does not cure at the shop's temperature.
    """
    out: list[BuildStep] = []
    finished: dict[str, list[BuildStep]] = {}
    marked: dict[str, str] = {}
    for part in airframe.parts:
        if part.kind == "plank":
            continue
        for side in ("right", "left") if part.hand == "both" else ("",):
            piece = _Piece(part, side)
            _of_piece(piece, airframe, shop, marked.get(part.id))
            marked.setdefault(part.id, f"{piece.key}/datum")
            out += piece.made
            finished.setdefault(part.id, []).extend(piece.made)
    _hang(airframe, finished)
    return [*out, *_of_airframe(airframe, shop, finished)]


def _hang(airframe: Airframe, finished: dict[str, list[BuildStep]]) -> None:
    """A control surface is hung once what may carry it is skinned and weighed: wings and tails with a control in their
    rear edge, or where none says so all of them, on its own side where they have sides."""
    carry = [p for p in airframe.parts if p.id in finished and p.kind in ("wing", "tail")]
    carry = [p for p in carry if p.controls] or carry
    for part in airframe.parts:
        hinges = {la.id for la in part.layers if isinstance(la, HingeLayer)}
        for o in finished.get(part.id, []):
            if part.kind == "surface" and o.layer_id in hinges and not o.after[0].key.endswith("/coat"):
                side = o.key.removeprefix(f"{part.id}/").partition("/")[0]
                hosts = [w for p in carry for w in finished[p.id] if w.key.endswith("/weigh")]
                alike = [w for w in hosts if w.key.split("/")[-2] == side] or hosts
                o.after.extend(AfterAt(key=w.key, wait_min=0, why=f"{w.piece} is finished") for w in alike)


def _op(
    key: str, title: str, minutes: Range | Band, after: Iterable[AfterAt] = (), *, piece: _Piece | None = None,
    layer: Layer | None = None, glue: _Glue = _NONE, people: int = 1, hold: dict[str, int] | None = None,
    tools: Iterable[str] = (), checks: Iterable[str] = (), tags: Iterable[str] = (), undoes: bool = True,
    cards: Iterable[SettingCard] = (), daylight: bool = False,
) -> BuildStep:  # fmt: skip
    band = minutes if isinstance(minutes, Band) else Band(low=minutes.low, typ=minutes.typ, high=minutes.high)
    return BuildStep(
        key=key, part_id=piece.part.id if piece else None, layer_id=layer.id if layer else None,
        piece=piece.name if piece else "", title=title, minutes=band, people=people, glue=glue.name, glue_key=glue.key,
        fixed_min=glue.fixed, loaded_min=glue.loaded, after=list(after), hold=hold or {},
        tools=list(dict.fromkeys(tools)), gates=gates(checks), cards=list(cards),
        cautions=cautions_for(tags), undoes=undoes, made_of=_sum_of(piece, layer), daylight=daylight,
    )  # fmt: skip


def _sum_of(piece: _Piece | None, layer: Layer | None) -> str:
    """A short sum of what a step is made of: its line, or of a piece its outline and foam."""
    if piece is None:
        return ""
    made = layer.model_dump_json() if layer else piece.part.model_dump_json(exclude={"layers", "cases", "damage"})
    return f"{zlib.crc32(made.encode()):08x}"


def _of_piece(piece: _Piece, airframe: Airframe, shop: ShopWish, first_half: str | None) -> None:
    """Core, datum lines, every line of the lay-up, weighing."""
    part, work = piece.part, work_by_line(piece.part)
    means = Means(shop.warmth_C, shop.probe, shop.hardener_parts, shop.wire_mm)
    with samples(0):
        elements = prepared_for(part, airframe.setting).elements
    start: list[AfterAt] = []
    if work[None]:
        after = [AfterAt(key=first_half, wait_min=0, why="the first half's hand is checked")] if first_half else []
        wire = any(s.task == "core_wire" for s in work[None])
        title = "make ribs and formers" if work[None][0].task == "rib" else "cut the core"
        card = wire_card(part, means) if wire else None
        piece.made.append(_op(
            f"{piece.key}/core", title, minutes_of(work[None]), after, piece=piece, tools=_tools(work[None]),
            cards=[card] if card else [],
            checks=["template", *(["wire"] if wire else [])],
            tags=["process:cutting", *(["process:hot_wire"] if wire else [])], undoes=False,
        ))  # fmt: skip
        start = [AfterAt(key=f"{piece.key}/core", wait_min=0, why="it is drawn on the core")]
    handed = ["hand"] if side_of(piece) else []
    piece.made.append(
        _op(f"{piece.key}/datum", "draw datum lines, label", MARK, start, piece=piece, checks=handed)
    )  # fmt: skip
    glued = {la.joint.of: la for la in part.layers if isinstance(la, JointLayer) and la.joint.kind in ("bond", "lap")}
    lines: dict[str, BuildStep] = {}
    shells = [la for la in part.layers if la.enabled and isinstance(la, WallLayer) and shuts(la, part)]
    waits = _waits(part, {la.id for la in shells})
    gelled: dict[str, _Glue] = {}
    for layer in sorted(part.layers, key=lambda la: _rank(la, part, shells)):
        n = part.layers.index(layer)
        if not layer.enabled or bonds(layer) or not work.get(layer.id):
            continue
        if layer in shells:
            piece.made.append(_opened(piece, layer, work[layer.id], line_label(elements, n)))
        bond = glued.get(layer.id)
        glue = _glue(layer, part, bond, work[layer.id], shop.warmth_C)
        steps = (*work[layer.id], *(work.get(bond.id, ()) if bond else ()))
        after = [AfterAt(key=f"{piece.key}/datum", wait_min=0, why="datum lines")]
        after += [AfterAt(key=f"{piece.key}/{la.id}/flat", wait_min=0, why="the walls are cut")
                  for la in shells if la is layer or inside(layer, part)]  # fmt: skip
        for earlier, later in waits:
            if later == layer.id and earlier in lines:
                after.append(_after(lines[earlier], gelled[earlier], layer))
        lines[layer.id] = _op(
            f"{piece.key}/{layer.id}", _title(layer, part, _with_face(layer, line_label(elements, n))),
            _half(minutes_of(steps)) if layer in shells else minutes_of(steps), after,
            piece=piece, layer=layer, glue=glue, hold=_hold(layer, glue), tools=_tools(steps),
            checks=[c for c in _checks(layer, part) if c != "hand" or handed], tags=_tags(layer, bond),
            undoes=not isinstance(layer, CutLayer) and not glue.name,
            cards=cards_of(layer, part, glue.key or None, means),
        )  # fmt: skip
        if isinstance(layer, BarLayer):
            lines[layer.id] = _measured(lines[layer.id], layer, part)
        gelled[layer.id] = glue
        if glue.airs is not None:
            coat, lines[layer.id] = _aired(lines[layer.id], glue)
            piece.made.append(coat)
        piece.made.append(lines[layer.id])
    hung = [lines[la.id] for la in part.layers if isinstance(la, HingeLayer) and la.id in lines]
    made = [o for o in piece.made if o not in hung]
    weigh = _op(f"{piece.key}/weigh", "weigh the finished piece", WEIGH, [_fixed(o) for o in made], piece=piece)
    for hinge in hung:
        hinge.after.append(AfterAt(key=weigh.key, wait_min=0, why="weighed before it hangs on another piece"))
    piece.made[:] = [*made, weigh, *hung]


def _measured(o: BuildStep, bar: BarLayer, part: Part) -> BuildStep:
    """A step whose gate of clearance says what the drawing says."""
    told = {"bar_clear": computed(bar, part)}
    at = [g.model_copy(update={"says": f"{g.says} {told[g.key]}"}) if g.key in told else g for g in o.gates]
    return o.model_copy(update={"gates": at})


def _aired(o: BuildStep, glue: _Glue) -> tuple[BuildStep, BuildStep]:
    """An operation with contact glue as two: fitted and coated on both faces; once it has aired, closed in one go."""
    assert glue.airs is not None
    flash, open_min = glue.airs
    whole = o.minutes
    coats = Band(**{k: max(getattr(whole, k) - CLOSES_MIN, 1.0) for k in ("low", "typ", "high")})
    key = f"{o.key}/coat"
    coat = o.model_copy(update={
        "key": key, "title": f"{o.title}: fit, coat both faces", "minutes": coats, "glue": "", "glue_key": "",
        "fixed_min": 0, "loaded_min": 0, "hold": {},
    })  # fmt: skip
    after = AfterAt(key=key, wait_min=flash, why=f"{o.glue} has aired", within_min=open_min)
    close = o.model_copy(update={
        "title": f"{o.title}: close, press hard", "minutes": Band(low=1, typ=CLOSES_MIN, high=2 * CLOSES_MIN),
        "after": [after], "gates": [], "tools": [], "cards": [], "cautions": [],
    })  # fmt: skip
    return coat, close


def _waits(part: Part, shells: set[str]) -> list[tuple[str, str]]:
    """Which line waits for which, by their ids: as they lie over one another, and what lies inside before what closes
    the part. The walls of a hollow part are cut first and closed last, wherever the lay-up names them."""
    on = [la for la in part.layers if la.enabled and not bonds(la)]
    within = {la.id for la in on if inside(la, part)}
    shut = {la.id for la in on if shuts(la, part)}
    over = [
        (a, b) for a, b in edges(part)
        if not (a in shut and b in within) and not (b in shells and a not in within | shells)
    ]  # fmt: skip
    closed = [(a.id, b.id) for a in on if a.id in within for b in on if b.id in shut]
    outside = [(a, b.id) for a in shells for b in on if b.id not in within | shut]
    hinges = {la.id for la in on if isinstance(la, HingeLayer)}  # hung last, wherever the lay-up names it
    found = dict.fromkeys([*over, *closed, *outside])
    return [(b, a) if a in hinges and b not in hinges else (a, b) for a, b in found]


def _rank(layer: Layer, part: Part, shells: list[WallLayer]) -> int:
    """Inside first, then what closes the part, then what lies on it; hinges last; within these as the lay-up has it."""
    if isinstance(layer, HingeLayer):
        return 3
    if not shells and not any(shuts(la, part) for la in part.layers if la.enabled):
        return 1
    return 0 if inside(layer, part) else 1 if shuts(layer, part) else 2


def _opened(piece: _Piece, layer: WallLayer, steps: Iterable[Step], label: str) -> BuildStep:
    """Walls cut, scored and folded dry, still open."""
    after = [AfterAt(key=f"{piece.key}/datum", wait_min=0, why="datum lines")]
    return _op(
        f"{piece.key}/{layer.id}/flat", f"cut, score and dry-fold: {label}", _half(minutes_of(steps)), after,
        piece=piece, layer=layer, tools=_tools(steps), checks=["direction"], tags=["process:cutting"], undoes=False,
    )  # fmt: skip


def _half(minutes: Band) -> Band:
    return Band(low=minutes.low / 2, typ=minutes.typ / 2, high=minutes.high / 2)


def heat_too_late(airframe: Airframe) -> Iterator[str]:
    """Film that is ironed on after electronics or a battery were put in."""
    for part in airframe.parts:
        fitted = ""
        for la in part.layers:
            if not la.enabled:
                continue
            if isinstance(la, FittingLayer) and reference().fittings[la.stock].family in _ELECTRONICS:
                fitted = fitted or _name(la)
            elif fitted and _is_ironed(la):
                yield f"{part.name}: {fitted} is in before film is ironed on: heat first, then electronics."
                break


def _name(layer: Layer) -> str:
    return layer.name or (reference().fittings[layer.stock].name if isinstance(layer, FittingLayer) else layer.type)


def _after(earlier: BuildStep, glue: _Glue, layer: Layer) -> AfterAt:
    """What a line waits for beneath it: cut and trimmed only once it has gelled, else once it holds itself."""
    cuts = isinstance(layer, CutLayer | HingeLayer)
    wait = glue.gelled if cuts else glue.fixed
    state = "has gelled" if cuts else "holds itself"
    return AfterAt(key=earlier.key, wait_min=wait, why=f"{glue.name} {state}" if wait else f"{earlier.title} first")


def _fixed(o: BuildStep) -> AfterAt:
    return AfterAt(key=o.key, wait_min=o.fixed_min, why=f"{o.glue} holds itself" if o.glue else f"{o.title} first")


def _glue(
    layer: Layer, part: Part | None, bond: JointLayer | None, steps: Iterable[Step], warmth_C: float
) -> _Glue:  # fmt: skip
    """What sets after a line: the glue that is entered, its resin, or where neither is the usual wait of the table."""
    if _is_body(layer, part):
        return _NONE
    joint = layer if isinstance(layer, JointLayer) else bond
    key = joint.glue.adhesive if joint is not None and joint.glue is not None else None
    skin = layer.skin if isinstance(layer, FilmLayer | StripLayer) else None
    if key is None and isinstance(skin, Laminate):
        key = skin.resin if skin.resin in adhesives() else "epoxy_laminating"
    if key is None and _is_cloth(layer):
        key = "epoxy_laminating"
    if key is not None:
        return _setting(key, warmth_C)
    if isinstance(layer, HingeLayer) and layer.method.startswith(_STUCK):
        return _NONE
    hours = [tasks()[s.task].wait_h for s in steps if tasks()[s.task].wait_h.typ > 0]
    if not hours:
        return _NONE
    typ, high = max(math.ceil(60 * h.typ) for h in hours), max(math.ceil(60 * h.high) for h in hours)
    return _Glue(UNKNOWN, typ, typ, high)


def _is_body(layer: Layer, part: Part | None) -> bool:
    """Whether a bar is the part itself, as the tube of a boom: it is cut to length, not glued in."""
    if part is None or part.foam is not None or not isinstance(layer, BarLayer):
        return False
    return not any(isinstance(la, WallLayer | FilmLayer) for la in part.layers if la.enabled)


def _setting(key: str, warmth_C: float) -> _Glue:
    fixed, gelled = (ready_after(key, s, warmth_C) for s in ("fixed", "flight_ready"))
    loaded = ready_after(key, "loaded", warmth_C, late=True)
    name = adhesives()[key].name
    if math.isinf(fixed) or math.isinf(loaded):
        least = quantity(curings()[key].least_C, "°C", ".0f")
        raise Impossible(f"{name} does not cure at {warmth_C:g} °C: warm the shop to {least} or more, or take another")
    return _Glue(name, int(fixed), int(max(fixed, gelled)), int(loaded), _airing(key, warmth_C), key)


def _airing(key: str, warmth_C: float) -> tuple[int, int] | None:
    """From when to when after coating a contact glue is closed, minutes; None of what is closed wet."""
    a = adhesives()[key]
    if a.kind != "contact" or next(iter(techniques(a))) != "flashed":
        return None
    times = slowed(curings()[key], warmth_C)
    flash = math.ceil(a.flash_min.typ * times)
    return flash, max(math.floor(a.open_min.typ * times), flash + 1)


def _is_ironed(layer: Layer) -> bool:
    skin = layer.skin if isinstance(layer, FilmLayer | StripLayer) else None
    return isinstance(skin, str) and skin in reference().skins and reference().skins[skin].family in _IRONED


def _is_cloth(layer: Layer) -> bool:
    skin = layer.skin if isinstance(layer, FilmLayer | StripLayer) else None
    known = reference().skins.get(skin) if isinstance(skin, str) else None
    return known is not None and known.family.endswith(_CLOTHS)


def _title(layer: Layer, part: Part, label: str) -> str:
    if _is_body(layer, part):
        return f"cut to length, square the ends: {label}"
    if isinstance(layer, BarLayer):
        return f"slot and glue in: {label}"
    if isinstance(layer, WallLayer):
        return f"glue and close: {label}" if shuts(layer, part) else f"cut and glue on: {label}"
    if isinstance(layer, CutLayer):
        return f"cut: {label}"
    if isinstance(layer, FittingLayer):
        return f"fit: {label}"
    if isinstance(layer, JointLayer):
        return f"dry-fit and glue: {label}"
    if isinstance(layer, HingeLayer):
        return f"hinge: {label}"
    skin = layer.skin if isinstance(layer, FilmLayer | StripLayer) else None
    if isinstance(skin, Laminate) or _is_cloth(layer):
        return f"wet out and lay: {label}"
    return f"iron on: {label}" if _is_ironed(layer) else f"lay: {label}"


_ON_FACE = {"upper": "upper face", "lower": "lower face", "both": "both faces", "pair": "one under each face"}


def _with_face(layer: Layer, label: str) -> str:
    """A line with the face that it goes on, where its name does not say so."""
    where = layer.place if isinstance(layer, BarLayer) else getattr(layer, "face", "")
    says = _ON_FACE.get(where, "")
    return f"{label}, {says}" if says and says.split()[0] not in label.lower() else label


def _hold(layer: Layer, glue: _Glue) -> dict[str, int]:
    """What a line holds until it is fixed: a flat board for bars, walls and cloth, clamps for joints."""
    if not glue.name:
        return {}
    if isinstance(layer, JointLayer):
        return {"clamps": 2}
    return {"boards": 1} if isinstance(layer, BarLayer | WallLayer | FilmLayer | StripLayer) else {}


def _checks(layer: Layer, part: Part) -> list[str]:
    if _is_body(layer, part):
        return []
    if isinstance(layer, BarLayer):
        return ["bar_clear", *(["in_line"] if layer.place == "pair" else []), "dry_fit"]
    if isinstance(layer, CutLayer):
        return ["hand"]
    if isinstance(layer, JointLayer):
        return ["dry_fit", "square"] if part.kind == "fuselage" else ["dry_fit"]
    if isinstance(layer, HingeLayer):
        return ["hand", "hinge_free"]
    found = ["inside"] if shuts(layer, part) else []
    if isinstance(layer, WallLayer):
        return [*found, "direction", "dry_fit"]
    if isinstance(layer, FilmLayer | StripLayer):
        found += ["iron"] if _is_ironed(layer) else []
        found += ["direction"] if isinstance(layer.skin, Laminate) or _is_cloth(layer) else []
        found += ["bag"] if isinstance(layer.skin, Laminate) and layer.skin.method == "vacuum" else []
        return [*found, "flush", *(["in_turn", "twist"] if layer.face in ("both", "wrapped") else [])]
    return found


def _tags(layer: Layer, bond: JointLayer | None) -> set[str]:
    tags = {"process:cutting"} if isinstance(layer, BarLayer | WallLayer | CutLayer) else set()
    joint = layer if isinstance(layer, JointLayer) else bond
    if joint is not None and joint.glue is not None:
        tags |= {f"adhesive:{joint.glue.adhesive}", *(f"key:{k}" for k in adhesives()[joint.glue.adhesive].hazards)}
    if _is_ironed(layer):
        tags.add("process:film_iron")
    if _is_cloth(layer) or isinstance(getattr(layer, "skin", None), Laminate):
        tags |= {"process:layup", "adhesive:epoxy_laminating"}
    if isinstance(layer, BarLayer) and layer.stock.startswith(("carbon", "glass")):
        tags.add("primitive:sleeve_rod")
    return tags


def _tools(steps: Iterable[Step]) -> list[str]:
    return [t for s in steps for t in tasks()[s.task].tools]


def _of_airframe(
    airframe: Airframe, shop: ShopWish, finished: dict[str, list[BuildStep]]
) -> Iterator[BuildStep]:  # fmt: skip
    """Joining, setting square, equipment, controls, balance, bench test, first flight."""
    parts = {p.id: p for p in airframe.parts}
    ends = [_fixed(o) for made in _pieces(finished) for o in made]
    joined: list[BuildStep] = []
    for part_id, made in finished.items():
        part = parts[part_id]
        if part.hand == "both" and part.kind in ("wing", "tail") and part.root.kind == "glued":
            glue = _glue(_JOIN, None, None, [Step("joint", 1)], shop.warmth_C)
            halves = [_fixed(m[-1]) for m in _pieces({part_id: made})]
            join = _op(
                f"{part.id}/join", f"join the halves: {part.name}", JOIN, halves,
                glue=glue, hold={"boards": 1}, people=min(shop.people, 2) if part.span_mm > LONG_MM else 1,
                checks=["dry_fit", "dihedral", "twist", "alike"], undoes=False,
            )  # fmt: skip
            joined.append(join)
            yield join
    ready = [*ends, *(_fixed(o) for o in joined)]
    flying = [p for p in airframe.parts if p.kind != "plank"]
    if any(p.kind == "fuselage" for p in flying) and any(p.kind in ("wing", "tail") for p in flying):
        glue = _glue(_JOIN, None, None, [Step("joint", 1)], shop.warmth_C)
        square = _op("square", "set wing and tail square to the fuselage, fix them", SQUARE, ready, glue=glue,
                     checks=["square_to_body"], undoes=False)  # fmt: skip
        yield square
        joined.append(square)
        ready = [_fixed(square)]
    fitted: list[AfterAt] = []
    for item in airframe.equipment:
        if item.what in ("ballast", "lead"):
            continue
        each = [f"fit: {item.name or item.what}"]
        op = _op(f"item/{item.id}", each[0], FIT, ready, checks=["propeller"] if item.what == "propeller" else [])
        fitted.append(_fixed(op))
        yield op
    controls = [p for p in flying if p.controls or p.kind == "surface"]
    if controls:
        link = _op("controls", "link the controls, set their throws", _times(LINK, len(controls)), [*ready, *fitted],
                   checks=["hinge_free", "sense"])  # fmt: skip
        fitted.append(_fixed(link))
        yield link
    yield _op("balance", "weigh and balance", BALANCE, [*ready, *fitted], checks=["mass", "balance"])
    loaded = [
        AfterAt(key=o.key, wait_min=o.loaded_min, why=f"{o.glue} carries its load")
        for o in (*(o for made in finished.values() for o in made), *joined) if o.loaded_min
    ]  # fmt: skip
    last = [AfterAt(key="balance", wait_min=0, why="weigh and balance first"), *loaded]
    yield _op("bench", "bench test: bend and twist under weights", BENCH, last, checks=["cured", "bench"],
              tags=["process:hanging_weights"])  # fmt: skip
    yield _op("flight", "checks before the first flight", FIRST,
              [AfterAt(key="bench", wait_min=0, why="the bench test is passed")],
              checks=["sense", "propeller", "leave_safe"], daylight=True)  # fmt: skip


_JOIN = CutLayer(id="join")
"""Stands for a joint of the airframe whose glue no line names."""


def _times(value: Range, by: float) -> Range:
    return Range(value.low * by, value.typ * by, value.high * by)


def _pieces(finished: dict[str, list[BuildStep]]) -> Iterator[list[BuildStep]]:
    """The operations of each piece, in order."""
    for made in finished.values():
        by: dict[str, list[BuildStep]] = {}
        for o in made:
            by.setdefault(o.piece, []).append(o)
        yield from by.values()
