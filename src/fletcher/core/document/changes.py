"""What changed between two documents, in words: for the history of an airframe."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from fletcher.core.document.airframe import Airframe, Layer, Part
from fletcher.core.materials.tables import reference

_UNITS = {"_mm": " mm", "_g": " g", "_m_s": " m/s", "_deg": "°", "_percent": " %", "_N": " N", "_C": " °C"}


def _field(name: str) -> tuple[str, str]:
    """A field's name in words and its unit."""
    if name == "all_up_mass_g":
        return "all-up mass", " g"
    for end, unit in _UNITS.items():
        if name.endswith(end):
            return name[: -len(end)].replace("_", " "), unit
    return name.replace("_", " "), ""


def _value(value: Any, unit: str) -> str:
    if value is None:
        return "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return f"{value:g}{unit}"
    if isinstance(value, str):
        names = (m[value].name for m in vars(reference()).values() if value in m)
        return next(names, value or "none")
    return "changed"


def _differences(old: Mapping[str, Any], new: Mapping[str, Any], skip: frozenset[str]) -> Iterator[str]:
    for name, value in new.items():
        if name in skip or old.get(name) == value:
            continue
        label, unit = _field(name)
        if isinstance(value, Mapping) and isinstance(old.get(name), Mapping):
            inner = list(_differences(old[name], value, frozenset()))
            yield f"{label}: {', '.join(inner)}" if len(inner) == 1 else f"{label} changed"
            continue
        before, after = _value(old.get(name), unit), _value(value, unit)
        yield f"{label} changed" if "changed" in (before, after) else f"{label} {before} → {after}"


def _name(layer: Layer) -> str:
    if layer.name:
        return layer.name
    key = getattr(layer, "stock", None) or getattr(layer, "sheet", None) or getattr(layer, "cord", None)
    skin = getattr(layer, "skin", None)
    if key is None and isinstance(skin, str):
        key = skin
    return _value(key, "") if key else {"cut": "Cut"}.get(layer.type, "Laminate")


def _items(old: tuple[Any, ...], new: tuple[Any, ...], name: Any, one: str) -> Iterator[str]:
    """Changes of a list of things that have ids."""
    before, after = {x.id: x for x in old}, {x.id: x for x in new}
    yield from (f"{name(x)} added" for k, x in after.items() if k not in before)
    yield from (f"{name(x)} removed" for k, x in before.items() if k not in after)
    for k, x in after.items():
        if k not in before or before[k] == x:
            continue
        if before[k].type != x.type:
            yield f"{name(x)} replaced"
            continue
        told = list(_differences(before[k].model_dump(), x.model_dump(), frozenset({"id"})))
        if told:  # nothing where only a material of the builder's own, told by itself, has other values
            yield f"{name(x)}: {', '.join(told)}"
    common = [x.id for x in old if x.id in after]
    if common != [x.id for x in new if x.id in before]:
        yield f"{one} reordered"


def _materials(old: Airframe, new: Airframe) -> Iterator[str]:
    before, after = ({m.id: m for m in a.materials} for a in (old, new))
    yield from (f"{m.name}, measured by you, added" for k, m in after.items() if k not in before)
    yield from (f"{m.name}, measured by you, taken out" for k, m in before.items() if k not in after)
    yield from (f"{m.name}: measured anew" for k, m in after.items() if k in before and before[k] != m)


def _part(old: Part, new: Part) -> Iterator[str]:
    lists = frozenset({"layers", "cases", "id"})
    yield from _differences(old.model_dump(exclude=set(lists)), new.model_dump(exclude=set(lists)), lists)
    yield from _items(old.layers, new.layers, _name, "building")
    yield from _items(old.cases, new.cases, lambda c: c.name, "cases")


def changes(old: Airframe, new: Airframe) -> list[str]:
    """What changed from one document to another, a sentence piece each; empty if nothing did."""
    out = list(
        _differences(
            old.model_dump(exclude={"parts", "materials"}), new.model_dump(exclude={"parts", "materials"}),
            frozenset({"setting"}),
        )
    )  # fmt: skip
    out += _materials(old, new)
    out += [f"environment: {d}" for d in _differences(old.setting.model_dump(), new.setting.model_dump(), frozenset())]
    before, after = {p.id: p for p in old.parts}, {p.id: p for p in new.parts}
    out += [f"{p.name} added" for k, p in after.items() if k not in before]
    out += [f"{p.name} removed" for k, p in before.items() if k not in after]
    for k, part in after.items():
        if k in before and before[k] != part:
            out += [f"{part.name}: {told}" for told in _part(before[k], part)]
    return out
