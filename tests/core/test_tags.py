"""Tags: every field goes from a song to a version, in every format that can hold it."""

import string
from pathlib import Path

import mutagen
import pytest
from hypothesis import given
from hypothesis import strategies as st
from mutagen import id3
from mutagen._vorbis import VCommentDict

from latespin.errors import Unusable
from latespin.media.audio.encode import encode
from latespin.media.tag_names import ID3_FRAMES, UNTRUE, is_carried
from latespin.media.tags import AS_THEY_ARE, MOST_NAMES, TagEdits, Tags, read_tags, write_tags
from latespin.model.values.file_names import FIELDS, filled
from tests.conftest import noise, sine
from tests.core.test_media import encode_with_av

RATE = 44_100
WRITTEN = (".flac", ".ogg", ".opus", ".mp3", ".m4a", ".wav")
#: A name of every frame, and of none.
TEXT = {name: (f"{name} of the late session",) for name in ID3_FRAMES} | {
    "date": ("2026-11-27",), "originaldate": ("1979",), "tracknumber": ("3",), "discnumber": ("2",), "compilation": ("1",),
    "bpm": ("92",), "language": ("eng",), "genre": ("Slow skate", "Soul"), "comment": ("Last couples only",),
    "lyrics": ("Round we go\nuntil the bell",), "catalognumber": ("RINK-7",), "website": ("https://example.org/rink",),
    "producer": ("Juno Carousel", "Otis Wheeler"),
}  # fmt: skip


def silent(path: Path) -> Path:
    """A short file without tags."""
    encode(path, [noise(0.1)], rate=RATE, channels=2, tags=Tags(), overwrite=True, sources=())
    return path


@pytest.mark.parametrize("suffix", WRITTEN)
def test_every_field_survives_in_every_format_that_is_written(tmp_path: Path, suffix: str) -> None:
    path = silent(tmp_path / f"song{suffix}")
    write_tags(path, Tags(TEXT))
    read, warnings = read_tags(path)
    assert {name: values for name, values in read.text.items() if name in TEXT} == TEXT
    assert set(read.text) == set(TEXT)
    assert not warnings


def test_fields_of_songs_by_other_programs_are_read(tmp_path: Path) -> None:
    """Lyrics, people, addresses and free names in ID3; numbers of sets and free names in MP4; other words in Vorbis comments."""
    mp3 = silent(tmp_path / "a.mp3")
    tags = id3.ID3()
    tags.add(id3.USLT(encoding=3, lang="eng", desc="", text="Round we go"))
    tags.add(id3.COMM(encoding=3, lang="eng", desc="iTunNORM", text=["0000"]))
    tags.add(id3.COMM(encoding=3, lang="eng", desc="", text=["Last couples only"]))
    tags.add(id3.TIPL(encoding=3, people=[["producer", "Juno Carousel"], ["mix", "Otis Wheeler"]]))
    tags.add(id3.WOAR(url="https://example.org/rink"))
    tags.add(id3.TXXX(encoding=3, desc="Label", text=["Rink Records"]))
    tags.add(id3.TXXX(encoding=3, desc="REPLAYGAIN_TRACK_GAIN", text=["-9 dB"]))
    tags.save(mp3)
    assert read_tags(mp3)[0].text == {
        "lyrics": ("Round we go",), "comment": ("Last couples only",), "producer": ("Juno Carousel",), "mix": ("Otis Wheeler",),
        "website": ("https://example.org/rink",), "label": ("Rink Records",),
    }  # fmt: skip
    m4a = encode_with_av(tmp_path / "b.m4a", "aac", sine(500, 1.0))
    file = mutagen.File(m4a)
    file["disk"], file["trkn"], file["tmpo"], file["\xa9lyr"] = [(2, 3)], [(7, 0)], [92], ["Round we go"]
    file["----:com.apple.iTunes:LABEL"] = [b"Rink Records"]
    file.save()
    found = read_tags(m4a)[0].text
    assert found | {
        "discnumber": ("2",), "disctotal": ("3",), "tracknumber": ("7",), "bpm": ("92",), "lyrics": ("Round we go",), "label": ("Rink Records",),
    } == found  # fmt: skip
    flac = silent(tmp_path / "c.flac")
    write_tags(flac, Tags({"unsyncedlyrics": ("Round we go",), "publisher": ("Rink Records",), "label": ("Rink",)}))
    write_tags(mp3, read_tags(flac)[0])
    written = id3.ID3(mp3)
    assert written.getall("USLT")[0].text
    assert written["TPUB"].text == ["Rink Records"]
    assert written["TXXX:LABEL"].text == ["Rink"]


@given(name=st.text(string.ascii_letters + " _-:ä=~\n", max_size=12))
def test_a_name_that_is_carried_can_be_a_vorbis_comment(name: str) -> None:
    if is_carried(name.lower()):
        comment = VCommentDict()
        comment[name.lower()] = ["x"]
        assert comment.write()


def test_what_is_true_of_the_song_alone_stays_with_it_and_floods_are_left_out(tmp_path: Path) -> None:
    path = silent(tmp_path / "a.flac")
    many = {f"field{n:04}": ("x",) for n in range(MOST_NAMES + 5)}
    write_tags(path, Tags({name: ("x",) for name in (*UNTRUE, "replaygain_track_gain") if "cover" not in name} | many))
    read, (warning,) = read_tags(path)
    assert set(read.text) == set(list(many)[:MOST_NAMES])
    assert "too large, and left out: field0300" in warning


# -- changed before writing ----------------------------------------------------------------------------------------------

#: What FFmpeg calls our tags, where it has another name for them.
FFMPEG = {
    "tracknumber": "track",
    "discnumber": "disc",
    "albumartist": "album_artist",
    "initialkey": "TKEY",
    "bpm": "TBPM",
    "organization": "publisher",
}
EDITED = {
    "title": "Last couples’ skate", "artist": "The Wheelmen", "album": "Late Session", "date": "2026", "tracknumber": "3", "genre": "Soul",
    "comment": "Slow", "bpm": "84", "initialkey": "Am", "credits": "By leave of the Rink",
}  # fmt: skip


def read_by_ffmpeg(path: Path) -> dict[str, str]:
    """All tags of a file, names in lower case, as FFmpeg reads them."""
    import av

    with av.open(str(path)) as container:
        found = dict(container.metadata) | {k: v for stream in container.streams for k, v in stream.metadata.items()}
    return {name.lower(): value for name, value in found.items()}


@pytest.mark.parametrize("suffix", WRITTEN)
def test_the_fields_of_the_editor_are_read_by_another_library(tmp_path: Path, suffix: str) -> None:
    """The table in docs/publishing.md."""
    path = silent(tmp_path / f"a{suffix}")
    write_tags(path, TagEdits(tuple(EDITED.items())).applied(Tags({"title": ("Before",), "mood": ("late",)})))
    found = read_by_ffmpeg(path)
    for name, value in EDITED.items():
        names = {name, FFMPEG.get(name, name).lower(), {"bpm": "tmpo"}.get(name, name)}
        told = next((found[each] for each in names if each in found), None)
        if (suffix, name) == (".m4a", "bpm"):
            told = told or str(mutagen.File(path)["tmpo"][0])  # FFmpeg passes this atom over
        assert told == value, (name, found)
    assert found.get("mood", found.get("tmoo")) == "late", "what was not changed is carried over"


def test_an_edit_takes_tags_and_covers_away_or_puts_others_in_their_place() -> None:
    tags = Tags({"title": ("A",), "album": ("B",)}, b"jpeg", "image/jpeg")
    assert AS_THEY_ARE.applied(tags) == tags
    made = TagEdits((("album", ""), ("title", "C")), (b"png", "image/png")).applied(tags)
    assert (made.text, made.cover, made.cover_type) == ({"title": ("C",)}, b"png", "image/png")
    assert TagEdits(cover=(b"", "")).applied(tags).cover == b""


@given(st.dictionaries(st.sampled_from(list(FIELDS)), st.text(st.characters(exclude_characters="{}"), max_size=10)))
def test_patterns_of_tags_are_filled_in(values: dict[str, str]) -> None:
    made = filled("{title} – {version}, {bpm} BPM", values)
    expected = f"{values.get('title', '')} – {values.get('version', '')}, {values.get('bpm', '')} BPM"
    assert made == " ".join(expected.split())
    with pytest.raises(Unusable, match=r"no field \{mood\}"):
        filled("{mood}", values)
