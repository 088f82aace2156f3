"""Files saved by earlier releases open as they did: ``tests/golden`` holds them beside what each becomes when it is saved again."""

import re
from pathlib import Path
from typing import Any

import msgspec
import pytest

from latespin.model.documents.documents import read_recipe, read_session, to_json
from latespin.model.documents.migrations import FORMAT_VERSION
from latespin.model.effects.effects import Compressor, MidSideCompressor, MultibandCompressor, Vinyl

GOLDEN = Path(__file__).parent.parent / "golden"
FILES = sorted(path for path in GOLDEN.rglob("*-format-*") if path.is_file())


def saved_again(path: Path) -> Path:
    """Where a file is in the present format."""
    name = re.sub(r"(-as)?-format-\d+", "", path.stem)
    return path.with_name(f"{name}-as-format-{FORMAT_VERSION}{path.suffix}")


@pytest.mark.parametrize("path", FILES, ids=lambda path: path.stem)
def test_files_of_every_format_open_with_every_value(path: Path) -> None:
    """Those in the present format are saved as they were."""
    read = read_session if path.suffix == ".latespin" else read_recipe
    assert to_json(read(path.read_bytes(), path.name)).decode() == saved_again(path).read_text()


def test_there_is_every_format_and_every_recipe_of_earlier_releases() -> None:
    formats = {int(path.stem.rsplit("-", 1)[1]) for path in FILES}
    assert formats == set(range(1, FORMAT_VERSION + 1))
    assert len({saved_again(path) for path in FILES if path.suffix == ".json"}) == 13


def test_records_and_spins_of_format_6_stay_as_they_were() -> None:
    """Format 7 brought the scratch, and a spin of 100 % unless it says otherwise; amounts that were set are kept."""
    old = [
        {"kind": "vinyl", "id": "a", "wear_percent": 90.0},
        {"kind": "orbit", "id": "b"},
        {"kind": "orbit", "id": "c", "amount_percent": 30.0},
        {"kind": "hall", "id": "d"},
    ]
    plain = {"format": "late-spin recipe", "name": "a", "title": "A", "stages": {"colour": {"effects": old}}}

    def read(version: int) -> list[Any]:
        text = msgspec.json.encode({**plain, "format_version": version})
        return list(read_recipe(text, "a.json").stages.colour.effects)

    vinyl, spin, set_spin, hall = read(6)
    assert (vinyl.scratch_percent, vinyl.wear_percent, spin.amount_percent, set_spin.amount_percent) == (0, 90, 70, 30)
    now = read(7)
    assert now[0].scratch_percent == Vinyl(id="a").scratch_percent > 0.0
    assert (now[1].amount_percent, now[2].amount_percent, now[3]) == (100.0, 30.0, hall)


def test_a_compressor_of_parts_becomes_the_compressor_of_those_parts() -> None:
    """With its settings for each part, automation too; the sides' threshold counts from their own level."""
    lanes = [
        {
            "field": "threshold_db",
            "points": [{"at": {"seconds": 1.0}, "value": -6.0}, {"at": {"seconds": 2.0}, "value": 8.0}],
        }
    ]
    old = [
        {"kind": "compressor", "id": "a", "way": "mid-side", "threshold_db": -6.0, "ratio": 4.0, "lanes": lanes},
        {"kind": "compressor", "id": "b", "way": "bands", "attack_ms": 30.0, "amount_percent": 40.0},
        {"kind": "compressor", "id": "c", "way": "stereo", "release_ms": 90.0},
    ]
    plain = {
        "format": "late-spin recipe",
        "format_version": 4,
        "name": "a",
        "title": "A",
        "stages": {"colour": {"effects": old}},
    }
    sides, bands, both = read_recipe(msgspec.json.encode(plain), "a.json").stages.colour.effects
    assert isinstance(sides, MidSideCompressor)
    assert (sides.mid_threshold_db, sides.side_threshold_db, sides.mid_ratio, sides.side_ratio) == (-6.0, 3.0, 4.0, 4.0)
    assert {lane.field: [point.value for point in lane.points] for lane in sides.lanes} == {
        "mid_threshold_db": [-6.0, 8.0], "side_threshold_db": [3.0, 12.0],
    }  # fmt: skip
    assert isinstance(bands, MultibandCompressor)
    assert (bands.low_attack_ms, bands.mid_attack_ms, bands.high_attack_ms, bands.amount_percent) == (
        30.0,
        30.0,
        30.0,
        40.0,
    )
    assert isinstance(both, Compressor)
    assert both.release_ms == 90.0
