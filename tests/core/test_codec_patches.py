"""Passages of an Opus file that are encoded again by themselves."""

import shutil
from pathlib import Path

import numpy as np
import pytest
import soundfile
from hypothesis import given
from hypothesis import strategies as st

from latespin.dsp.arrays import Audio
from latespin.errors import Cancelled
from latespin.jobs import Quietly
from latespin.media.audio.encode import encode
from latespin.media.audio.formats import BEST, Encoding
from latespin.media.audio.opus_packets import PACKET_FRAMES, OpusPackets, exchange_packets, packet_heads
from latespin.media.tags import Tags
from latespin.media.track import Track
from latespin.model.version import Level, Stages
from latespin.render.chain.renderer import TrackRenderer
from latespin.render.export import codec_patches, export
from latespin.render.export.codec_headroom import decode_and_measure
from latespin.render.export.codec_patches import _gain, _joined, patched
from latespin.render.mastering.measure import LevelSolution, solve
from tests.conftest import level_db, noise, track_of

RATE = 48_000
LOUDNESS, CEILING = -8.0, -1.0
LOUD = Stages(level=Level(target_lufs=LOUDNESS, allowance_db=8.0))


def written(path: Path, sound: Audio, encoding: Encoding = BEST, rate: int = RATE) -> Path:
    encode(path, [sound], rate=rate, channels=len(sound), encoding=encoding, tags=Tags(), overwrite=True, sources=())
    return path


def heard(path: Path) -> Audio:
    return np.asarray(soundfile.read(path, dtype="float32", always_2d=True)[0].T)


@pytest.fixture(scope="module")
def excerpt(lantern: Track) -> Track:
    """Nine seconds of a song."""
    return track_of(lantern.sound[:, 30 * lantern.rate : 39 * lantern.rate].copy())


@pytest.fixture(scope="module")
def loud(excerpt: Track) -> LevelSolution:
    """Them 3 dB louder, the limiter at work, without any headroom for the format."""
    return solve(TrackRenderer(excerpt), LOUD, Quietly())


@pytest.mark.parametrize("kbps", [64, 256, 512])
def test_a_file_written_again_packet_by_packet_is_the_same_sound(tmp_path: Path, kbps: int) -> None:
    """At 512 kbit/s a page holds less than a second."""
    file = written(tmp_path / "a.opus", noise(7.3, rate=RATE), Encoding(kbps=kbps))
    exchange_packets(file, tmp_path / "b.opus", {})
    assert list(OpusPackets(file)) == list(OpusPackets(tmp_path / "b.opus"))
    assert np.array_equal(heard(file), heard(tmp_path / "b.opus"))
    assert len(list(OpusPackets(file))) - 2 == -(-heard(file).shape[1] // PACKET_FRAMES) + 1


def test_packets_of_another_encoding_are_heard_without_a_seam(tmp_path: Path, lantern: Track) -> None:
    """Where both encoded the same sound, the error at the seams is no larger than anywhere, and the rest stays as it was."""
    sound = lantern.sound[:, 40 * RATE : 48 * RATE]
    whole, later = (
        written(tmp_path / "a.opus", sound),
        written(tmp_path / "b.opus", sound[:, RATE : 6 * RATE]),
    )
    joined = _joined(packet_heads(whole), packet_heads(later), 50, 2 * 50, 5 * 50)
    first, stop = joined[0], joined[-1] + 1
    assert 80 <= first <= 100 <= 250 <= stop <= 270
    others = {number: packet for number, packet in OpusPackets(later).sound(50) if number in joined}
    exchange_packets(whole, tmp_path / "c.opus", others)
    before, after = heard(whole), heard(tmp_path / "c.opus")
    assert before.shape == after.shape == sound.shape
    changed = np.any(before != after, axis=0)
    assert not changed[: first * PACKET_FRAMES - 312].any()
    assert changed[first * PACKET_FRAMES : stop * PACKET_FRAMES].any()
    assert level_db((before - after)[:, (stop + 15) * PACKET_FRAMES :]) < -110.0
    tenths = np.array([level_db(part) for part in np.array_split(after - sound, 80, axis=1)])
    usual = np.array([level_db(part) for part in np.array_split(before - sound, 80, axis=1)])
    assert np.max(tenths - usual) < 1.5


def test_a_patched_file_holds_the_ceiling_and_is_elsewhere_as_it_was(loud: LevelSolution, tmp_path: Path) -> None:
    file = written(tmp_path / "a.opus", np.concatenate(list(loud.blocks()), axis=1), rate=loud.matched.rate)
    before, packets = decode_and_measure(file, CEILING), list(OpusPackets(file))
    assert before.facts.true_peak_dbtp > CEILING + 0.1, "a file that needs no patch shows nothing"
    after = patched(file, loud, before, BEST, CEILING, Quietly())
    assert after.facts == decode_and_measure(file, CEILING).facts
    assert after.facts.true_peak_dbtp <= CEILING + 0.045
    lost = before.facts.loudness.integrated_lufs - after.facts.loudness.integrated_lufs
    assert 0.0 < lost < 0.2, "little, where hundreds of peaks are over"
    kept = np.array([old == new for old, new in zip(packets, OpusPackets(file), strict=True)])
    over = np.flatnonzero(before.over > 1.0) / 2
    near = np.array([np.min(np.abs(over - number)) < 50 for number in range(-2, len(kept) - 2)])
    assert kept[~near].all()
    assert not kept.all()


def test_a_patched_file_is_the_same_each_time(loud: LevelSolution, tmp_path: Path) -> None:
    whole = written(tmp_path / "a.opus", np.concatenate(list(loud.blocks()), axis=1), rate=loud.matched.rate)
    decoded, made = decode_and_measure(whole, CEILING), []
    for _ in range(2):
        file = Path(shutil.copy(whole, tmp_path / "b.opus"))
        patched(file, loud, decoded, BEST, CEILING, Quietly())
        made.append(file.read_bytes())
    assert made[0] == made[1] != whole.read_bytes()


def test_where_there_is_no_room_for_passages_the_file_stays_as_it_is(
    loud: LevelSolution, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    def refused(**_: object) -> None:
        raise OSError(28, "No space left on device")

    file = written(tmp_path / "a.opus", np.concatenate(list(loud.blocks()), axis=1), rate=loud.matched.rate)
    before, bytes_before = decode_and_measure(file, CEILING), file.read_bytes()
    monkeypatch.setattr(codec_patches.tempfile, "TemporaryDirectory", refused)
    assert patched(file, loud, before, BEST, CEILING, Quietly()) is before
    assert file.read_bytes() == bytes_before


def test_a_loud_opus_file_is_encoded_once(excerpt: Track, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    whole_files = []
    real = export.encode
    monkeypatch.setattr(export, "encode", lambda target, *a, **b: whole_files.append(target) or real(target, *a, **b))
    made = export.export(TrackRenderer(excerpt), LOUD, tmp_path / "loud.opus", Quietly())
    assert len(whole_files) == 1
    assert made.facts.true_peak_dbtp <= CEILING + 0.045
    assert made.facts.loudness.integrated_lufs == pytest.approx(LOUDNESS, abs=0.1)
    assert list(tmp_path.iterdir()) == [tmp_path / "loud.opus"]


def test_cancelling_a_patch_leaves_no_file(excerpt: Track, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    class Stopping(Quietly):
        patching = False

        def cancelled(self) -> bool:
            return self.patching

    work, real = Stopping(), codec_patches.passages_around

    def begun(*args: object) -> object:
        work.patching = True
        return real(*args)

    folder = tmp_path / "trials"
    folder.mkdir()
    monkeypatch.setattr(codec_patches.tempfile, "tempdir", str(folder))
    monkeypatch.setattr(codec_patches, "passages_around", begun)
    with pytest.raises(Cancelled):
        export.export(TrackRenderer(excerpt), LOUD, tmp_path / "loud.opus", work)
    assert work.patching
    assert [*folder.iterdir(), *tmp_path.glob("*.opus*")] == []


@given(st.dictionaries(st.integers(20, 179), st.floats(0.5, 1.0), max_size=20), st.sampled_from([8_000, 44_100]))
def test_a_dip_is_as_deep_as_asked_throughout_its_place_and_nowhere_else(asked: dict[int, float], rate: int) -> None:
    dips = np.ones(200)
    dips[list(asked)] = list(asked.values())
    gain = _gain(dips, 2 * rate, rate)
    at = (np.arange(2 * rate) / rate / 0.01).astype(int)
    assert np.all(gain <= dips[at] + 1e-6)
    far = np.min(np.abs(at[:, None] - np.array([*asked, -1000])), axis=1) > 4
    assert np.all(gain[far] == 1.0)
    assert np.max(np.abs(np.diff(gain)), initial=0.0) <= 0.5 * 0.5 / (0.01 * rate) * 1.01, "it never jumps"


@given(
    st.lists(st.sampled_from([b"\xfca", b"\xfcb", b"\x08a"]), min_size=40, max_size=200),
    st.lists(st.sampled_from([b"\xfca", b"\xfcb", b"\x08a"]), min_size=150, max_size=150),
    st.integers(0, 30),
)
def test_passages_are_joined_where_both_encodings_agree_or_not_at_all(
    heads: list[bytes], others: list[bytes], first: int
) -> None:
    start, stop = min(first + 40, len(heads)), min(first + 70, len(heads))
    joined = _joined(heads, others, first, start, stop)
    if len(joined):
        assert start - 20 <= joined[0] <= start <= stop <= joined[-1] + 1 <= stop + 20
        for at in (joined[0], joined[-1] + 1):
            if 0 < at < len(heads):
                assert heads[at - 1 : at + 1] == others[at - 1 - first : at + 1 - first]
                assert b"\x08a" not in heads[at - 1 : at + 1], "linear prediction remembers for longer"
