"""The files that tell a desktop of Late Spin.

Sources: the freedesktop.org specifications Desktop Entry 1.5, Shared MIME-info 0.21 and Icon Theme 0.13; AppStream 1.0.
"""

import re
from pathlib import Path
from xml.sax.saxutils import escape

from latespin import __version__
from latespin.integration import APP_ID, SESSION_TYPE

SUMMARY = "Altered versions of whole songs"
DESCRIPTION = (
    "Late Spin makes altered versions of complete songs: slowed and reverb, sped up, halftime, lo-fi vinyl, underwater, 8D, tape stops and "
    "ring-outs, with tempo, pitch and loudness under control."
)
POINTS = (
    "Speed, pitch and tempo curves, with the pitch following or held",
    "Hall and convolution reverb, vinyl, tape, underwater, 8D spin, and many more effects, each at the same loudness and automated over the song",
    "Moments on beats: tape stops, stutters, reverses, covered words, throws",
    "A loudness target below a true-peak ceiling, and a tone match to a reference",
    "Videos that keep their pictures in time with the version",
    "Many versions of many songs in one go",
)
SOUND_TYPES = (
    "audio/x-wav", "audio/flac", "audio/x-flac", "audio/ogg", "audio/x-vorbis+ogg", "audio/x-opus+ogg", "audio/mpeg", "audio/mp4", "audio/aac",
    "audio/x-aiff", "audio/x-caf", "video/mp4", "video/quicktime", "video/x-matroska", "video/webm",
)  # fmt: skip


def desktop_entry(command: Path) -> str:
    """The launcher. command : the program's file."""
    quoted = _quoted(str(command))
    types = ";".join((SESSION_TYPE, *SOUND_TYPES))
    return f"""[Desktop Entry]
Version=1.0
Type=Application
Name=Late Spin
GenericName=Song Editor
GenericName[de]=Song-Bearbeitung
Comment={SUMMARY}
Comment[de]=Veränderte Versionen ganzer Songs
Exec={quoted} open %f
TryExec={command}
Icon={APP_ID}
Terminal=false
Categories=AudioVideo;Audio;AudioVideoEditing;
Keywords=slowed;reverb;nightcore;speed;pitch;tempo;8D;lo-fi;remix;
MimeType={types};
StartupNotify=true
StartupWMClass={APP_ID}
"""


def _quoted(text: str) -> str:
    """An argument of a launcher's command: in double quotes where it must be, and then backslashes doubled as in all its values."""
    text = text.replace("%", "%%")
    if re.fullmatch(r"[\w@%+=:,./-]+", text, re.ASCII):
        return text
    inside = re.sub(r'(["`$\\])', r"\\\1", text)
    return f'"{inside}"'.replace("\\", "\\\\")


def mime_package() -> str:
    """The file type of sessions: by their ending, and by how they begin."""
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{SESSION_TYPE}">
    <comment>Late Spin session</comment>
    <comment xml:lang="de">Late-Spin-Sitzung</comment>
    <sub-class-of type="application/json"/>
    <generic-icon name="{SESSION_TYPE.replace("/", "-")}"/>
    <magic priority="80">
      <match type="string" offset="0:64" value="&quot;late-spin session&quot;"/>
    </magic>
    <glob pattern="*.latespin"/>
  </mime-type>
</mime-info>
"""


def metainfo() -> str:
    """What software centres show."""
    points = "\n".join(f"      <li>{escape(point)}</li>" for point in POINTS)
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<component type="desktop-application">
  <id>{APP_ID}</id>
  <metadata_license>CC0-1.0</metadata_license>
  <project_license>MIT</project_license>
  <name>Late Spin</name>
  <summary>{SUMMARY}</summary>
  <developer id="org.latespin">
    <name>The Late Spin authors</name>
  </developer>
  <description>
    <p>{escape(DESCRIPTION)}</p>
    <ul>
{points}
    </ul>
  </description>
  <launchable type="desktop-id">{APP_ID}.desktop</launchable>
  <content_rating type="oars-1.1"/>
  <categories>
    <category>AudioVideo</category>
    <category>Audio</category>
  </categories>
  <provides>
    <binary>latespin</binary>
    <mediatype>{SESSION_TYPE}</mediatype>
  </provides>
  <releases>
    <release version="{__version__}" date="2026-11-28" type="development"/>
  </releases>
</component>
"""
