"""Names of tags: those of Vorbis comments, which are ours, and what ID3 (v2.4) and MP4 call the same thing."""

ID3_FRAMES = {
    "title": "TIT2", "subtitle": "TIT3", "grouping": "TIT1", "artist": "TPE1", "albumartist": "TPE2", "conductor": "TPE3",
    "remixer": "TPE4", "album": "TALB", "discsubtitle": "TSST", "date": "TDRC", "originaldate": "TDOR", "genre": "TCON", "mood": "TMOO",
    "tracknumber": "TRCK", "discnumber": "TPOS", "composer": "TCOM", "lyricist": "TEXT", "originalartist": "TOPE", "isrc": "TSRC",
    "bpm": "TBPM", "initialkey": "TKEY", "copyright": "TCOP", "organization": "TPUB", "language": "TLAN", "media": "TMED",
    "encodedby": "TENC", "compilation": "TCMP", "titlesort": "TSOT", "artistsort": "TSOP", "albumsort": "TSOA",
    "albumartistsort": "TSO2", "composersort": "TSOC",
}  # fmt: skip
MP4_ATOMS = {
    "title": "\xa9nam", "artist": "\xa9ART", "album": "\xa9alb", "albumartist": "aART", "date": "\xa9day", "genre": "\xa9gen",
    "composer": "\xa9wrt", "comment": "\xa9cmt", "copyright": "cprt", "lyrics": "\xa9lyr", "grouping": "\xa9grp",
    "titlesort": "sonm", "artistsort": "soar", "albumsort": "soal", "albumartistsort": "soaa", "composersort": "soco",
}  # fmt: skip
MP4_NUMBERS = {"trkn": ("tracknumber", "tracktotal"), "disk": ("discnumber", "disctotal")}
MP4_FREE = "----:"  # atoms whose names people choose: ``----:`` and a domain, ``:``, and the name
MP4_OURS = "----:com.apple.iTunes:"  # the domain all players read
#: Other names of the same thing in Vorbis comments; the first that is there becomes the frame of ID3.
SAME = {"organization": ("organization", "publisher", "label"), "lyrics": ("lyrics", "unsyncedlyrics")}
#: What is true of the file that was read and not of another made from it, or is carried in another way.
UNTRUE = (
    "encoder", "encodersettings", "software", "encoding", "itunnorm", "itunsmpb", "length", "cuesheet", "metadata_block_picture", "coverart",
    "coverartmime", "waveformatextensible_channel_mask", "md5", "acoustid_fingerprint", "acoustid_id", "musicbrainz_trackid",
    "musicbrainz_releasetrackid",
)  # fmt: skip
UNTRUE_BEGINNINGS = ("replaygain_", "r128_")


def is_carried(name: str) -> bool:
    """True for tags that a version takes over from its song; ``name`` in lower case."""
    plain = name.isascii() and name.isprintable() and "=" not in name and "~" not in name
    return bool(name) and plain and name not in UNTRUE and not name.startswith(UNTRUE_BEGINNINGS)
