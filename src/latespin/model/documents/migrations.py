"""Brings the plain JSON of sessions and recipes of earlier formats to the present one."""

from collections.abc import Iterator
from typing import Any

FORMAT_VERSION = 9
PARTS_OF = {"mid-side": ("mid", "side"), "bands": ("low", "mid", "high")}
SIDE_BELOW_DB = 9.0  # how far below the whole the sides of songs usually are
HIGHEST_THRESHOLD_DB = 12.0


def migrate(plain: dict[str, Any], version: int) -> None:
    """From a format to the present one, in place. Formats 6, 8 and 9 only add: held moments and takes, corrected sections, the sound track."""
    if version == 1:
        _list_colours(plain)
    if version < 4:
        _blend_ring_outs(plain)
        _mirror_dips(plain)
    if version < 5:
        _part_compressors(plain)
    if version < 7:
        _keep_effects_as_they_were(plain)
    plain["format_version"] = FORMAT_VERSION


def _list_colours(plain: dict[str, Any]) -> None:
    """From format 1, whose only effect was a hall, to 2, where there is a list of them; in place."""
    for stages in _stages_of(plain):
        colour = stages.get("colour")
        if isinstance(colour, dict) and isinstance(hall := colour.pop("hall", None), dict):
            colour["effects"] = [{"kind": "hall", "id": "hall", "on": False, **hall}]


def _blend_ring_outs(plain: dict[str, Any]) -> None:
    """From format 3, whose ring-outs were heard while they were fed, to 4, where that is a setting; in place."""
    for stages in _stages_of(plain):
        ending = stages.get("ending")
        way = ending.get("way") if isinstance(ending, dict) else None
        if isinstance(way, dict) and way.get("kind") == "ring-out":
            way.setdefault("blend_percent", 100.0)


def _mirror_dips(plain: dict[str, Any]) -> None:
    """From format 3, whose dips had one curve both ways, to 4, where the way back has its own; in place."""
    for stages in _stages_of(plain):
        moments = stages.get("moments")
        placed = moments.get("placed") if isinstance(moments, dict) else None
        for moment in placed if isinstance(placed, list) else []:
            if isinstance(moment, dict) and moment.get("kind") == "dip":
                moment.setdefault("tension_back", moment.get("tension", 0.0))


def _stages_of(plain: dict[str, Any]) -> list[dict[str, Any]]:
    """The stages of a recipe, or of a session's versions, as far as they are any."""
    versions = plain.get("versions")
    holders = [plain, *(versions if isinstance(versions, list) else [])]
    stages = [holder.get("stages") for holder in holders if isinstance(holder, dict)]
    return [found for found in stages if isinstance(found, dict)]


def _effects_of(plain: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """The effects of all stages, as far as they are any."""
    for stages in _stages_of(plain):
        colour = stages.get("colour")
        effects = colour.get("effects") if isinstance(colour, dict) else None
        yield from (effect for effect in effects if isinstance(effect, dict)) if isinstance(effects, list) else ()


def _part_compressors(plain: dict[str, Any]) -> None:
    """From format 4, whose compressor had one setting for all its parts, to 5, which has a compressor for each way; in place."""
    for effect in _effects_of(plain):
        if effect.get("kind") == "compressor" and (parts := PARTS_OF.get(str(effect.pop("way", "stereo")))):
            effect["kind"] = "mid-side-compressor" if "side" in parts else "multiband-compressor"
            effect.setdefault("threshold_db", -2.0)
            for field in ("threshold_db", "ratio", "attack_ms", "release_ms"):
                if field in effect:
                    value = effect.pop(field)
                    effect |= {f"{part}_{field}": _for_part(part, field, value) for part in parts}
            lanes = effect.get("lanes")
            if isinstance(lanes, list):
                effect["lanes"] = [each for lane in lanes for each in _lanes_for_parts(lane, parts)]


def _keep_effects_as_they_were(plain: dict[str, Any]) -> None:
    """From format 6, whose records had no scratch and whose 8D spin began at 70 %, to 7; in place."""
    for effect in _effects_of(plain):
        if effect.get("kind") == "vinyl":
            effect.setdefault("scratch_percent", 0.0)
        elif effect.get("kind") == "orbit":
            effect.setdefault("amount_percent", 70.0)


def _lanes_for_parts(lane: Any, parts: tuple[str, ...]) -> list[Any]:
    """A lane once for each part, unless it is one of the whole."""
    if not isinstance(lane, dict) or lane.get("field") == "amount_percent" or not isinstance(lane.get("points"), list):
        return [lane]
    field = str(lane.get("field"))
    return [
        {
            **lane,
            "field": f"{part}_{field}",
            "points": [_point_for_part(point, part, field) for point in lane["points"]],
        }
        for part in parts
    ]


def _point_for_part(point: Any, part: str, field: str) -> Any:
    return {**point, "value": _for_part(part, field, point.get("value"))} if isinstance(point, dict) else point


def _for_part(part: str, field: str, value: Any) -> Any:
    """A value of the whole for a part: thresholds now count from the part's usual level."""
    if part == "side" and field == "threshold_db" and isinstance(value, int | float):
        return min(HIGHEST_THRESHOLD_DB, value + SIDE_BELOW_DB)
    return value
