<?xml version='1.0' encoding='utf-8'?>
<!DOCTYPE TS>
<TS version="2.1" language="de" sourcelanguage="en">
 <context>
  <name>Late Spin</name>
  <message>
   <source>
A favourite.</source>
   <translation>
Ein Favorit.</translation>
  </message>
  <message>
   <source>
Its file: {0}.</source>
   <translation>
Ihre Datei: {0}.</translation>
  </message>
  <message>
   <source>
Note: {0}</source>
   <translation>
Notiz: {0}</translation>
  </message>
  <message>
   <source>   ·   {0}, {1} BPM</source>
   <translation>   ·   {0}, {1} BPM</translation>
  </message>
  <message>
   <source> (equivalent to {0})</source>
   <translation> (entspricht {0})</translation>
  </message>
  <message>
   <source> Leave the sides, or limit the narrowing.</source>
   <translation> Lassen Sie die Seiten aus oder begrenzen Sie die Verengung.</translation>
  </message>
  <message>
   <source> Not there, and so not copied: {0}.</source>
   <translation> Nicht vorhanden und daher nicht kopiert: {0}.</translation>
  </message>
  <message>
   <source> Play the song and tap along to place the beats, too.</source>
   <translation> Spielen Sie den Song und tippen Sie mit, um auch die Beats zu setzen.</translation>
  </message>
  <message>
   <source> Press B to switch between Before and After.</source>
   <translation> B wechselt zwischen Vorher und Nachher.</translation>
  </message>
  <message>
   <source> Swing {0} %.</source>
   <translation> Swing {0} %.</translation>
  </message>
  <message>
   <source> dotted</source>
   <translation> punktiert</translation>
  </message>
  <message>
   <source> or </source>
   <translation> oder </translation>
  </message>
  <message>
   <source> triplet</source>
   <translation> Triole</translation>
  </message>
  <message>
   <source> {0} BPM, {1}.</source>
   <translation> {0} BPM, {1}.</translation>
  </message>
  <message>
   <source> {0} beats pinned.</source>
   <translation> {0} Beats festgesteckt.</translation>
  </message>
  <message>
   <source> {0}: choose “Try again” to make them once more.</source>
   <translation> {0}: Mit „Nochmals versuchen“ werden sie erneut erzeugt.</translation>
  </message>
  <message>
   <source>%H:%M on %A %d %B</source>
   <translation>%H:%M Uhr am %d.%m.</translation>
  </message>
  <message>
   <source>&amp;About Late Spin</source>
   <translation>Ü&amp;ber Late Spin</translation>
  </message>
  <message>
   <source>&amp;Add</source>
   <translation>&amp;Hinzufügen</translation>
  </message>
  <message>
   <source>&amp;Artist</source>
   <translation>&amp;Interpret</translation>
  </message>
  <message>
   <source>&amp;BPM</source>
   <translation>&amp;BPM</translation>
  </message>
  <message>
   <source>&amp;Beats</source>
   <translation>&amp;Beats</translation>
  </message>
  <message>
   <source>&amp;Before or After</source>
   <translation>V&amp;orher oder Nachher</translation>
  </message>
  <message>
   <source>&amp;Click on every beat</source>
   <translation>&amp;Klick auf jedem Beat</translation>
  </message>
  <message>
   <source>&amp;Comment</source>
   <translation>&amp;Kommentar</translation>
  </message>
  <message>
   <source>&amp;Cover all marked ranges</source>
   <translation>Alle markierten &amp;Bereiche abdecken</translation>
  </message>
  <message>
   <source>&amp;Daylight</source>
   <translation>Tag&amp;eslicht</translation>
  </message>
  <message>
   <source>&amp;Delete the moments</source>
   <translation>Momente &amp;löschen</translation>
  </message>
  <message>
   <source>&amp;Duplicate</source>
   <translation>&amp;Duplizieren</translation>
  </message>
  <message>
   <source>&amp;Edit</source>
   <translation>B&amp;earbeiten</translation>
  </message>
  <message>
   <source>&amp;End the last mark here</source>
   <translation>Letzten Marker hier &amp;enden lassen</translation>
  </message>
  <message>
   <source>&amp;Evening</source>
   <translation>&amp;Abend</translation>
  </message>
  <message>
   <source>&amp;Export …</source>
   <translation>&amp;Exportieren …</translation>
  </message>
  <message>
   <source>&amp;File</source>
   <translation>&amp;Datei</translation>
  </message>
  <message>
   <source>&amp;File name</source>
   <translation>&amp;Dateiname</translation>
  </message>
  <message>
   <source>&amp;Find a command …</source>
   <translation>Befehl &amp;suchen …</translation>
  </message>
  <message>
   <source>&amp;Forget the marked range</source>
   <translation>Markierten &amp;Bereich vergessen</translation>
  </message>
  <message>
   <source>&amp;Genre</source>
   <translation>&amp;Genre</translation>
  </message>
  <message>
   <source>&amp;Halve the beats</source>
   <translation>Beats &amp;halbieren</translation>
  </message>
  <message>
   <source>&amp;Help</source>
   <translation>&amp;Hilfe</translation>
  </message>
  <message>
   <source>&amp;Import markers …</source>
   <translation>Marker &amp;importieren …</translation>
  </message>
  <message>
   <source>&amp;Import …</source>
   <translation>&amp;Importieren …</translation>
  </message>
  <message>
   <source>&amp;Join the section with the one before</source>
   <translation>Abschnitt mit &amp;dem vorigen verbinden</translation>
  </message>
  <message>
   <source>&amp;Jump to the loudest part</source>
   <translation>Zur &amp;lautesten Stelle</translation>
  </message>
  <message>
   <source>&amp;Keep as a recipe …</source>
   <translation>Als Re&amp;zept sichern …</translation>
  </message>
  <message>
   <source>&amp;Language</source>
   <translation>&amp;Sprache</translation>
  </message>
  <message>
   <source>&amp;Loop the marked range</source>
   <translation>Markierten Bereich &amp;wiederholen</translation>
  </message>
  <message>
   <source>&amp;Mark this place, or the marked range</source>
   <translation>Diese Stelle oder den markierten Bereich &amp;merken</translation>
  </message>
  <message>
   <source>&amp;Moments</source>
   <translation>&amp;Momente</translation>
  </message>
  <message>
   <source>&amp;Next moment</source>
   <translation>&amp;Nächster Moment</translation>
  </message>
  <message>
   <source>&amp;No video</source>
   <translation>&amp;Kein Video</translation>
  </message>
  <message>
   <source>&amp;None: play silently</source>
   <translation>&amp;Keines: stumm spielen</translation>
  </message>
  <message>
   <source>&amp;Note …</source>
   <translation>N&amp;otiz …</translation>
  </message>
  <message>
   <source>&amp;Open song or session …</source>
   <translation>Song oder Sitzung ö&amp;ffnen …</translation>
  </message>
  <message>
   <source>&amp;Paste the stage or effect</source>
   <translation>Stufe oder Effekt e&amp;insetzen</translation>
  </message>
  <message>
   <source>&amp;Picture</source>
   <translation>&amp;Bild</translation>
  </message>
  <message>
   <source>&amp;Play</source>
   <translation>&amp;Wiedergabe</translation>
  </message>
  <message>
   <source>&amp;Play or pause</source>
   <translation>Wiedergabe oder &amp;Pause</translation>
  </message>
  <message>
   <source>&amp;Previous moment</source>
   <translation>&amp;Voriger Moment</translation>
  </message>
  <message>
   <source>&amp;Quantise the chosen held moments</source>
   <translation>Gewählte gehaltene Momente &amp;quantisieren</translation>
  </message>
  <message>
   <source>&amp;Quit</source>
   <translation>&amp;Beenden</translation>
  </message>
  <message>
   <source>&amp;Record what you play</source>
   <translation>Ge&amp;spieltes aufnehmen</translation>
  </message>
  <message>
   <source>&amp;Redo</source>
   <translation>&amp;Wiederholen</translation>
  </message>
  <message>
   <source>&amp;Rename</source>
   <translation>&amp;Umbenennen</translation>
  </message>
  <message>
   <source>&amp;Rename the section …</source>
   <translation>Abschnitt &amp;umbenennen …</translation>
  </message>
  <message>
   <source>&amp;Replace a file that is already there</source>
   <translation>Vorhandene Datei e&amp;rsetzen</translation>
  </message>
  <message>
   <source>&amp;Rulers in bars</source>
   <translation>&amp;Lineale in Takten</translation>
  </message>
  <message>
   <source>&amp;Save session</source>
   <translation>Sitzung &amp;sichern</translation>
  </message>
  <message>
   <source>&amp;Snap to beats</source>
   <translation>Auf &amp;Beats einrasten</translation>
  </message>
  <message>
   <source>&amp;Strong beats</source>
   <translation>&amp;Starke Beats</translation>
  </message>
  <message>
   <source>&amp;Tags …</source>
   <translation>&amp;Tags …</translation>
  </message>
  <message>
   <source>&amp;Tap the tempo</source>
   <translation>Tem&amp;po tippen</translation>
  </message>
  <message>
   <source>&amp;Title</source>
   <translation>&amp;Titel</translation>
  </message>
  <message>
   <source>&amp;Undo</source>
   <translation>&amp;Rückgängig</translation>
  </message>
  <message>
   <source>&amp;Version</source>
   <translation>&amp;Version</translation>
  </message>
  <message>
   <source>&amp;What can I press here?</source>
   <translation>&amp;Was kann ich hier drücken?</translation>
  </message>
  <message>
   <source>&amp;Whole song</source>
   <translation>&amp;Ganzer Song</translation>
  </message>
  <message>
   <source>&amp;Year</source>
   <translation>&amp;Jahr</translation>
  </message>
  <message>
   <source>, an octave lower.</source>
   <translation>, eine Oktave tiefer.</translation>
  </message>
  <message>
   <source>, which makes {0}</source>
   <translation>, das ergibt {0}</translation>
  </message>
  <message>
   <source>, {0} BPM</source>
   <translation>, {0} BPM</translation>
  </message>
  <message>
   <source>, {0} LUFS, {1} dBTP</source>
   <translation>, {0} LUFS, {1} dBTP</translation>
  </message>
  <message>
   <source>0 is above the surface, 100 is deep down.</source>
   <translation>0 ist über Wasser, 100 tief unten.</translation>
  </message>
  <message>
   <source>1 knob</source>
   <translation>1 Regler</translation>
  </message>
  <message>
   <source>1 move</source>
   <translation>1 Aktion</translation>
  </message>
  <message>
   <source>1 … 4, Return</source>
   <translation>1 … 4, Eingabetaste</translation>
  </message>
  <message>
   <source>100 limits both channels together and keeps the image stable. 0 limits each by itself and is louder.</source>
   <translation>100 begrenzt beide Kanäle gemeinsam und hält das Bild stabil. 0 begrenzt jeden für sich und ist lauter.</translation>
  </message>
  <message>
   <source>12 dB</source>
   <translation>12 dB</translation>
  </message>
  <message>
   <source>16 bit, dithered</source>
   <translation>16 Bit, mit Dither</translation>
  </message>
  <message>
   <source>18 dB</source>
   <translation>18 dB</translation>
  </message>
  <message>
   <source>19 cm/s</source>
   <translation>19 cm/s</translation>
  </message>
  <message>
   <source>24 bit, dithered</source>
   <translation>24 Bit, mit Dither</translation>
  </message>
  <message>
   <source>24 dB</source>
   <translation>24 dB</translation>
  </message>
  <message>
   <source>32 bit floating point</source>
   <translation>32 Bit Gleitkomma</translation>
  </message>
  <message>
   <source>36 dB</source>
   <translation>36 dB</translation>
  </message>
  <message>
   <source>38 cm/s</source>
   <translation>38 cm/s</translation>
  </message>
  <message>
   <source>4.8 cm/s</source>
   <translation>4,8 cm/s</translation>
  </message>
  <message>
   <source>48 dB</source>
   <translation>48 dB</translation>
  </message>
  <message>
   <source>6 dB</source>
   <translation>6 dB</translation>
  </message>
  <message>
   <source>8 bars from the playhead</source>
   <translation>8 Takte ab dem Abspielkopf</translation>
  </message>
  <message>
   <source>8D</source>
   <translation>8D</translation>
  </message>
  <message>
   <source>8D spin</source>
   <translation>8D-Drehung</translation>
  </message>
  <message>
   <source>9.5 cm/s</source>
   <translation>9,5 cm/s</translation>
  </message>
  <message>
   <source>; the pitch stays.</source>
   <translation>; die Tonhöhe bleibt.</translation>
  </message>
  <message>
   <source>&lt;p&gt;&lt;b&gt;Made with&lt;/b&gt;&lt;/p&gt;&lt;table&gt;{0}&lt;/table&gt;&lt;p&gt;&lt;b&gt;Font&lt;/b&gt;: Manrope&lt;/p&gt;&lt;pre style='white-space:pre-wrap'&gt;{1}&lt;/pre&gt;</source>
   <translation>&lt;p&gt;&lt;b&gt;Gemacht mit&lt;/b&gt;&lt;/p&gt;&lt;table&gt;{0}&lt;/table&gt;&lt;p&gt;&lt;b&gt;Schrift&lt;/b&gt;: Manrope&lt;/p&gt;&lt;pre style='white-space:pre-wrap'&gt;{1}&lt;/pre&gt;</translation>
  </message>
  <message>
   <source>A</source>
   <translation>A</translation>
  </message>
  <message>
   <source>A bar (61), a bar and beat (61.3), a time (3:05.2), or auto for the best strong bar line near the end.</source>
   <translation>Ein Takt (61), Takt und Beat (61.3), eine Zeit (3:05,2) oder auto für den besten starken Taktstrich nahe dem Ende.</translation>
  </message>
  <message>
   <source>A bar (61), a bar and beat (61.3), a time (3:05.2), or auto.</source>
   <translation>Ein Takt (61), Takt und Beat (61.3), eine Zeit (3:05,2) oder auto.</translation>
  </message>
  <message>
   <source>A card with title and cover</source>
   <translation>Eine Karte mit Titel und Cover</translation>
  </message>
  <message>
   <source>A change applies to every chosen moment that has the control; To applies to this one alone.</source>
   <translation>Eine Änderung gilt für jeden gewählten Moment mit diesem Regler; „Bis“ gilt nur für diesen.</translation>
  </message>
  <message>
   <source>A command, a recipe, an effect or a setting: reverb, 8D, nightcore, fade out …</source>
   <translation>Befehl, Rezept, Effekt oder Einstellung: Hall, 8D, Nightcore, Ausblenden …</translation>
  </message>
  <message>
   <source>A file of this name is there already. Choose another folder or pattern, or allow overwriting.</source>
   <translation>Eine Datei dieses Namens gibt es schon. Wählen Sie einen anderen Ordner oder ein anderes Muster oder erlauben Sie das Überschreiben.</translation>
  </message>
  <message>
   <source>A file …</source>
   <translation>Eine Datei …</translation>
  </message>
  <message>
   <source>A folder has this name. Choose another pattern.</source>
   <translation>Ein Ordner heißt so. Wählen Sie ein anderes Muster.</translation>
  </message>
  <message>
   <source>A hall</source>
   <translation>Ein Hall</translation>
  </message>
  <message>
   <source>A held tempo has 2 to {0} points, the first at 0 s and each later than the one before it.</source>
   <translation>Ein gehaltenes Tempo hat 2 bis {0} Punkte, den ersten bei 0 s und jeden später als den vor ihm.</translation>
  </message>
  <message>
   <source>A line of credits or permission, written into the tags of all files.</source>
   <translation>Eine Zeile mit Nachweisen oder einer Erlaubnis für die Tags aller Dateien.</translation>
  </message>
  <message>
   <source>A little slower, on a worn record with softened highs, in a small room.</source>
   <translation>Etwas langsamer, auf einer abgespielten Platte mit weicheren Höhen, in einem kleinen Raum.</translation>
  </message>
  <message>
   <source>A low-pass of 6 dB per octave beside the shelf; 20 kHz is off.</source>
   <translation>Ein Tiefpass mit 6 dB je Oktave neben dem Shelf; 20 kHz ist aus.</translation>
  </message>
  <message>
   <source>A made-up song with four versions, to look around in.</source>
   <translation>Ein erfundener Song mit vier Versionen zum Umsehen.</translation>
  </message>
  <message>
   <source>A major</source>
   <translation>A-Dur</translation>
  </message>
  <message>
   <source>A minor</source>
   <translation>a-Moll</translation>
  </message>
  <message>
   <source>A note of yours on this recipe, kept on this computer.</source>
   <translation>Ihre Notiz zu diesem Rezept; sie bleibt auf diesem Rechner.</translation>
  </message>
  <message>
   <source>A pad from this slice</source>
   <translation>Ein Pad aus diesem Ausschnitt</translation>
  </message>
  <message>
   <source>A pad is made of a slice of {0} to {1} s, not of {2} s. Mark another range.</source>
   <translation>Ein Pad entsteht aus einem Ausschnitt von {0} bis {1} s, nicht von {2} s. Markieren Sie einen anderen Bereich.</translation>
  </message>
  <message>
   <source>A picture of my own</source>
   <translation>Ein eigenes Bild</translation>
  </message>
  <message>
   <source>A press holds a pad, the next press lets it go. For all pads.</source>
   <translation>Ein Druck hält ein Pad, der nächste lässt es los. Für alle Pads.</translation>
  </message>
  <message>
   <source>A recipe needs a name.</source>
   <translation>Ein Rezept braucht einen Namen.</translation>
  </message>
  <message>
   <source>A section begins or ends here already. Put the playhead inside a section.</source>
   <translation>Hier beginnt oder endet schon ein Abschnitt. Setzen Sie den Abspielkopf in einen Abschnitt.</translation>
  </message>
  <message>
   <source>A slash makes folders.</source>
   <translation>Ein Schrägstrich macht Ordner.</translation>
  </message>
  <message>
   <source>A speed that changes over the song, drawn on the Before waveform.</source>
   <translation>Eine Geschwindigkeit, die sich im Verlauf des Songs ändert, gezeichnet auf die Wellenform Vorher.</translation>
  </message>
  <message>
   <source>A spherical head, or a listener’s measured ears from a SOFA file.</source>
   <translation>Ein Kugelkopf oder gemessene Ohren aus einer SOFA-Datei.</translation>
  </message>
  <message>
   <source>A stutter has 1 to {0} note values one after the other, not {1}.</source>
   <translation>Ein Stottern hat 1 bis {0} Notenwerte nacheinander, nicht {1}.</translation>
  </message>
  <message>
   <source>A tick is a take that is heard. Double-click renames it; Ctrl or Shift and a click choose several.</source>
   <translation>Ein Haken heißt: Der Take ist zu hören. Doppelklick benennt um; Strg oder Umschalt mit einem Klick wählt mehrere.</translation>
  </message>
  <message>
   <source>A wider or narrower stereo image.</source>
   <translation>Ein breiteres oder schmaleres Stereobild.</translation>
  </message>
  <message>
   <source>A worn record: crackle, wow, dust and duller highs.</source>
   <translation>Eine abgespielte Platte: Knistern, Wow, Staub und dumpfere Höhen.</translation>
  </message>
  <message>
   <source>A worn tape: hiss, flutter and drop-outs.</source>
   <translation>Ein abgenutztes Band: Rauschen, Flutter und Aussetzer.</translation>
  </message>
  <message>
   <source>A {0} file cannot hold pictures of the kind {1}. Write a .mkv instead.</source>
   <translation>Eine {0}-Datei kann keine Bilder der Art {1} enthalten. Schreiben Sie stattdessen eine .mkv.</translation>
  </message>
  <message>
   <source>A&amp;lbum</source>
   <translation>A&amp;lbum</translation>
  </message>
  <message>
   <source>About 15 seconds</source>
   <translation>Etwa 15 Sekunden</translation>
  </message>
  <message>
   <source>About 30 seconds</source>
   <translation>Etwa 30 Sekunden</translation>
  </message>
  <message>
   <source>About Late Spin</source>
   <translation>Über Late Spin</translation>
  </message>
  <message>
   <source>About a minute</source>
   <translation>Etwa eine Minute</translation>
  </message>
  <message>
   <source>Above 0 saturates the highs more, below 0 the lows.</source>
   <translation>Über 0 sättigt die Höhen stärker, unter 0 die Tiefen.</translation>
  </message>
  <message>
   <source>Above it the tone is left as it is.</source>
   <translation>Darüber bleibt das Klangbild, wie es ist.</translation>
  </message>
  <message>
   <source>Act on both channels, only on what they share (mid), or only on what differs between them (side).</source>
   <translation>Wirkt auf beide Kanäle, nur auf das Gemeinsame (Mitte) oder nur auf das Verschiedene (Seite).</translation>
  </message>
  <message>
   <source>Adaptive release</source>
   <translation>Adaptives Release</translation>
  </message>
  <message>
   <source>Add</source>
   <translation>Hinzufügen</translation>
  </message>
  <message>
   <source>Add a copy of the chosen version (Ctrl+D).</source>
   <translation>Fügt eine Kopie der gewählten Version hinzu (Strg+D).</translation>
  </message>
  <message>
   <source>Add a folder of songs</source>
   <translation>Ordner mit Songs hinzufügen</translation>
  </message>
  <message>
   <source>Add a moment on the marked range, or at the playhead:</source>
   <translation>Moment auf dem markierten Bereich oder am Abspielkopf einfügen:</translation>
  </message>
  <message>
   <source>Add a point at the playhead. Double-click the Before waveform to add one anywhere.</source>
   <translation>Setzt einen Punkt am Abspielkopf. Doppelklick auf die Wellenform Vorher setzt einen an beliebiger Stelle.</translation>
  </message>
  <message>
   <source>Add a song that sounds as this version should: its tone is measured where it is fullest, middle and sides apart.</source>
   <translation>Fügen Sie einen Song hinzu, der klingt, wie diese Version klingen soll: Sein Klangbild wird an der vollsten Stelle gemessen, Mitte und Seiten getrennt.</translation>
  </message>
  <message>
   <source>Add a version made by the recipe alone.</source>
   <translation>Fügt eine Version hinzu, die allein das Rezept macht.</translation>
  </message>
  <message>
   <source>Add a version that starts from a recipe, or from the track as it is.</source>
   <translation>Fügt eine Version hinzu, die von einem Rezept oder vom unveränderten Track ausgeht.</translation>
  </message>
  <message>
   <source>Add an effect at the end of the list.</source>
   <translation>Hängt einen Effekt an die Liste an.</translation>
  </message>
  <message>
   <source>Add an effect: a hall, a worn record, a dive under water, an 8D spin … Each one feeds the next. Several mild effects sound better than one strong one.</source>
   <translation>Fügen Sie einen Effekt hinzu: einen Hall, eine abgespielte Platte, ein Abtauchen unter Wasser, eine 8D-Drehung … Jeder speist den nächsten. Mehrere milde Effekte klingen besser als ein starker.</translation>
  </message>
  <message>
   <source>Add folder …</source>
   <translation>Ordner hinzufügen …</translation>
  </message>
  <message>
   <source>Add here</source>
   <translation>Hier einfügen</translation>
  </message>
  <message>
   <source>Add layer</source>
   <translation>Ebene hinzufügen</translation>
  </message>
  <message>
   <source>Add marker</source>
   <translation>Marker hinzufügen</translation>
  </message>
  <message>
   <source>Add point here</source>
   <translation>Punkt hier setzen</translation>
  </message>
  <message>
   <source>Add reference songs</source>
   <translation>Referenzsongs hinzufügen</translation>
  </message>
  <message>
   <source>Add song …</source>
   <translation>Song hinzufügen …</translation>
  </message>
  <message>
   <source>Add songs</source>
   <translation>Songs hinzufügen</translation>
  </message>
  <message>
   <source>Add songs …</source>
   <translation>Songs hinzufügen …</translation>
  </message>
  <message>
   <source>Add the average tone of all references of this session, and match that.</source>
   <translation>Fügt das mittlere Klangbild aller Referenzen dieser Sitzung hinzu und gleicht daran an.</translation>
  </message>
  <message>
   <source>Add the effect: {0}</source>
   <translation>Effekt hinzufügen: {0}</translation>
  </message>
  <message>
   <source>Add time</source>
   <translation>Zeit anfügen</translation>
  </message>
  <message>
   <source>Add version</source>
   <translation>Version hinzufügen</translation>
  </message>
  <message>
   <source>Add {0}</source>
   <translation>{0} hinzufügen</translation>
  </message>
  <message>
   <source>Add {0} × {1}</source>
   <translation>{0} × {1} hinzufügen</translation>
  </message>
  <message>
   <source>Adds a plunge where the range begins and where it ends.</source>
   <translation>Fügt ein Eintauchen am Anfang und am Ende des Bereichs hinzu.</translation>
  </message>
  <message>
   <source>Adds a plunge wherever the depth leaves or reaches zero. Automate the depth to use it.</source>
   <translation>Fügt ein Eintauchen hinzu, wo die Tiefe null verlässt oder erreicht. Automatisieren Sie dazu die Tiefe.</translation>
  </message>
  <message>
   <source>Adds a second, steeper slow-down at the end, like a motor switched off and then braked.</source>
   <translation>Fügt am Ende ein zweites, steileres Abbremsen hinzu, wie ein abgeschalteter und dann gebremster Motor.</translation>
  </message>
  <message>
   <source>Adds the effect</source>
   <translation>Fügt den Effekt hinzu</translation>
  </message>
  <message>
   <source>Adds the effects of the version, as they are set at the marked range.</source>
   <translation>Fügt die Effekte der Version hinzu, wie sie am markierten Bereich stehen.</translation>
  </message>
  <message>
   <source>Adds the sound of the water itself, and bubbles.</source>
   <translation>Fügt das Geräusch des Wassers und Blasen hinzu.</translation>
  </message>
  <message>
   <source>Adds, in LU:  {0}</source>
   <translation>Beitrag in LU:  {0}</translation>
  </message>
  <message>
   <source>After</source>
   <translation>Nachher</translation>
  </message>
  <message>
   <source>After the chosen point</source>
   <translation>Nach dem gewählten Punkt</translation>
  </message>
  <message>
   <source>After {0} · the reverb rings on</source>
   <translation>Nachher {0} · der Hall klingt aus</translation>
  </message>
  <message>
   <source>After: {0}</source>
   <translation>Nachher: {0}</translation>
  </message>
  <message>
   <source>Afterwards</source>
   <translation>Danach</translation>
  </message>
  <message>
   <source>Algorithmic reverb, from a closet to a cathedral.</source>
   <translation>Algorithmischer Hall, von der Kammer bis zur Kathedrale.</translation>
  </message>
  <message>
   <source>All beats 10 ms earlier</source>
   <translation>Alle Beats 10 ms früher</translation>
  </message>
  <message>
   <source>All beats 10 ms earlier (Alt+Shift+Left).</source>
   <translation>Alle Beats 10 ms früher (Alt+Umschalt+Links).</translation>
  </message>
  <message>
   <source>All beats 10 ms later</source>
   <translation>Alle Beats 10 ms später</translation>
  </message>
  <message>
   <source>All beats 10 ms later (Alt+Shift+Right).</source>
   <translation>Alle Beats 10 ms später (Alt+Umschalt+Rechts).</translation>
  </message>
  <message>
   <source>All stay the same over the song</source>
   <translation>Alle bleiben im ganzen Song gleich</translation>
  </message>
  <message>
   <source>All {0} versions, each named after itself</source>
   <translation>Alle {0} Versionen, jede nach sich selbst benannt</translation>
  </message>
  <message>
   <source>Allow {0} dB</source>
   <translation>{0} dB zulassen</translation>
  </message>
  <message>
   <source>Alt+Up, Alt+Down</source>
   <translation>Alt+Auf, Alt+Ab</translation>
  </message>
  <message>
   <source>Altered versions of whole songs, at a level you can trust</source>
   <translation>Veränderte Versionen ganzer Songs, mit verlässlichem Pegel</translation>
  </message>
  <message>
   <source>Altered versions of whole songs, at a level you can trust. MIT licence.</source>
   <translation>Veränderte Versionen ganzer Songs, mit verlässlichem Pegel. MIT-Lizenz.</translation>
  </message>
  <message>
   <source>Ambient pad</source>
   <translation>Ambient-Pad</translation>
  </message>
  <message>
   <source>Amount</source>
   <translation>Stärke</translation>
  </message>
  <message>
   <source>Amount of the effect at its peak.</source>
   <translation>Stärke des Effekts am Höhepunkt.</translation>
  </message>
  <message>
   <source>An echo</source>
   <translation>Ein Echo</translation>
  </message>
  <message>
   <source>An effect fades in and out.</source>
   <translation>Ein Effekt blendet ein und aus.</translation>
  </message>
  <message>
   <source>An effect of its own, in which the sound rings on beyond its end.</source>
   <translation>Ein eigener Effekt, in dem der Klang über sein Ende hinaus weiterklingt.</translation>
  </message>
  <message>
   <source>An ending is kept without its bar: on any song it is placed at the last strong bar line. Moments stay on the bars they are on.</source>
   <translation>Ein Schluss wird ohne seinen Takt gesichert: Er liegt in jedem Song auf dem letzten starken Taktstrich. Momente bleiben auf ihren Takten.</translation>
  </message>
  <message>
   <source>An octave down</source>
   <translation>Eine Oktave tiefer</translation>
  </message>
  <message>
   <source>And back</source>
   <translation>Und zurück</translation>
  </message>
  <message>
   <source>And {0} more.</source>
   <translation>Und {0} weitere.</translation>
  </message>
  <message>
   <source>Another file of this export has the same name. Add {version}, {song} or {number} to the pattern.</source>
   <translation>Eine andere Datei dieses Exports heißt genauso. Fügen Sie {version}, {song} oder {number} in das Muster ein.</translation>
  </message>
  <message>
   <source>Any effect, with settings of its own, fades in and out.</source>
   <translation>Ein beliebiger Effekt mit eigenen Einstellungen blendet ein und aus.</translation>
  </message>
  <message>
   <source>Are the beats wrong? Press another reading of them, or play the song and tap along with T.</source>
   <translation>Stimmen die Beats nicht? Drücken Sie eine andere Lesart oder spielen Sie den Song und tippen Sie mit T mit.</translation>
  </message>
  <message>
   <source>As before</source>
   <translation>Wie vorher</translation>
  </message>
  <message>
   <source>As it is</source>
   <translation>Wie er ist</translation>
  </message>
  <message>
   <source>As it was</source>
   <translation>Wie er war</translation>
  </message>
  <message>
   <source>As loud as before</source>
   <translation>So laut wie vorher</translation>
  </message>
  <message>
   <source>As loud as it is</source>
   <translation>So laut, wie sie ist</translation>
  </message>
  <message>
   <source>As loud as the track as it came.</source>
   <translation>So laut wie der unveränderte Track.</translation>
  </message>
  <message>
   <source>As the &amp;desktop</source>
   <translation>Wie der &amp;Desktop</translation>
  </message>
  <message>
   <source>As the song</source>
   <translation>Wie der Song</translation>
  </message>
  <message>
   <source>As the track ends</source>
   <translation>Wie der Track endet</translation>
  </message>
  <message>
   <source>Ask again next time</source>
   <translation>Nächstes Mal wieder fragen</translation>
  </message>
  <message>
   <source>Ask for {0}</source>
   <translation>{0} vorgeben</translation>
  </message>
  <message>
   <source>At 2 : 1, each 2 dB above the threshold come out as 1 dB.</source>
   <translation>Bei 2 : 1 werden aus je 2 dB über der Schwelle 1 dB.</translation>
  </message>
  <message>
   <source>At the playhead: {0}</source>
   <translation>Am Abspielkopf: {0}</translation>
  </message>
  <message>
   <source>Attack</source>
   <translation>Attack</translation>
  </message>
  <message>
   <source>Automate</source>
   <translation>Automatisieren</translation>
  </message>
  <message>
   <source>Automatic: the best strong bar line in the last eighth of the song. Type a bar or a time, or drag it on the waveform.</source>
   <translation>Automatisch: der beste starke Taktstrich im letzten Achtel des Songs. Geben Sie Takt oder Zeit ein oder ziehen Sie ihn auf der Wellenform.</translation>
  </message>
  <message>
   <source>Average</source>
   <translation>Mittel</translation>
  </message>
  <message>
   <source>Average of references</source>
   <translation>Mittel der Referenzen</translation>
  </message>
  <message>
   <source>Average of {0} songs</source>
   <translation>Mittel von {0} Songs</translation>
  </message>
  <message>
   <source>A♭</source>
   <translation>As</translation>
  </message>
  <message>
   <source>A♭ major</source>
   <translation>As-Dur</translation>
  </message>
  <message>
   <source>B</source>
   <translation>H</translation>
  </message>
  <message>
   <source>B major</source>
   <translation>H-Dur</translation>
  </message>
  <message>
   <source>B minor</source>
   <translation>h-Moll</translation>
  </message>
  <message>
   <source>B&amp;ars</source>
   <translation>&amp;Takte</translation>
  </message>
  <message>
   <source>BPM</source>
   <translation>BPM</translation>
  </message>
  <message>
   <source>Bar &amp;1 is here</source>
   <translation>Takt &amp;1 ist hier</translation>
  </message>
  <message>
   <source>Bar 1 at</source>
   <translation>Takt 1 bei</translation>
  </message>
  <message>
   <source>Bar 1 begins at the playhead: at the beat next to it, or all beats move there (Ctrl+B).</source>
   <translation>Takt 1 beginnt am Abspielkopf: beim nächsten Beat, oder alle Beats rücken dorthin (Strg+B).</translation>
  </message>
  <message>
   <source>Bar 1 here</source>
   <translation>Takt 1 hier</translation>
  </message>
  <message>
   <source>Bar 1 is here</source>
   <translation>Takt 1 ist hier</translation>
  </message>
  <message>
   <source>Bar by bar at half speed and an octave lower, at the song’s own length, in a small room.</source>
   <translation>Takt für Takt mit halber Geschwindigkeit und eine Oktave tiefer, so lang wie der Song, in einem kleinen Raum.</translation>
  </message>
  <message>
   <source>Bar {0}   ·   </source>
   <translation>Takt {0}   ·   </translation>
  </message>
  <message>
   <source>Bars</source>
   <translation>Takte</translation>
  </message>
  <message>
   <source>Bars a beat &amp;earlier</source>
   <translation>Takte einen Beat &amp;früher</translation>
  </message>
  <message>
   <source>Bars a beat &amp;later</source>
   <translation>Takte einen Beat &amp;später</translation>
  </message>
  <message>
   <source>Bars a beat earlier</source>
   <translation>Takte einen Beat früher</translation>
  </message>
  <message>
   <source>Bars a beat later</source>
   <translation>Takte einen Beat später</translation>
  </message>
  <message>
   <source>Bars begin one beat earlier (Alt+Left).</source>
   <translation>Takte beginnen einen Beat früher (Alt+Links).</translation>
  </message>
  <message>
   <source>Bars begin one beat later (Alt+Right).</source>
   <translation>Takte beginnen einen Beat später (Alt+Rechts).</translation>
  </message>
  <message>
   <source>Bars for one turn around the head.</source>
   <translation>Takte für eine Runde um den Kopf.</translation>
  </message>
  <message>
   <source>Bars of {0} beats.</source>
   <translation>Takte mit {0} Beats.</translation>
  </message>
  <message>
   <source>Bass below this frequency does not move.</source>
   <translation>Bass unter dieser Frequenz bewegt sich nicht.</translation>
  </message>
  <message>
   <source>Bass stays centred below</source>
   <translation>Bass bleibt mittig unter</translation>
  </message>
  <message>
   <source>Beat</source>
   <translation>Beat</translation>
  </message>
  <message>
   <source>Beat earlier</source>
   <translation>Beat früher</translation>
  </message>
  <message>
   <source>Beat later</source>
   <translation>Beat später</translation>
  </message>
  <message>
   <source>Beats (*.mid *.midi *.csv)</source>
   <translation>Beats (*.mid *.midi *.csv)</translation>
  </message>
  <message>
   <source>Beats and &amp;bars</source>
   <translation>Beats und &amp;Takte</translation>
  </message>
  <message>
   <source>Beats and bars</source>
   <translation>Beats und Takte</translation>
  </message>
  <message>
   <source>Beats and bars are locked. Unlock them in their panel first (G).</source>
   <translation>Beats und Takte sind gesperrt. Entsperren Sie sie zuerst in ihrem Feld (G).</translation>
  </message>
  <message>
   <source>Beats at one and a half times the te&amp;mpo</source>
   <translation>Beats auf das &amp;Anderthalbfache des Tempos</translation>
  </message>
  <message>
   <source>Beats at one and a half times the tempo</source>
   <translation>Beats auf das Anderthalbfache des Tempos</translation>
  </message>
  <message>
   <source>Beats at t&amp;wo thirds of the tempo</source>
   <translation>Beats auf &amp;zwei Drittel des Tempos</translation>
  </message>
  <message>
   <source>Beats at two thirds of the tempo</source>
   <translation>Beats auf zwei Drittel des Tempos</translation>
  </message>
  <message>
   <source>Beats in each bar of the track.</source>
   <translation>Beats in jedem Takt des Tracks.</translation>
  </message>
  <message>
   <source>Beats per bar</source>
   <translation>Beats pro Takt</translation>
  </message>
  <message>
   <source>Beats per minute of the track as it came.</source>
   <translation>Beats pro Minute des unveränderten Tracks.</translation>
  </message>
  <message>
   <source>Beats per minute of the track as it came. Type it to lay the bars.</source>
   <translation>Beats pro Minute des unveränderten Tracks. Eingeben, um die Takte zu legen.</translation>
  </message>
  <message>
   <source>Beats per minute of the track as it came. Type them to space beats evenly.</source>
   <translation>Beats pro Minute des unveränderten Tracks. Eingeben, um die Beats gleichmäßig zu legen.</translation>
  </message>
  <message>
   <source>Beats per minute of the track as it came. Type them, such as 92.</source>
   <translation>Beats pro Minute des unveränderten Tracks. Geben Sie sie ein, etwa 92.</translation>
  </message>
  <message>
   <source>Beats per minute.</source>
   <translation>Beats pro Minute.</translation>
  </message>
  <message>
   <source>Beats to a bar</source>
   <translation>Beats pro Takt</translation>
  </message>
  <message>
   <source>Before</source>
   <translation>Vorher</translation>
  </message>
  <message>
   <source>Before and After waveforms</source>
   <translation>Wellenformen von Vorher und Nachher</translation>
  </message>
  <message>
   <source>Before: BPM</source>
   <translation>Vorher: BPM</translation>
  </message>
  <message>
   <source>Before: the track as it came</source>
   <translation>Vorher: der unveränderte Track</translation>
  </message>
  <message>
   <source>Being worked out …</source>
   <translation>Wird berechnet …</translation>
  </message>
  <message>
   <source>Bell</source>
   <translation>Glocke</translation>
  </message>
  <message>
   <source>Bell Q</source>
   <translation>Güte der Glocke</translation>
  </message>
  <message>
   <source>Bell at</source>
   <translation>Glocke bei</translation>
  </message>
  <message>
   <source>Below 0 it falls at once and lingers, 0 is straight, above 0 it holds and then dives.</source>
   <translation>Unter 0 fällt sie sofort und verweilt, 0 ist gerade, über 0 hält sie und stürzt dann ab.</translation>
  </message>
  <message>
   <source>Below it the tone is left as it is.</source>
   <translation>Darunter bleibt das Klangbild, wie es ist.</translation>
  </message>
  <message>
   <source>Best, about {0} kbit/s</source>
   <translation>Beste, etwa {0} kbit/s</translation>
  </message>
  <message>
   <source>Bit depth. Fewer bits add noise and grit.</source>
   <translation>Bittiefe. Weniger Bits bringen Rauschen und Rauheit.</translation>
  </message>
  <message>
   <source>Bits</source>
   <translation>Bits</translation>
  </message>
  <message>
   <source>Blend in</source>
   <translation>Vorblenden</translation>
  </message>
  <message>
   <source>Blind</source>
   <translation>Blind</translation>
  </message>
  <message>
   <source>Boost at most</source>
   <translation>Höchstens anheben</translation>
  </message>
  <message>
   <source>Boosts or cuts around the bell’s frequency.</source>
   <translation>Hebt oder senkt um die Frequenz der Glocke.</translation>
  </message>
  <message>
   <source>Boosts or cuts around the second bell’s frequency.</source>
   <translation>Hebt oder senkt um die Frequenz der zweiten Glocke.</translation>
  </message>
  <message>
   <source>Boosts or cuts the highest frequencies this loudspeaker plays.</source>
   <translation>Hebt oder senkt die höchsten Frequenzen dieses Lautsprechers.</translation>
  </message>
  <message>
   <source>Boosts or cuts the highs.</source>
   <translation>Hebt oder senkt die Höhen.</translation>
  </message>
  <message>
   <source>Boosts or cuts the lows.</source>
   <translation>Hebt oder senkt die Tiefen.</translation>
  </message>
  <message>
   <source>Break</source>
   <translation>Break</translation>
  </message>
  <message>
   <source>Bridge</source>
   <translation>Bridge</translation>
  </message>
  <message>
   <source>Bring Before and After to the loudness of the quieter one while listening (M),
so that louder never passes for better. Files are not changed by it.</source>
   <translation>Bringt Vorher und Nachher beim Hören auf die Lautheit des leiseren (M),
damit lauter nie als besser gilt. Dateien ändert das nicht.</translation>
  </message>
  <message>
   <source>Brings the finished sound up to speed from a standstill.</source>
   <translation>Lässt den fertigen Klang aus dem Stillstand anlaufen.</translation>
  </message>
  <message>
   <source>Broadcast</source>
   <translation>Rundfunk</translation>
  </message>
  <message>
   <source>Browse the recipes there are.</source>
   <translation>Vorhandene Rezepte durchsehen.</translation>
  </message>
  <message>
   <source>By decay</source>
   <translation>Nach Abklingen</translation>
  </message>
  <message>
   <source>By how much more than the middle the sides may be lowered, where narrowing is limited.</source>
   <translation>Um wie viel mehr als die Mitte die Seiten sinken dürfen, wo die Verengung begrenzt ist.</translation>
  </message>
  <message>
   <source>By length</source>
   <translation>Nach Länge</translation>
  </message>
  <message>
   <source>Bypass other effects</source>
   <translation>An anderen Effekten vorbei</translation>
  </message>
  <message>
   <source>B♭</source>
   <translation>B</translation>
  </message>
  <message>
   <source>B♭ major</source>
   <translation>B-Dur</translation>
  </message>
  <message>
   <source>B♭ minor</source>
   <translation>b-Moll</translation>
  </message>
  <message>
   <source>C</source>
   <translation>C</translation>
  </message>
  <message>
   <source>C major</source>
   <translation>C-Dur</translation>
  </message>
  <message>
   <source>C minor</source>
   <translation>c-Moll</translation>
  </message>
  <message>
   <source>C&amp;opy the moments</source>
   <translation>Momente &amp;kopieren</translation>
  </message>
  <message>
   <source>C&amp;redits</source>
   <translation>&amp;Nachweise</translation>
  </message>
  <message>
   <source>Cancel</source>
   <translation>Abbrechen</translation>
  </message>
  <message>
   <source>Catch what comes</source>
   <translation>Aufnehmen, was kommt</translation>
  </message>
  <message>
   <source>Ceiling</source>
   <translation>Obergrenze</translation>
  </message>
  <message>
   <source>Cells of {0} s of the track; each one’s downbeat stays where it is.</source>
   <translation>Zellen von {0} s des Tracks; die Eins jeder Zelle bleibt, wo sie ist.</translation>
  </message>
  <message>
   <source>Centre frequency of the bell.</source>
   <translation>Mittenfrequenz der Glocke.</translation>
  </message>
  <message>
   <source>Centre frequency of the second bell.</source>
   <translation>Mittenfrequenz der zweiten Glocke.</translation>
  </message>
  <message>
   <source>Change a control over the song: open it over a range, dip it, or draw your own points on the waveform.</source>
   <translation>Ändert einen Regler im Verlauf des Songs: über einen Bereich öffnen, kurz eintauchen oder eigene Punkte auf die Wellenform zeichnen.</translation>
  </message>
  <message>
   <source>Change of level in the range; −60 dB is silence.</source>
   <translation>Pegeländerung im Bereich; −60 dB ist Stille.</translation>
  </message>
  <message>
   <source>Change title, album and other tags of all files before they are written.</source>
   <translation>Titel, Album und andere Tags aller Dateien vor dem Schreiben ändern.</translation>
  </message>
  <message>
   <source>Change title, artist, cover and other tags before they are written.</source>
   <translation>Titel, Interpret, Cover und andere Tags vor dem Schreiben ändern.</translation>
  </message>
  <message>
   <source>Changes of tempo over the range.</source>
   <translation>Tempoänderungen über den Bereich.</translation>
  </message>
  <message>
   <source>Changing the sound device</source>
   <translation>Audiogerät wird gewechselt</translation>
  </message>
  <message>
   <source>Channels</source>
   <translation>Kanäle</translation>
  </message>
  <message>
   <source>Character</source>
   <translation>Charakter</translation>
  </message>
  <message>
   <source>Character and formants</source>
   <translation>Charakter und Formanten</translation>
  </message>
  <message>
   <source>Character of the stretch</source>
   <translation>Charakter der Dehnung</translation>
  </message>
  <message>
   <source>Choose a cover</source>
   <translation>Cover wählen</translation>
  </message>
  <message>
   <source>Choose a cover …</source>
   <translation>Cover wählen …</translation>
  </message>
  <message>
   <source>Choose a file …</source>
   <translation>Datei wählen …</translation>
  </message>
  <message>
   <source>Choose a listener’s ears</source>
   <translation>Ohren eines Hörers wählen</translation>
  </message>
  <message>
   <source>Choose a moment to play. Add one in the Moments panel (3).</source>
   <translation>Wählen Sie einen Moment zum Abspielen. Neue entstehen im Feld „Momente“ (3).</translation>
  </message>
  <message>
   <source>Choose a note value to quantise to in Play along (P).</source>
   <translation>Wählen Sie unter „Mitspielen“ (P) einen Notenwert zum Quantisieren.</translation>
  </message>
  <message>
   <source>Choose a picture</source>
   <translation>Bild wählen</translation>
  </message>
  <message>
   <source>Choose a song …</source>
   <translation>Song wählen …</translation>
  </message>
  <message>
   <source>Choose a target. Before and After play equally loud while you listen, so louder never passes for better.</source>
   <translation>Wählen Sie ein Ziel. Vorher und Nachher klingen beim Hören gleich laut, damit lauter nie als besser gilt.</translation>
  </message>
  <message>
   <source>Choose an impulse response</source>
   <translation>Impulsantwort wählen</translation>
  </message>
  <message>
   <source>Choose another file, or another map with --surface.</source>
   <translation>Wählen Sie eine andere Datei oder mit --surface eine andere Belegung.</translation>
  </message>
  <message>
   <source>Choose another …</source>
   <translation>Andere wählen …</translation>
  </message>
  <message>
   <source>Choose how the version finishes, then press one of the strong bar lines, or drag the ending on After.</source>
   <translation>Wählen Sie, wie die Version endet, und drücken Sie einen der starken Taktstriche oder ziehen Sie den Schluss auf Nachher.</translation>
  </message>
  <message>
   <source>Choose the file …</source>
   <translation>Datei wählen …</translation>
  </message>
  <message>
   <source>Choose the sound to drop in</source>
   <translation>Klang für den Drop-in wählen</translation>
  </message>
  <message>
   <source>Choose the sound to lie beneath</source>
   <translation>Klang für darunter wählen</translation>
  </message>
  <message>
   <source>Choose …</source>
   <translation>Wählen …</translation>
  </message>
  <message>
   <source>Chorus</source>
   <translation>Refrain</translation>
  </message>
  <message>
   <source>Clean edit</source>
   <translation>Saubere Fassung</translation>
  </message>
  <message>
   <source>Clean stop</source>
   <translation>Glatter Stopp</translation>
  </message>
  <message>
   <source>Clear curve</source>
   <translation>Kurve löschen</translation>
  </message>
  <message>
   <source>Click</source>
   <translation>Klick</translation>
  </message>
  <message>
   <source>Close</source>
   <translation>Schließen</translation>
  </message>
  <message>
   <source>Collecting {0}</source>
   <translation>{0} wird zusammengestellt</translation>
  </message>
  <message>
   <source>Comp&amp;are …</source>
   <translation>Ve&amp;rgleichen …</translation>
  </message>
  <message>
   <source>Compare</source>
   <translation>Vergleichen</translation>
  </message>
  <message>
   <source>Compare, equally loud</source>
   <translation>Vergleichen, gleich laut</translation>
  </message>
  <message>
   <source>Compresses lows, mids and highs, each by itself.</source>
   <translation>Komprimiert Tiefen, Mitten und Höhen, jede für sich.</translation>
  </message>
  <message>
   <source>Compresses what is in the middle and what is at the sides, each by itself.</source>
   <translation>Komprimiert Mitte und Seiten, jede für sich.</translation>
  </message>
  <message>
   <source>Compressor</source>
   <translation>Kompressor</translation>
  </message>
  <message>
   <source>Connected to Late Spin</source>
   <translation>Mit Late Spin verbunden</translation>
  </message>
  <message>
   <source>Control surfaces, and the map that says what their pads and knobs do.</source>
   <translation>Controller und die Belegung, die sagt, was ihre Pads und Regler tun.</translation>
  </message>
  <message>
   <source>Convolution reverb</source>
   <translation>Faltungshall</translation>
  </message>
  <message>
   <source>Copied: {0}. Ctrl+Shift+V adds it to a version.</source>
   <translation>Kopiert: {0}. Strg+Umschalt+V fügt es einer Version hinzu.</translation>
  </message>
  <message>
   <source>Copied: {0}. Ctrl+Shift+V puts it into another version.</source>
   <translation>Kopiert: {0}. Strg+Umschalt+V setzt es in eine andere Version.</translation>
  </message>
  <message>
   <source>Copied: {0}. Ctrl+V puts it at the playhead.</source>
   <translation>Kopiert: {0}. Strg+V setzt es an den Abspielkopf.</translation>
  </message>
  <message>
   <source>Copy</source>
   <translation>Kopieren</translation>
  </message>
  <message>
   <source>Copy the &amp;effect</source>
   <translation>&amp;Effekt kopieren</translation>
  </message>
  <message>
   <source>Copy the &amp;stage</source>
   <translation>&amp;Stufe kopieren</translation>
  </message>
  <message>
   <source>Copy the chosen effect and place the copy below it.</source>
   <translation>Kopiert den gewählten Effekt und legt die Kopie darunter.</translation>
  </message>
  <message>
   <source>Corner frequency of the high shelf.</source>
   <translation>Eckfrequenz des Höhen-Shelfs.</translation>
  </message>
  <message>
   <source>Corner frequency of the low shelf.</source>
   <translation>Eckfrequenz des Tiefen-Shelfs.</translation>
  </message>
  <message>
   <source>Corner frequency of the shelf.</source>
   <translation>Eckfrequenz des Shelfs.</translation>
  </message>
  <message>
   <source>Corrected by hand: {0}.{1}{2} Drag the rings on the Before waveform to move single beats.</source>
   <translation>Von Hand berichtigt: {0}.{1}{2} Ziehen Sie die Ringe auf der Wellenform Vorher, um einzelne Beats zu verschieben.</translation>
  </message>
  <message>
   <source>Cover</source>
   <translation>Abdecken</translation>
  </message>
  <message>
   <source>Cover picture</source>
   <translation>Coverbild</translation>
  </message>
  <message>
   <source>Cover with</source>
   <translation>Abdecken mit</translation>
  </message>
  <message>
   <source>Crackle</source>
   <translation>Knistern</translation>
  </message>
  <message>
   <source>Credits</source>
   <translation>Nachweise</translation>
  </message>
  <message>
   <source>Crossfade from its end to its start.</source>
   <translation>Überblendung vom Ende zum Anfang.</translation>
  </message>
  <message>
   <source>Crossfade from the file’s end to its start.</source>
   <translation>Überblendung vom Ende der Datei zu ihrem Anfang.</translation>
  </message>
  <message>
   <source>Crossfader</source>
   <translation>Crossfader</translation>
  </message>
  <message>
   <source>Crush</source>
   <translation>Crush</translation>
  </message>
  <message>
   <source>Ctrl or Shift and a click choose several, which then change together.</source>
   <translation>Strg oder Umschalt mit einem Klick wählt mehrere, die sich dann gemeinsam ändern.</translation>
  </message>
  <message>
   <source>Ctrl+wheel, wheel</source>
   <translation>Strg+Mausrad, Mausrad</translation>
  </message>
  <message>
   <source>Curve</source>
   <translation>Kurve</translation>
  </message>
  <message>
   <source>Curve back</source>
   <translation>Kurve zurück</translation>
  </message>
  <message>
   <source>Curve of the moment</source>
   <translation>Kurve des Moments</translation>
  </message>
  <message>
   <source>Curve of the saturation</source>
   <translation>Kennlinie der Sättigung</translation>
  </message>
  <message>
   <source>Curve of {0}</source>
   <translation>Kurve von {0}</translation>
  </message>
  <message>
   <source>Cut at most</source>
   <translation>Höchstens senken</translation>
  </message>
  <message>
   <source>Cut-off at full depth</source>
   <translation>Grenzfrequenz in voller Tiefe</translation>
  </message>
  <message>
   <source>C♯ minor</source>
   <translation>cis-Moll</translation>
  </message>
  <message>
   <source>D</source>
   <translation>D</translation>
  </message>
  <message>
   <source>D major</source>
   <translation>D-Dur</translation>
  </message>
  <message>
   <source>D minor</source>
   <translation>d-Moll</translation>
  </message>
  <message>
   <source>De&amp;lete</source>
   <translation>&amp;Löschen</translation>
  </message>
  <message>
   <source>Decay</source>
   <translation>Abklingzeit</translation>
  </message>
  <message>
   <source>Decay of the ending</source>
   <translation>Ausklang des Schlusses</translation>
  </message>
  <message>
   <source>Decay of the hall</source>
   <translation>Abklingen des Halls</translation>
  </message>
  <message>
   <source>Decay of the highs relative to the mids. Bare stone keeps them, curtains absorb them.</source>
   <translation>Abklingen der Höhen gegenüber den Mitten. Nackter Stein hält sie, Vorhänge schlucken sie.</translation>
  </message>
  <message>
   <source>Decay of the lows relative to the mids. More is warm or boomy, less is dry.</source>
   <translation>Abklingen der Tiefen gegenüber den Mitten. Mehr ist warm oder dröhnend, weniger trocken.</translation>
  </message>
  <message>
   <source>Delay</source>
   <translation>Verzögerung</translation>
  </message>
  <message>
   <source>Delay before the reverb starts. Longer keeps words and drums clear.</source>
   <translation>Verzögerung, bis der Hall beginnt. Länger hält Worte und Schlagzeug klar.</translation>
  </message>
  <message>
   <source>Delays one side. A few milliseconds sound wide, not like an echo.</source>
   <translation>Verzögert eine Seite. Wenige Millisekunden klingen breit, nicht nach Echo.</translation>
  </message>
  <message>
   <source>Delete</source>
   <translation>Löschen</translation>
  </message>
  <message>
   <source>Delete take</source>
   <translation>Take löschen</translation>
  </message>
  <message>
   <source>Delete takes</source>
   <translation>Takes löschen</translation>
  </message>
  <message>
   <source>Delete the chosen effect.</source>
   <translation>Löscht den gewählten Effekt.</translation>
  </message>
  <message>
   <source>Delete the chosen moment, point, effect or marker</source>
   <translation>Gewählten Moment, Punkt, Effekt oder Marker löschen</translation>
  </message>
  <message>
   <source>Delete the chosen moments (Delete on the waveforms).</source>
   <translation>Löscht die gewählten Momente (Entf auf den Wellenformen).</translation>
  </message>
  <message>
   <source>Delete the recipe</source>
   <translation>Rezept löschen</translation>
  </message>
  <message>
   <source>Delete the recipe, where it is your own.</source>
   <translation>Löscht das Rezept, wenn es Ihr eigenes ist.</translation>
  </message>
  <message>
   <source>Delete version</source>
   <translation>Version löschen</translation>
  </message>
  <message>
   <source>Delete your recipe “{0}”? Versions made with it stay.</source>
   <translation>Ihr Rezept „{0}“ löschen? Damit gemachte Versionen bleiben.</translation>
  </message>
  <message>
   <source>Delete {0}</source>
   <translation>{0} löschen</translation>
  </message>
  <message>
   <source>Deletes the chosen takes, with their moves and knobs.</source>
   <translation>Löscht die gewählten Takes samt Aktionen und Reglern.</translation>
  </message>
  <message>
   <source>Depth</source>
   <translation>Tiefe</translation>
  </message>
  <message>
   <source>Depth and cut-off frequency at the playhead, with their drift.</source>
   <translation>Tiefe und Grenzfrequenz am Abspielkopf, mit ihrer Drift.</translation>
  </message>
  <message>
   <source>Depth under water</source>
   <translation>Tiefe unter Wasser</translation>
  </message>
  <message>
   <source>Detect a&amp;gain</source>
   <translation>Er&amp;neut erkennen</translation>
  </message>
  <message>
   <source>Detect again</source>
   <translation>Erneut erkennen</translation>
  </message>
  <message>
   <source>Detected</source>
   <translation>Erkannt</translation>
  </message>
  <message>
   <source>Detected beats</source>
   <translation>Erkannte Beats</translation>
  </message>
  <message>
   <source>Detected sections</source>
   <translation>Erkannte Abschnitte</translation>
  </message>
  <message>
   <source>Detected: {0}; tempo {1} % sure, bars {2} %.{3}{4} Drag the rings on the Before waveform to move single beats.</source>
   <translation>Erkannt: {0}; Tempo zu {1} % sicher, Takte zu {2} %.{3}{4} Ziehen Sie die Ringe auf der Wellenform Vorher, um einzelne Beats zu verschieben.</translation>
  </message>
  <message>
   <source>Deutsch</source>
   <translation>Deutsch</translation>
  </message>
  <message>
   <source>Dip over {0}: none outside it</source>
   <translation>Nur über {0}: außerhalb null</translation>
  </message>
  <message>
   <source>Direction</source>
   <translation>Richtung</translation>
  </message>
  <message>
   <source>Dismiss</source>
   <translation>Schließen</translation>
  </message>
  <message>
   <source>Distance</source>
   <translation>Entfernung</translation>
  </message>
  <message>
   <source>Distance of the song: farther away, the room is louder against it.</source>
   <translation>Entfernung des Songs: Weiter weg ist der Raum im Verhältnis lauter.</translation>
  </message>
  <message>
   <source>Do not show this hint again.</source>
   <translation>Diesen Hinweis nicht mehr zeigen.</translation>
  </message>
  <message>
   <source>Do not snap</source>
   <translation>Nicht einrasten</translation>
  </message>
  <message>
   <source>Do&amp;uble the beats</source>
   <translation>Beats &amp;verdoppeln</translation>
  </message>
  <message>
   <source>Double</source>
   <translation>Doppelt</translation>
  </message>
  <message>
   <source>Double the beats</source>
   <translation>Beats verdoppeln</translation>
  </message>
  <message>
   <source>Double the beats, where the detected tempo is twice too slow.</source>
   <translation>Verdoppelt die Beats, wo das erkannte Tempo halb so schnell ist.</translation>
  </message>
  <message>
   <source>Double-click the After waveform to add points. Drag a point, or the ring between two points.</source>
   <translation>Doppelklick auf die Wellenform Nachher setzt Punkte. Ziehen Sie einen Punkt oder den Ring zwischen zwei Punkten.</translation>
  </message>
  <message>
   <source>Drag a knob up or down, or use the wheel; Left and Right choose one, Up and Down turn it. A right click changes what it turns.</source>
   <translation>Ziehen Sie einen Regler auf oder ab oder nehmen Sie das Mausrad; links und rechts wählt, auf und ab dreht. Rechtsklick ändert, was er regelt.</translation>
  </message>
  <message>
   <source>Drag along a waveform to mark a range, then choose what happens there.</source>
   <translation>Ziehen Sie auf einer Wellenform, um einen Bereich zu markieren, und wählen Sie, was dort geschieht.</translation>
  </message>
  <message>
   <source>Drag along a waveform to mark the range to loop.</source>
   <translation>Ziehen Sie auf einer Wellenform, um den Bereich für die Schleife zu markieren.</translation>
  </message>
  <message>
   <source>Drag their borders along the top of Before, double-click one to rename it, right-click for its kind.</source>
   <translation>Ziehen Sie ihre Grenzen am oberen Rand von Vorher; Doppelklick benennt um, Rechtsklick wählt die Art.</translation>
  </message>
  <message>
   <source>Drag this range to another program, or to a folder.</source>
   <translation>Diesen Bereich in ein anderes Programm oder einen Ordner ziehen.</translation>
  </message>
  <message>
   <source>Drag {0} to another program, or to a folder.</source>
   <translation>{0} in ein anderes Programm oder einen Ordner ziehen.</translation>
  </message>
  <message>
   <source>Draw a cover</source>
   <translation>Cover zeichnen</translation>
  </message>
  <message>
   <source>Drift</source>
   <translation>Drift</translation>
  </message>
  <message>
   <source>Drive</source>
   <translation>Drive</translation>
  </message>
  <message>
   <source>Drop a song here</source>
   <translation>Song hierher ziehen</translation>
  </message>
  <message>
   <source>Drop songs or a folder of songs.</source>
   <translation>Ziehen Sie Songs oder einen Ordner mit Songs hierher.</translation>
  </message>
  <message>
   <source>Drop songs or folders here. Delete takes the chosen ones away.</source>
   <translation>Ziehen Sie Songs oder Ordner hierher. Entf nimmt die gewählten weg.</translation>
  </message>
  <message>
   <source>Drop-in</source>
   <translation>Drop-in</translation>
  </message>
  <message>
   <source>Drop-outs</source>
   <translation>Aussetzer</translation>
  </message>
  <message>
   <source>Drums</source>
   <translation>Schlagzeug</translation>
  </message>
  <message>
   <source>Drums 1/8</source>
   <translation>Drums 1/8</translation>
  </message>
  <message>
   <source>Drums {0}</source>
   <translation>Schlagzeug {0}</translation>
  </message>
  <message>
   <source>Drums {0} ms</source>
   <translation>Schlagzeug {0} ms</translation>
  </message>
  <message>
   <source>Dry/wet mix: 0 leaves the song untouched, 100 is the reverb alone.</source>
   <translation>Dry/Wet-Mischung: 0 lässt den Song unberührt, 100 ist nur Hall.</translation>
  </message>
  <message>
   <source>Ducking</source>
   <translation>Ducking</translation>
  </message>
  <message>
   <source>Dullness</source>
   <translation>Dumpfheit</translation>
  </message>
  <message>
   <source>Duplicate</source>
   <translation>Duplizieren</translation>
  </message>
  <message>
   <source>Duplicate version</source>
   <translation>Version duplizieren</translation>
  </message>
  <message>
   <source>Dynamic high shelf</source>
   <translation>Dynamischer Höhen-Shelf</translation>
  </message>
  <message>
   <source>D♭</source>
   <translation>Des</translation>
  </message>
  <message>
   <source>D♭ major</source>
   <translation>Des-Dur</translation>
  </message>
  <message>
   <source>E</source>
   <translation>E</translation>
  </message>
  <message>
   <source>E major</source>
   <translation>E-Dur</translation>
  </message>
  <message>
   <source>E minor</source>
   <translation>e-Moll</translation>
  </message>
  <message>
   <source>E&amp;xport markers …</source>
   <translation>Marker e&amp;xportieren …</translation>
  </message>
  <message>
   <source>E&amp;xport …</source>
   <translation>E&amp;xportieren …</translation>
  </message>
  <message>
   <source>EQ</source>
   <translation>EQ</translation>
  </message>
  <message>
   <source>Each 2 bars</source>
   <translation>Je 2 Takte</translation>
  </message>
  <message>
   <source>Each 4 bars</source>
   <translation>Je 4 Takte</translation>
  </message>
  <message>
   <source>Each bar</source>
   <translation>Jeder Takt</translation>
  </message>
  <message>
   <source>Each effect feeds the one below it. Drag a row to move it (or Alt with the arrow keys). Its lamp switches it.</source>
   <translation>Jeder Effekt speist den unter ihm. Ziehen Sie eine Zeile, um sie zu verschieben (oder Alt mit den Pfeiltasten). Ihre Lampe schaltet sie.</translation>
  </message>
  <message>
   <source>Each effect feeds the one below it. Switch one off and on to compare: the version stays as loud.</source>
   <translation>Jeder Effekt speist den unter ihm. Schalten Sie einen aus und ein, um zu vergleichen: Die Version bleibt gleich laut.</translation>
  </message>
  <message>
   <source>Each file’s tags will say what was done.</source>
   <translation>Die Tags jeder Datei sagen, was gemacht wurde.</translation>
  </message>
  <message>
   <source>Each number gives the same kind of noise with its events at other times.</source>
   <translation>Jede Zahl ergibt dasselbe Geräusch mit anderen Zeitpunkten der Ereignisse.</translation>
  </message>
  <message>
   <source>Each repeat loses more of its highs above this; 20 kHz is off.</source>
   <translation>Jede Wiederholung verliert mehr Höhen oberhalb; 20 kHz ist aus.</translation>
  </message>
  <message>
   <source>Ears</source>
   <translation>Ohren</translation>
  </message>
  <message>
   <source>Echo</source>
   <translation>Echo</translation>
  </message>
  <message>
   <source>Echo ending</source>
   <translation>Echo-Schluss</translation>
  </message>
  <message>
   <source>Echo throw</source>
   <translation>Echo-Throw</translation>
  </message>
  <message>
   <source>Echo time</source>
   <translation>Echozeit</translation>
  </message>
  <message>
   <source>Echo wind-down</source>
   <translation>Auslaufendes Echo</translation>
  </message>
  <message>
   <source>Effect</source>
   <translation>Effekt</translation>
  </message>
  <message>
   <source>Effect dip</source>
   <translation>Effektdelle</translation>
  </message>
  <message>
   <source>Effect of this version</source>
   <translation>Effekt dieser Version</translation>
  </message>
  <message>
   <source>Effect on</source>
   <translation>Effekt ein</translation>
  </message>
  <message>
   <source>Effects</source>
   <translation>Effekte</translation>
  </message>
  <message>
   <source>Effects of this version, in order</source>
   <translation>Effekte dieser Version, der Reihe nach</translation>
  </message>
  <message>
   <source>Elevation</source>
   <translation>Neigung</translation>
  </message>
  <message>
   <source>Emphasises the frequencies at the cut-off.</source>
   <translation>Betont die Frequenzen an der Grenze.</translation>
  </message>
  <message>
   <source>End here: one of the strongest bar lines in the last eighth of the song.</source>
   <translation>Hier enden: einer der stärksten Taktstriche im letzten Achtel des Songs.</translation>
  </message>
  <message>
   <source>End marker</source>
   <translation>Marker beenden</translation>
  </message>
  <message>
   <source>End solo</source>
   <translation>Solo beenden</translation>
  </message>
  <message>
   <source>Ending</source>
   <translation>Schluss</translation>
  </message>
  <message>
   <source>Ending of this version</source>
   <translation>Schluss dieser Version</translation>
  </message>
  <message>
   <source>Ending: {0}</source>
   <translation>Schluss: {0}</translation>
  </message>
  <message>
   <source>Ends at</source>
   <translation>Endet bei</translation>
  </message>
  <message>
   <source>English</source>
   <translation>English</translation>
  </message>
  <message>
   <source>Evenness</source>
   <translation>Gleichmaß</translation>
  </message>
  <message>
   <source>Everything fades to silence.</source>
   <translation>Alles blendet bis zur Stille aus.</translation>
  </message>
  <message>
   <source>Everywhere</source>
   <translation>Überall</translation>
  </message>
  <message>
   <source>Export</source>
   <translation>Exportieren</translation>
  </message>
  <message>
   <source>Export &amp;many songs …</source>
   <translation>&amp;Viele Songs exportieren …</translation>
  </message>
  <message>
   <source>Export a &amp;video …</source>
   <translation>V&amp;ideo exportieren …</translation>
  </message>
  <message>
   <source>Export a video</source>
   <translation>Video exportieren</translation>
  </message>
  <message>
   <source>Export beats and bars</source>
   <translation>Beats und Takte exportieren</translation>
  </message>
  <message>
   <source>Export is running</source>
   <translation>Export läuft</translation>
  </message>
  <message>
   <source>Export many songs</source>
   <translation>Viele Songs exportieren</translation>
  </message>
  <message>
   <source>Export markers</source>
   <translation>Marker exportieren</translation>
  </message>
  <message>
   <source>Export of {0} files</source>
   <translation>Export von {0} Dateien</translation>
  </message>
  <message>
   <source>Export the recipe</source>
   <translation>Rezept exportieren</translation>
  </message>
  <message>
   <source>Export the take</source>
   <translation>Take exportieren</translation>
  </message>
  <message>
   <source>Export the take …</source>
   <translation>Take exportieren …</translation>
  </message>
  <message>
   <source>Export this map</source>
   <translation>Belegung exportieren</translation>
  </message>
  <message>
   <source>Export this map …</source>
   <translation>Belegung exportieren …</translation>
  </message>
  <message>
   <source>Export video</source>
   <translation>Video exportieren</translation>
  </message>
  <message>
   <source>Export {0}</source>
   <translation>{0} exportieren</translation>
  </message>
  <message>
   <source>Export “{0}”</source>
   <translation>„{0}“ exportieren</translation>
  </message>
  <message>
   <source>Export …</source>
   <translation>Exportieren …</translation>
  </message>
  <message>
   <source>E♭</source>
   <translation>Es</translation>
  </message>
  <message>
   <source>E♭ major</source>
   <translation>Es-Dur</translation>
  </message>
  <message>
   <source>E♭ minor</source>
   <translation>es-Moll</translation>
  </message>
  <message>
   <source>F</source>
   <translation>F</translation>
  </message>
  <message>
   <source>F major</source>
   <translation>F-Dur</translation>
  </message>
  <message>
   <source>F minor</source>
   <translation>f-Moll</translation>
  </message>
  <message>
   <source>F&amp;ormat</source>
   <translation>F&amp;ormat</translation>
  </message>
  <message>
   <source>FLAC: lossless, small</source>
   <translation>FLAC: verlustfrei, klein</translation>
  </message>
  <message>
   <source>Fa&amp;des</source>
   <translation>&amp;Blenden</translation>
  </message>
  <message>
   <source>Fade</source>
   <translation>Ausblenden</translation>
  </message>
  <message>
   <source>Fade in</source>
   <translation>Einblenden</translation>
  </message>
  <message>
   <source>Fade out</source>
   <translation>Ausblenden</translation>
  </message>
  <message>
   <source>Fade-in of the layer at the version’s start.</source>
   <translation>Einblendung der Ebene am Anfang der Version.</translation>
  </message>
  <message>
   <source>Fade-out of the layer at the version’s end.</source>
   <translation>Ausblendung der Ebene am Ende der Version.</translation>
  </message>
  <message>
   <source>Fades</source>
   <translation>Blenden</translation>
  </message>
  <message>
   <source>Fades at both ends</source>
   <translation>Blenden an beiden Enden</translation>
  </message>
  <message>
   <source>Fades from</source>
   <translation>Blendet ab</translation>
  </message>
  <message>
   <source>Fades in milliseconds</source>
   <translation>Blenden in Millisekunden</translation>
  </message>
  <message>
   <source>Fades of the effect within the range</source>
   <translation>Blenden des Effekts innerhalb des Bereichs</translation>
  </message>
  <message>
   <source>Failed</source>
   <translation>Gescheitert</translation>
  </message>
  <message>
   <source>Fast speed variation.</source>
   <translation>Schnelle Gleichlaufschwankung.</translation>
  </message>
  <message>
   <source>Faster and higher, as on a turntable, without reverb.</source>
   <translation>Schneller und höher, wie auf dem Plattenspieler, ohne Hall.</translation>
  </message>
  <message>
   <source>Favourites come first in the list and in the menu of new versions.</source>
   <translation>Favoriten stehen in der Liste und im Menü neuer Versionen zuerst.</translation>
  </message>
  <message>
   <source>Fed by</source>
   <translation>Gespeist von</translation>
  </message>
  <message>
   <source>Feedback</source>
   <translation>Rückkopplung</translation>
  </message>
  <message>
   <source>Fewer bits and a lower sample rate, as in an early sampler.</source>
   <translation>Weniger Bits und eine niedrigere Abtastrate, wie in einem frühen Sampler.</translation>
  </message>
  <message>
   <source>File</source>
   <translation>Datei</translation>
  </message>
  <message>
   <source>File &amp;name</source>
   <translation>Datei&amp;name</translation>
  </message>
  <message>
   <source>Filter</source>
   <translation>Filter</translation>
  </message>
  <message>
   <source>Find a command</source>
   <translation>Befehl suchen</translation>
  </message>
  <message>
   <source>Find another …</source>
   <translation>Anderen suchen …</translation>
  </message>
  <message>
   <source>Find the song</source>
   <translation>Song suchen</translation>
  </message>
  <message>
   <source>Find the song of this work</source>
   <translation>Song zu dieser Arbeit suchen</translation>
  </message>
  <message>
   <source>Find the song …</source>
   <translation>Song suchen …</translation>
  </message>
  <message>
   <source>Finding passages</source>
   <translation>Passagen werden gesucht</translation>
  </message>
  <message>
   <source>Finding songs</source>
   <translation>Songs werden gesucht</translation>
  </message>
  <message>
   <source>First beat</source>
   <translation>Erster Beat</translation>
  </message>
  <message>
   <source>First beat at</source>
   <translation>Erster Beat bei</translation>
  </message>
  <message>
   <source>First beat here</source>
   <translation>Erster Beat hier</translation>
  </message>
  <message>
   <source>Fit to a length</source>
   <translation>An eine Länge anpassen</translation>
  </message>
  <message>
   <source>Flutter</source>
   <translation>Flutter</translation>
  </message>
  <message>
   <source>Fol&amp;der</source>
   <translation>&amp;Ordner</translation>
  </message>
  <message>
   <source>Folder</source>
   <translation>Ordner</translation>
  </message>
  <message>
   <source>Folder for the files</source>
   <translation>Ordner für die Dateien</translation>
  </message>
  <message>
   <source>Follow the tempo of MIDI clock</source>
   <translation>Dem Tempo der MIDI-Clock folgen</translation>
  </message>
  <message>
   <source>For headphones: the song turns around the listener once every four bars, its bass centred.</source>
   <translation>Für Kopfhörer: Der Song kreist alle vier Takte einmal um den Hörer, der Bass bleibt mittig.</translation>
  </message>
  <message>
   <source>Formant shift</source>
   <translation>Formantverschiebung</translation>
  </message>
  <message>
   <source>Formants</source>
   <translation>Formanten</translation>
  </message>
  <message>
   <source>Formants when the pitch moves</source>
   <translation>Formanten bei bewegter Tonhöhe</translation>
  </message>
  <message>
   <source>Format</source>
   <translation>Format</translation>
  </message>
  <message>
   <source>Frequency ratio to the track. Type a number to set the transposition.</source>
   <translation>Frequenzverhältnis zum Track. Eine Zahl eingeben, um zu transponieren.</translation>
  </message>
  <message>
   <source>Frequency response at the playhead, in dB; behind it, the song’s spectrum.</source>
   <translation>Frequenzgang am Abspielkopf in dB; dahinter das Spektrum des Songs.</translation>
  </message>
  <message>
   <source>From</source>
   <translation>Von</translation>
  </message>
  <message>
   <source>From a closet to a cathedral.</source>
   <translation>Von der Kammer bis zur Kathedrale.</translation>
  </message>
  <message>
   <source>From a closet to a cathedral. Larger rooms sound smoother and respond later.</source>
   <translation>Von der Kammer bis zur Kathedrale. Größere Räume klingen weicher und antworten später.</translation>
  </message>
  <message>
   <source>From a pocket radio on the counter, with a thin undertone so that it does not sound empty.</source>
   <translation>Aus einem Taschenradio auf dem Tresen, mit dünnem Unterton, damit es nicht leer klingt.</translation>
  </message>
  <message>
   <source>From new to played for forty years. All the details below follow it.</source>
   <translation>Von neu bis vierzig Jahre gespielt. Alle Einzelheiten darunter folgen.</translation>
  </message>
  <message>
   <source>From the full sound to that of the small loudspeaker.</source>
   <translation>Vom vollen Klang zu dem des kleinen Lautsprechers.</translation>
  </message>
  <message>
   <source>Full mix</source>
   <translation>Ganze Mischung</translation>
  </message>
  <message>
   <source>Fullest voice</source>
   <translation>Vollste Stimme</translation>
  </message>
  <message>
   <source>F♯</source>
   <translation>Fis</translation>
  </message>
  <message>
   <source>F♯ major</source>
   <translation>Fis-Dur</translation>
  </message>
  <message>
   <source>F♯ minor</source>
   <translation>fis-Moll</translation>
  </message>
  <message>
   <source>G</source>
   <translation>G</translation>
  </message>
  <message>
   <source>G major</source>
   <translation>G-Dur</translation>
  </message>
  <message>
   <source>G minor</source>
   <translation>g-Moll</translation>
  </message>
  <message>
   <source>Gain</source>
   <translation>Verstärkung</translation>
  </message>
  <message>
   <source>Gain after the compression.</source>
   <translation>Verstärkung nach der Kompression.</translation>
  </message>
  <message>
   <source>Gain over the version</source>
   <translation>Verstärkung im Verlauf der Version</translation>
  </message>
  <message>
   <source>Gain over the whole version, in dB, and its value at the playhead.</source>
   <translation>Verstärkung über die ganze Version in dB und ihr Wert am Abspielkopf.</translation>
  </message>
  <message>
   <source>Gain reduction</source>
   <translation>Absenkung</translation>
  </message>
  <message>
   <source>Gain reduction over the last seconds of playback, in dB, as the compressor applied it to each part.</source>
   <translation>Absenkung der letzten Sekunden der Wiedergabe in dB, wie der Kompressor sie auf jeden Teil anwandte.</translation>
  </message>
  <message>
   <source>Gain {0} dB, {1}. {2}</source>
   <translation>Verstärkung {0} dB, {1}. {2}</translation>
  </message>
  <message>
   <source>Gentle high cut</source>
   <translation>Sanfter Höhenschnitt</translation>
  </message>
  <message>
   <source>Give the file a name.</source>
   <translation>Geben Sie der Datei einen Namen.</translation>
  </message>
  <message>
   <source>Gives the fades in milliseconds instead of note values.</source>
   <translation>Gibt die Blenden in Millisekunden statt als Notenwerte an.</translation>
  </message>
  <message>
   <source>Gives the length of the slice in milliseconds instead of a note value.</source>
   <translation>Gibt die Länge des Ausschnitts in Millisekunden statt als Notenwert an.</translation>
  </message>
  <message>
   <source>Glide</source>
   <translation>Gleiten</translation>
  </message>
  <message>
   <source>Go on with what you hear; the next recipe is then tried beside it.</source>
   <translation>Weiter mit dem, was Sie hören; das nächste Rezept entsteht daneben.</translation>
  </message>
  <message>
   <source>Go to the start, or to the start of the loop (Home).</source>
   <translation>Zum Anfang oder zum Anfang der Schleife (Pos1).</translation>
  </message>
  <message>
   <source>Got it</source>
   <translation>Verstanden</translation>
  </message>
  <message>
   <source>G♯ minor</source>
   <translation>gis-Moll</translation>
  </message>
  <message>
   <source>Half</source>
   <translation>Halb</translation>
  </message>
  <message>
   <source>Half speed for bars or the whole song, on top of the version’s speed.</source>
   <translation>Halbe Geschwindigkeit für Takte oder den ganzen Song, zusätzlich zur Geschwindigkeit der Version.</translation>
  </message>
  <message>
   <source>Half speed, of the song or bar by bar.</source>
   <translation>Halbe Geschwindigkeit, im ganzen Song oder Takt für Takt.</translation>
  </message>
  <message>
   <source>Halftime</source>
   <translation>Halftime</translation>
  </message>
  <message>
   <source>Halftime in bars is left out: this song has no bars. Tap its tempo, or type its BPM.</source>
   <translation>Halftime in Takten entfällt: Dieser Song hat keine Takte. Tippen Sie sein Tempo oder geben Sie seine BPM ein.</translation>
  </message>
  <message>
   <source>Hall</source>
   <translation>Hall</translation>
  </message>
  <message>
   <source>Hall throw</source>
   <translation>Hall-Throw</translation>
  </message>
  <message>
   <source>Halve the beats</source>
   <translation>Beats halbieren</translation>
  </message>
  <message>
   <source>Halve the beats, where the detected tempo is twice too fast.</source>
   <translation>Halbiert die Beats, wo das erkannte Tempo doppelt so schnell ist.</translation>
  </message>
  <message>
   <source>Head bump</source>
   <translation>Kopfspiegelresonanz</translation>
  </message>
  <message>
   <source>Headphones on a table</source>
   <translation>Kopfhörer auf dem Tisch</translation>
  </message>
  <message>
   <source>Hear the song while it is being opened (Space).</source>
   <translation>Den Song hören, während er geöffnet wird (Leertaste).</translation>
  </message>
  <message>
   <source>Hear the whole version again.</source>
   <translation>Wieder die ganze Version hören.</translation>
  </message>
  <message>
   <source>Hear this part alone while you listen. Exports have the whole sound.</source>
   <translation>Diesen Teil beim Hören allein spielen. Exporte haben den ganzen Klang.</translation>
  </message>
  <message>
   <source>Heard</source>
   <translation>Zu hören</translation>
  </message>
  <message>
   <source>Heard from under water, as deep as you like.</source>
   <translation>Unter Wasser gehört, so tief Sie wollen.</translation>
  </message>
  <message>
   <source>Held</source>
   <translation>Gehalten</translation>
  </message>
  <message>
   <source>Held effect</source>
   <translation>Gehaltener Effekt</translation>
  </message>
  <message>
   <source>Held repeat</source>
   <translation>Gehaltene Wiederholung</translation>
  </message>
  <message>
   <source>Held reverse</source>
   <translation>Gehaltenes Rückwärts</translation>
  </message>
  <message>
   <source>Held silence</source>
   <translation>Gehaltene Stille</translation>
  </message>
  <message>
   <source>Held spin-up</source>
   <translation>Gehaltener Anlauf</translation>
  </message>
  <message>
   <source>Held stop</source>
   <translation>Gehaltener Stopp</translation>
  </message>
  <message>
   <source>Held tempo</source>
   <translation>Gehaltenes Tempo</translation>
  </message>
  <message>
   <source>Here</source>
   <translation>Hier</translation>
  </message>
  <message>
   <source>High</source>
   <translation>Höhen</translation>
  </message>
  <message>
   <source>High amount</source>
   <translation>Stärke Höhen</translation>
  </message>
  <message>
   <source>High attack</source>
   <translation>Attack Höhen</translation>
  </message>
  <message>
   <source>High crossover</source>
   <translation>Obere Übergangsfrequenz</translation>
  </message>
  <message>
   <source>High cut</source>
   <translation>Höhenschnitt</translation>
  </message>
  <message>
   <source>High cut slope</source>
   <translation>Steilheit des Höhenschnitts</translation>
  </message>
  <message>
   <source>High damping</source>
   <translation>Höhendämpfung</translation>
  </message>
  <message>
   <source>High decay</source>
   <translation>Abklingen der Höhen</translation>
  </message>
  <message>
   <source>High evenness</source>
   <translation>Gleichmaß der Höhen</translation>
  </message>
  <message>
   <source>High make-up gain</source>
   <translation>Aufholverstärkung Höhen</translation>
  </message>
  <message>
   <source>High ratio</source>
   <translation>Verhältnis Höhen</translation>
  </message>
  <message>
   <source>High release</source>
   <translation>Release Höhen</translation>
  </message>
  <message>
   <source>High shelf</source>
   <translation>Höhen-Shelf</translation>
  </message>
  <message>
   <source>High shelf at</source>
   <translation>Höhen-Shelf bei</translation>
  </message>
  <message>
   <source>High threshold</source>
   <translation>Schwelle Höhen</translation>
  </message>
  <message>
   <source>Higher is narrower.</source>
   <translation>Höher ist schmaler.</translation>
  </message>
  <message>
   <source>Hiss</source>
   <translation>Rauschen</translation>
  </message>
  <message>
   <source>Hold a pad while the song plays. Click here, then use the typing keys shown. A right click changes what a pad plays.</source>
   <translation>Halten Sie ein Pad, während der Song läuft. Klicken Sie hierher und nehmen Sie die gezeigten Tasten. Rechtsklick ändert, was ein Pad spielt.</translation>
  </message>
  <message>
   <source>Hold pitch</source>
   <translation>Tonhöhe halten</translation>
  </message>
  <message>
   <source>Hold the pitch</source>
   <translation>Tonhöhe halten</translation>
  </message>
  <message>
   <source>Holding the ceiling takes {0} dB of limiting.</source>
   <translation>Die Obergrenze zu halten kostet {0} dB Begrenzung.</translation>
  </message>
  <message>
   <source>Housekeeping</source>
   <translation>Aufräumen</translation>
  </message>
  <message>
   <source>How far a recorded move goes towards the grid.</source>
   <translation>Wie weit eine aufgenommene Aktion zum Raster rückt.</translation>
  </message>
  <message>
   <source>How far stretch and shift are from natural, and what will be heard of it. It never stops you from anything.</source>
   <translation>Wie weit Dehnung und Transposition vom Natürlichen entfernt sind und was man davon hört. Verboten wird Ihnen nichts.</translation>
  </message>
  <message>
   <source>How far the cloud spreads to both sides.</source>
   <translation>Wie weit sich die Wolke zu beiden Seiten ausbreitet.</translation>
  </message>
  <message>
   <source>How far the pitch drifts, slowly.</source>
   <translation>Wie weit die Tonhöhe langsam driftet.</translation>
  </message>
  <message>
   <source>How far the pitch glides. The tempo stays.</source>
   <translation>Wie weit die Tonhöhe gleitet. Das Tempo bleibt.</translation>
  </message>
  <message>
   <source>How far the pitch is from the track’s.</source>
   <translation>Wie weit die Tonhöhe von der des Tracks entfernt ist.</translation>
  </message>
  <message>
   <source>How far the pitch swings.</source>
   <translation>Wie weit die Tonhöhe schwankt.</translation>
  </message>
  <message>
   <source>How far the song moves out of the middle of the head.</source>
   <translation>Wie weit der Song aus der Kopfmitte rückt.</translation>
  </message>
  <message>
   <source>How far the version’s tone goes towards the reference’s.</source>
   <translation>Wie weit sich das Klangbild der Version dem der Referenz nähert.</translation>
  </message>
  <message>
   <source>How fast the record turns; its wow comes once per turn.</source>
   <translation>Wie schnell sich die Platte dreht; ihr Wow kommt einmal je Umdrehung.</translation>
  </message>
  <message>
   <source>How fast the version plays. The pad character goes down to 1/32.</source>
   <translation>Wie schnell die Version spielt. Der Charakter „Verwischen“ reicht bis 1/32.</translation>
  </message>
  <message>
   <source>How fast the version plays: 0.5 takes twice as long as the track.</source>
   <translation>Wie schnell die Version spielt: 0,5 dauert doppelt so lang wie der Track.</translation>
  </message>
  <message>
   <source>How fast, how high.</source>
   <translation>Wie schnell, wie hoch.</translation>
  </message>
  <message>
   <source>How long it takes: 2 bars, 3 beats, 1/8, 800 ms.</source>
   <translation>Wie lange es dauert: 2 Takte, 3 Beats, 1/8, 800 ms.</translation>
  </message>
  <message>
   <source>How long it takes: bars, beats, a note value or seconds, such as 2 bars, 1/2 or 1.5 s.</source>
   <translation>Wie lange es dauert: Takte, Beats, ein Notenwert oder Sekunden, etwa 2 Takte, 1/2 oder 1,5 s.</translation>
  </message>
  <message>
   <source>How long the excerpt fades in and out.</source>
   <translation>Wie lange der Ausschnitt ein- und ausblendet.</translation>
  </message>
  <message>
   <source>How loud the finished version is.</source>
   <translation>Wie laut die fertige Version ist.</translation>
  </message>
  <message>
   <source>How loud the repeats are against the song.</source>
   <translation>Wie laut die Wiederholungen gegenüber dem Song sind.</translation>
  </message>
  <message>
   <source>How loud the version is.</source>
   <translation>Wie laut die Version ist.</translation>
  </message>
  <message>
   <source>How many beats a bar has, 1 to 12.</source>
   <translation>Wie viele Beats ein Takt hat, 1 bis 12.</translation>
  </message>
  <message>
   <source>How many slices before the start the held one begins: 1 repeats the slice that has just sounded, 0 the one that comes.</source>
   <translation>Wie viele Ausschnitte vor dem Anfang der gehaltene beginnt: 1 wiederholt den eben gehörten, 0 den kommenden.</translation>
  </message>
  <message>
   <source>How many times as long the slice gets: more is a slower, softer cloud.</source>
   <translation>Wievielmal so lang der Ausschnitt wird: mehr ergibt eine langsamere, weichere Wolke.</translation>
  </message>
  <message>
   <source>How much faster or slower it runs.</source>
   <translation>Wie viel schneller oder langsamer er läuft.</translation>
  </message>
  <message>
   <source>How much its box or horn resonates.</source>
   <translation>Wie stark Gehäuse oder Horn mitschwingen.</translation>
  </message>
  <message>
   <source>How much of each repeat is fed back: more repeats for longer.</source>
   <translation>Wie viel von jeder Wiederholung zurückgeführt wird: mehr ergibt längere Echos.</translation>
  </message>
  <message>
   <source>How much of the change you hear.</source>
   <translation>Wie viel von der Änderung zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the crushed sound you hear.</source>
   <translation>Wie viel vom verkleinerten Klang zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the evenness this band gets.</source>
   <translation>Wie viel Gleichmaß dieses Band erhält.</translation>
  </message>
  <message>
   <source>How much of the gain change you hear.</source>
   <translation>Wie viel von der Verstärkungsänderung zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the gain reduction you hear.</source>
   <translation>Wie viel von der Absenkung zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the highs has worn off.</source>
   <translation>Wie viel von den Höhen abgenutzt ist.</translation>
  </message>
  <message>
   <source>How much of the layer you hear.</source>
   <translation>Wie viel von der Ebene zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the music before the end rings in the reverb: bars, beats or seconds.</source>
   <translation>Wie viel Musik vor dem Ende im Hall klingt: Takte, Beats oder Sekunden.</translation>
  </message>
  <message>
   <source>How much of the record you hear.</source>
   <translation>Wie viel von der Platte zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the reverb you hear before the song stops; at 0 it opens when the song stops.</source>
   <translation>Wie viel Hall vor dem Ende des Songs zu hören ist; bei 0 öffnet er sich mit dem Ende.</translation>
  </message>
  <message>
   <source>How much of the saturation you hear.</source>
   <translation>Wie viel von der Sättigung zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the speed is lost at the lowest point, or the semitones it falls by.</source>
   <translation>Wie viel Geschwindigkeit am tiefsten Punkt verloren geht, oder um wie viele Halbtöne sie fällt.</translation>
  </message>
  <message>
   <source>How much of the speed is lost, or the semitones it falls by: 100 stops completely.</source>
   <translation>Wie viel Geschwindigkeit verloren geht, oder um wie viele Halbtöne sie fällt: 100 hält ganz an.</translation>
  </message>
  <message>
   <source>How much of the swing you hear.</source>
   <translation>Wie viel von der Schwankung zu hören ist.</translation>
  </message>
  <message>
   <source>How much of the tape you hear.</source>
   <translation>Wie viel vom Band zu hören ist.</translation>
  </message>
  <message>
   <source>How much of this part’s change you hear.</source>
   <translation>Wie viel von der Änderung dieses Teils zu hören ist.</translation>
  </message>
  <message>
   <source>How much peaks are rounded off.</source>
   <translation>Wie stark Spitzen gerundet werden.</translation>
  </message>
  <message>
   <source>How much quieter the song is at full depth. Keep level does not take this back.</source>
   <translation>Wie viel leiser der Song in voller Tiefe ist. „Pegel halten“ gleicht das nicht aus.</translation>
  </message>
  <message>
   <source>How steep the high cut is, in dB per octave.</source>
   <translation>Wie steil der Höhenschnitt ist, in dB je Oktave.</translation>
  </message>
  <message>
   <source>How steep the low cut is, in dB per octave.</source>
   <translation>Wie steil der Tiefenschnitt ist, in dB je Oktave.</translation>
  </message>
  <message>
   <source>How the version finishes, and what follows its last beat.</source>
   <translation>Wie die Version endet und was auf ihren letzten Beat folgt.</translation>
  </message>
  <message>
   <source>I like this best</source>
   <translation>Das gefällt mir am besten</translation>
  </message>
  <message>
   <source>Import &amp;a take …</source>
   <translation>T&amp;ake importieren …</translation>
  </message>
  <message>
   <source>Import a map</source>
   <translation>Belegung importieren</translation>
  </message>
  <message>
   <source>Import a map …</source>
   <translation>Belegung importieren …</translation>
  </message>
  <message>
   <source>Import a recipe</source>
   <translation>Rezept importieren</translation>
  </message>
  <message>
   <source>Import a take</source>
   <translation>Take importieren</translation>
  </message>
  <message>
   <source>Import a take …</source>
   <translation>Take importieren …</translation>
  </message>
  <message>
   <source>Import beats</source>
   <translation>Beats importieren</translation>
  </message>
  <message>
   <source>Import beats and bars</source>
   <translation>Beats und Takte importieren</translation>
  </message>
  <message>
   <source>Import markers</source>
   <translation>Marker importieren</translation>
  </message>
  <message>
   <source>Import {0}</source>
   <translation>{0} importieren</translation>
  </message>
  <message>
   <source>Import {0} markers</source>
   <translation>{0} Marker importieren</translation>
  </message>
  <message>
   <source>Import …</source>
   <translation>Importieren …</translation>
  </message>
  <message>
   <source>Importing {0}</source>
   <translation>{0} wird importiert</translation>
  </message>
  <message>
   <source>In Compare: play one of four, prefer it</source>
   <translation>Beim Vergleichen: einen von vieren spielen, vorziehen</translation>
  </message>
  <message>
   <source>In a sentence</source>
   <translation>In einem Satz</translation>
  </message>
  <message>
   <source>In milliseconds</source>
   <translation>In Millisekunden</translation>
  </message>
  <message>
   <source>In the list of effects: move the chosen effect; Space switches it</source>
   <translation>In der Effektliste: gewählten Effekt verschieben; Leertaste schaltet ihn</translation>
  </message>
  <message>
   <source>In the naming pattern {0} a brace is open or closed alone. Write fields as {{title}}.</source>
   <translation>Im Namensmuster {0} fehlt zu einer Klammer die andere. Schreiben Sie Felder als {{title}}.</translation>
  </message>
  <message>
   <source>In {0}: {1}</source>
   <translation>In {0}: {1}</translation>
  </message>
  <message>
   <source>Input level across, output level up; the straight line leaves it unchanged. The shaded part is this song’s usual range.</source>
   <translation>Eingangspegel waagrecht, Ausgangspegel senkrecht; die Gerade lässt ihn unverändert. Schattiert ist der übliche Bereich dieses Songs.</translation>
  </message>
  <message>
   <source>Integrated loudness (ITU-R BS.1770, EBU R 128).</source>
   <translation>Integrierte Lautheit (ITU-R BS.1770, EBU R 128).</translation>
  </message>
  <message>
   <source>Integrated loudness of the finished version.</source>
   <translation>Integrierte Lautheit der fertigen Version.</translation>
  </message>
  <message>
   <source>Intro</source>
   <translation>Intro</translation>
  </message>
  <message>
   <source>It can be {0}.</source>
   <translation>Möglich ist {0}.</translation>
  </message>
  <message>
   <source>It has nothing above {0:.1f} kHz: set the upper end of the match below that.</source>
   <translation>Über {0:.1f} kHz hat sie nichts: Setzen Sie das obere Ende der Angleichung darunter.</translation>
  </message>
  <message>
   <source>It has nothing below {0:.0f} Hz: set the lower end of the match above that.</source>
   <translation>Unter {0:.0f} Hz hat sie nichts: Setzen Sie das untere Ende der Angleichung darüber.</translation>
  </message>
  <message>
   <source>It is found once the version is rendered, on bar lines where the song has them.</source>
   <translation>Wird gefunden, sobald die Version gerechnet ist, auf Taktstrichen, wo der Song welche hat.</translation>
  </message>
  <message>
   <source>It is kept in the session and shown on the version’s card:</source>
   <translation>Sie liegt in der Sitzung und steht auf der Karte der Version:</translation>
  </message>
  <message>
   <source>It is practically mono: matching its sides would take the width away. Leave them, or limit the narrowing.</source>
   <translation>Sie ist praktisch mono: Die Seiten anzugleichen nähme die Breite weg. Lassen Sie sie aus oder begrenzen Sie die Verengung.</translation>
  </message>
  <message>
   <source>It makes this version {0} dB narrower.</source>
   <translation>Sie macht diese Version {0} dB schmaler.</translation>
  </message>
  <message>
   <source>It makes this version {0} dB wider.</source>
   <translation>Sie macht diese Version {0} dB breiter.</translation>
  </message>
  <message>
   <source>Its tags will say “{0}”, with your changes.</source>
   <translation>Ihre Tags nennen „{0}“, mit Ihren Änderungen.</translation>
  </message>
  <message>
   <source>Its tags will say “{0}”; artist, album and cover are carried over.</source>
   <translation>Ihre Tags nennen „{0}“; Interpret, Album und Cover werden übernommen.</translation>
  </message>
  <message>
   <source>Its tone, held against a song that already sounds right.</source>
   <translation>Ihr Klangbild, verglichen mit einem Song, der schon richtig klingt.</translation>
  </message>
  <message>
   <source>Join sections</source>
   <translation>Abschnitte verbinden</translation>
  </message>
  <message>
   <source>Join with the one before</source>
   <translation>Mit dem vorigen verbinden</translation>
  </message>
  <message>
   <source>Judge it on</source>
   <translation>Zu beurteilen an</translation>
  </message>
  <message>
   <source>Jump to the loudest part of the song (J).</source>
   <translation>Springt zur lautesten Stelle des Songs (J).</translation>
  </message>
  <message>
   <source>Jump to the m&amp;ost strained place</source>
   <translation>&amp;Zur am stärksten beanspruchten Stelle</translation>
  </message>
  <message>
   <source>Jump to the place of the most strain (V).</source>
   <translation>Springt zur am stärksten beanspruchten Stelle (V).</translation>
  </message>
  <message>
   <source>Just beneath the surface: muffled and drifting, with the water around it.</source>
   <translation>Dicht unter der Oberfläche: gedämpft und treibend, mit dem Wasser rundum.</translation>
  </message>
  <message>
   <source>Ke&amp;y</source>
   <translation>T&amp;onart</translation>
  </message>
  <message>
   <source>Keep as a version</source>
   <translation>Als Version behalten</translation>
  </message>
  <message>
   <source>Keep beats and bars from being changed by accident.</source>
   <translation>Schützt Beats und Takte vor versehentlichen Änderungen.</translation>
  </message>
  <message>
   <source>Keep it among your own recipes.</source>
   <translation>Sichert es bei Ihren eigenen Rezepten.</translation>
  </message>
  <message>
   <source>Keep level</source>
   <translation>Pegel halten</translation>
  </message>
  <message>
   <source>Keep recipe</source>
   <translation>Rezept sichern</translation>
  </message>
  <message>
   <source>Keep tapping on the beats: {0} more.</source>
   <translation>Tippen Sie weiter auf die Beats: noch {0}.</translation>
  </message>
  <message>
   <source>Keep tapping.</source>
   <translation>Tippen Sie weiter.</translation>
  </message>
  <message>
   <source>Keep this map</source>
   <translation>Belegung sichern</translation>
  </message>
  <message>
   <source>Keep this map as …</source>
   <translation>Diese Belegung sichern als …</translation>
  </message>
  <message>
   <source>Keep this speed and bring the pitch back to the track’s; the song is stretched instead of turned.</source>
   <translation>Behält diese Geschwindigkeit und holt die Tonhöhe des Tracks zurück; der Song wird gedehnt statt anders gedreht.</translation>
  </message>
  <message>
   <source>Keep this version as a recipe</source>
   <translation>Diese Version als Rezept sichern</translation>
  </message>
  <message>
   <source>Keep time</source>
   <translation>In der Zeit</translation>
  </message>
  <message>
   <source>Keeping the cover</source>
   <translation>Cover wird aufbewahrt</translation>
  </message>
  <message>
   <source>Keeping unsaved work</source>
   <translation>Ungesicherte Arbeit wird aufbewahrt</translation>
  </message>
  <message>
   <source>Keeps the range as loud as without this effect, so that louder never passes for better.</source>
   <translation>Hält den Bereich so laut wie ohne diesen Effekt, damit lauter nie als besser gilt.</translation>
  </message>
  <message>
   <source>Keeps the version as loud as without this effect, so that louder never passes for better.</source>
   <translation>Hält die Version so laut wie ohne diesen Effekt, damit lauter nie als besser gilt.</translation>
  </message>
  <message>
   <source>Kept</source>
   <translation>Gehalten</translation>
  </message>
  <message>
   <source>Key</source>
   <translation>Tonart</translation>
  </message>
  <message>
   <source>Key: {0}.  Tuned {1} cents from A = 440 Hz.</source>
   <translation>Tonart: {0}.  Stimmung {1} Cent neben A = 440 Hz.</translation>
  </message>
  <message>
   <source>Keyboard</source>
   <translation>Klaviatur</translation>
  </message>
  <message>
   <source>Kind of section</source>
   <translation>Art des Abschnitts</translation>
  </message>
  <message>
   <source>Knee</source>
   <translation>Knie</translation>
  </message>
  <message>
   <source>Knob {0}</source>
   <translation>Regler {0}</translation>
  </message>
  <message>
   <source>Knobs</source>
   <translation>Regler</translation>
  </message>
  <message>
   <source>Label</source>
   <translation>Beschriftung</translation>
  </message>
  <message>
   <source>Label of the moment</source>
   <translation>Beschriftung des Moments</translation>
  </message>
  <message>
   <source>Labelled places and ranges of the song (X marks one while it plays).</source>
   <translation>Beschriftete Stellen und Bereiche des Songs (X setzt einen während der Wiedergabe).</translation>
  </message>
  <message>
   <source>Latch</source>
   <translation>Halten</translation>
  </message>
  <message>
   <source>Late Spin</source>
   <translation>Late Spin</translation>
  </message>
  <message>
   <source>Late Spin ended before the work on “{0}” was saved. It is here as it was at {1}.</source>
   <translation>Late Spin wurde beendet, bevor die Arbeit an „{0}“ gesichert war. Sie liegt hier im Stand von {1}.</translation>
  </message>
  <message>
   <source>Late Spin speaks the chosen language from its next start on.</source>
   <translation>Late Spin spricht die gewählte Sprache ab dem nächsten Start.</translation>
  </message>
  <message>
   <source>Late Spin {0}</source>
   <translation>Late Spin {0}</translation>
  </message>
  <message>
   <source>Lay beneath the song …</source>
   <translation>Unter den Song legen …</translation>
  </message>
  <message>
   <source>Layer</source>
   <translation>Ebene</translation>
  </message>
  <message>
   <source>Layers</source>
   <translation>Ebenen</translation>
  </message>
  <message>
   <source>Learn from a control surface</source>
   <translation>Von einem Controller lernen</translation>
  </message>
  <message>
   <source>Leave</source>
   <translation>Auslassen</translation>
  </message>
  <message>
   <source>Leave it out.</source>
   <translation>Lassen Sie sie weg.</translation>
  </message>
  <message>
   <source>Left, Right</source>
   <translation>Links, Rechts</translation>
  </message>
  <message>
   <source>Length</source>
   <translation>Länge</translation>
  </message>
  <message>
   <source>Length in beats.</source>
   <translation>Länge in Beats.</translation>
  </message>
  <message>
   <source>Length in seconds.</source>
   <translation>Länge in Sekunden.</translation>
  </message>
  <message>
   <source>Length including the reverb tail.</source>
   <translation>Länge samt Hallfahne.</translation>
  </message>
  <message>
   <source>Length of one repeat.</source>
   <translation>Länge einer Wiederholung.</translation>
  </message>
  <message>
   <source>Length of the fade into the effect and of the one out of it.</source>
   <translation>Länge der Blende in den Effekt und der aus ihm heraus.</translation>
  </message>
  <message>
   <source>Length of the fade-in.</source>
   <translation>Länge der Einblendung.</translation>
  </message>
  <message>
   <source>Length of the fade-out.</source>
   <translation>Länge der Ausblendung.</translation>
  </message>
  <message>
   <source>Length of the music without the reverb tail. Type a length such as 1:30 to set the speed.</source>
   <translation>Länge der Musik ohne Hallfahne. Geben Sie eine Länge wie 1:30 ein, um die Geschwindigkeit zu setzen.</translation>
  </message>
  <message>
   <source>Length of the passage</source>
   <translation>Länge der Passage</translation>
  </message>
  <message>
   <source>Length of the range</source>
   <translation>Länge des Bereichs</translation>
  </message>
  <message>
   <source>Length of the repeated slice.</source>
   <translation>Länge des wiederholten Ausschnitts.</translation>
  </message>
  <message>
   <source>Length of the repeated slice. Below about 30 ms it buzzes.</source>
   <translation>Länge des wiederholten Ausschnitts. Unter etwa 30 ms summt er.</translation>
  </message>
  <message>
   <source>Length of the slice, in milliseconds:</source>
   <translation>Länge des Ausschnitts in Millisekunden:</translation>
  </message>
  <message>
   <source>Less</source>
   <translation>Weniger</translation>
  </message>
  <message>
   <source>Let the pitch fall with the speed where it is halved; otherwise it stays.</source>
   <translation>Lässt die Tonhöhe mit der halbierten Geschwindigkeit fallen; sonst bleibt sie.</translation>
  </message>
  <message>
   <source>Level</source>
   <translation>Pegel</translation>
  </message>
  <message>
   <source>Level drop</source>
   <translation>Pegelabfall</translation>
  </message>
  <message>
   <source>Level into the curve. More drive adds more harmonics.</source>
   <translation>Pegel in die Kennlinie. Mehr Drive fügt mehr Obertöne hinzu.</translation>
  </message>
  <message>
   <source>Level of a large hall around it.</source>
   <translation>Pegel eines großen Halls rundum.</translation>
  </message>
  <message>
   <source>Level of each repeat against the one before, on top of the fade.</source>
   <translation>Pegel jeder Wiederholung gegenüber der vorigen, zusätzlich zur Blende.</translation>
  </message>
  <message>
   <source>Level of early reflections, which move the song out of the head.</source>
   <translation>Pegel der frühen Reflexionen, die den Song aus dem Kopf holen.</translation>
  </message>
  <message>
   <source>Level of repeats in time with the song.</source>
   <translation>Pegel von Wiederholungen im Takt des Songs.</translation>
  </message>
  <message>
   <source>Level of the echo or reverb against the song.</source>
   <translation>Pegel von Echo oder Hall gegenüber dem Song.</translation>
  </message>
  <message>
   <source>Level of the last repeat against the first.</source>
   <translation>Pegel der letzten Wiederholung gegenüber der ersten.</translation>
  </message>
  <message>
   <source>Level of the layer against the song.</source>
   <translation>Pegel der Ebene gegenüber dem Song.</translation>
  </message>
  <message>
   <source>Level of the reverb. It never starts louder than the song.</source>
   <translation>Pegel des Halls. Er beginnt nie lauter als der Song.</translation>
  </message>
  <message>
   <source>Level of the side signal: 0 is mono, 100 leaves it as it is.</source>
   <translation>Pegel des Seitensignals: 0 ist mono, 100 lässt es unverändert.</translation>
  </message>
  <message>
   <source>Level of the sound.</source>
   <translation>Pegel des Klangs.</translation>
  </message>
  <message>
   <source>Level of the splash against the song.</source>
   <translation>Pegel des Platschers gegenüber dem Song.</translation>
  </message>
  <message>
   <source>Level of the water sound against the song, at full depth.</source>
   <translation>Pegel des Wassergeräuschs gegenüber dem Song, in voller Tiefe.</translation>
  </message>
  <message>
   <source>Level of the water sound against the song, at its peak.</source>
   <translation>Pegel des Wassergeräuschs gegenüber dem Song am Höhepunkt.</translation>
  </message>
  <message>
   <source>Level over time from four seconds before the end: the song, and what follows it, as measured; the line is the decay asked for.</source>
   <translation>Pegel über der Zeit ab vier Sekunden vor dem Ende: der Song und was ihm folgt, gemessen; die Linie ist das verlangte Abklingen.</translation>
  </message>
  <message>
   <source>Level-&amp;matched</source>
   <translation>Pe&amp;gelgleich</translation>
  </message>
  <message>
   <source>Level-matched</source>
   <translation>Pegelgleich</translation>
  </message>
  <message>
   <source>Level: maximum limiting</source>
   <translation>Pegel: stärkste Begrenzung</translation>
  </message>
  <message>
   <source>Level: {0}</source>
   <translation>Pegel: {0}</translation>
  </message>
  <message>
   <source>Licences and shortcuts</source>
   <translation>Lizenzen und Tasten</translation>
  </message>
  <message>
   <source>Lights up while the output is turned down to protect ears and loudspeakers:
above full scale, or when a change would make it jump in level. Exports are not affected.</source>
   <translation>Leuchtet, während die Ausgabe zum Schutz von Ohren und Lautsprechern leiser gestellt ist:
über Vollaussteuerung oder wenn eine Änderung den Pegel springen ließe. Exporte betrifft das nicht.</translation>
  </message>
  <message>
   <source>Liked best, in {0} choices ({1} of them blind): {2}.</source>
   <translation>Am besten gefiel bei {0} Urteilen (davon {1} blind): {2}.</translation>
  </message>
  <message>
   <source>Limit</source>
   <translation>Limit</translation>
  </message>
  <message>
   <source>Linear</source>
   <translation>Linear</translation>
  </message>
  <message>
   <source>Linked</source>
   <translation>Gekoppelt</translation>
  </message>
  <message>
   <source>Listen</source>
   <translation>Anhören</translation>
  </message>
  <message>
   <source>Lo-fi vinyl</source>
   <translation>Lo-fi-Vinyl</translation>
  </message>
  <message>
   <source>Loading</source>
   <translation>Laden</translation>
  </message>
  <message>
   <source>Lock</source>
   <translation>Sperren</translation>
  </message>
  <message>
   <source>Long windows, noise scattered: pads up to 32 times as long. Words and drums melt.</source>
   <translation>Lange Fenster, Rauschen gestreut: Pads bis zum 32-Fachen der Länge. Worte und Schlagzeug verschwimmen.</translation>
  </message>
  <message>
   <source>Looking at the desktop’s settings</source>
   <translation>Einstellungen der Arbeitsumgebung werden gelesen</translation>
  </message>
  <message>
   <source>Looking at the songs</source>
   <translation>Songs werden angesehen</translation>
  </message>
  <message>
   <source>Looking at the songs …</source>
   <translation>Songs werden angesehen …</translation>
  </message>
  <message>
   <source>Looking for a sound device</source>
   <translation>Audiogerät wird gesucht</translation>
  </message>
  <message>
   <source>Looking for pictures</source>
   <translation>Bilder werden gesucht</translation>
  </message>
  <message>
   <source>Looking for sound devices</source>
   <translation>Audiogeräte werden gesucht</translation>
  </message>
  <message>
   <source>Looking for sound tracks</source>
   <translation>Tonspuren werden gesucht</translation>
  </message>
  <message>
   <source>Looking for strain</source>
   <translation>Beanspruchung wird gesucht</translation>
  </message>
  <message>
   <source>Loop</source>
   <translation>Schleife</translation>
  </message>
  <message>
   <source>Loop crossfade</source>
   <translation>Überblendung der Schleife</translation>
  </message>
  <message>
   <source>Loop the marked range. Drag along a waveform to mark one (L).</source>
   <translation>Wiederholt den markierten Bereich. Ziehen auf einer Wellenform markiert einen (L).</translation>
  </message>
  <message>
   <source>Loop the passage in which a voice’s range is fullest.</source>
   <translation>Wiederholt die Passage, in der der Bereich einer Stimme am vollsten ist.</translation>
  </message>
  <message>
   <source>Loop the passage in which the drums are loudest.</source>
   <translation>Wiederholt die Passage mit dem lautesten Schlagzeug.</translation>
  </message>
  <message>
   <source>Loops from a bar before the chosen moment to a bar after it (A).</source>
   <translation>Wiederholt von einem Takt vor dem gewählten Moment bis einen Takt danach (A).</translation>
  </message>
  <message>
   <source>Lossless (ALAC), {0}</source>
   <translation>Verlustfrei (ALAC), {0}</translation>
  </message>
  <message>
   <source>Loud</source>
   <translation>Laut</translation>
  </message>
  <message>
   <source>Loud-hailer</source>
   <translation>Megafon</translation>
  </message>
  <message>
   <source>Louder or quieter by this; −60 dB is silence.</source>
   <translation>Um so viel lauter oder leiser; −60 dB ist Stille.</translation>
  </message>
  <message>
   <source>Louder pops, now and then.</source>
   <translation>Lautere Knackser, ab und zu.</translation>
  </message>
  <message>
   <source>Loudest drums</source>
   <translation>Lautestes Schlagzeug</translation>
  </message>
  <message>
   <source>Loudest part</source>
   <translation>Lauteste Stelle</translation>
  </message>
  <message>
   <source>Loudness</source>
   <translation>Lautheit</translation>
  </message>
  <message>
   <source>Loudness over the song, Before and After</source>
   <translation>Lautheit im Verlauf des Songs, Vorher und Nachher</translation>
  </message>
  <message>
   <source>Loudness range (EBU Tech 3342): how far quiet and loud passages lie apart.</source>
   <translation>Lautheitsbereich (EBU Tech 3342): wie weit leise und laute Passagen auseinanderliegen.</translation>
  </message>
  <message>
   <source>Loudspeaker</source>
   <translation>Lautsprecher</translation>
  </message>
  <message>
   <source>Low</source>
   <translation>Tiefen</translation>
  </message>
  <message>
   <source>Low amount</source>
   <translation>Stärke Tiefen</translation>
  </message>
  <message>
   <source>Low attack</source>
   <translation>Attack Tiefen</translation>
  </message>
  <message>
   <source>Low crossover</source>
   <translation>Untere Übergangsfrequenz</translation>
  </message>
  <message>
   <source>Low cut</source>
   <translation>Tiefenschnitt</translation>
  </message>
  <message>
   <source>Low cut slope</source>
   <translation>Steilheit des Tiefenschnitts</translation>
  </message>
  <message>
   <source>Low decay</source>
   <translation>Abklingen der Tiefen</translation>
  </message>
  <message>
   <source>Low evenness</source>
   <translation>Gleichmaß der Tiefen</translation>
  </message>
  <message>
   <source>Low make-up gain</source>
   <translation>Aufholverstärkung Tiefen</translation>
  </message>
  <message>
   <source>Low noise of the turntable’s bearing, felt more than heard.</source>
   <translation>Tiefes Geräusch des Tellerlagers, mehr zu spüren als zu hören.</translation>
  </message>
  <message>
   <source>Low ratio</source>
   <translation>Verhältnis Tiefen</translation>
  </message>
  <message>
   <source>Low release</source>
   <translation>Release Tiefen</translation>
  </message>
  <message>
   <source>Low shelf</source>
   <translation>Tiefen-Shelf</translation>
  </message>
  <message>
   <source>Low shelf at</source>
   <translation>Tiefen-Shelf bei</translation>
  </message>
  <message>
   <source>Low threshold</source>
   <translation>Schwelle Tiefen</translation>
  </message>
  <message>
   <source>Lower rates are duller and add aliasing.</source>
   <translation>Niedrigere Raten sind dumpfer und bringen Aliasing.</translation>
  </message>
  <message>
   <source>Lowest point</source>
   <translation>Tiefster Punkt</translation>
  </message>
  <message>
   <source>Lows are below this, mids above.</source>
   <translation>Darunter liegen Tiefen, darüber Mitten.</translation>
  </message>
  <message>
   <source>M4A (AAC, ALAC): phones, tablets</source>
   <translation>M4A (AAC, ALAC): Handys, Tablets</translation>
  </message>
  <message>
   <source>MIDI clock {0} BPM</source>
   <translation>MIDI-Clock {0} BPM</translation>
  </message>
  <message>
   <source>MIDI files ({0})</source>
   <translation>MIDI-Dateien ({0})</translation>
  </message>
  <message>
   <source>MIDI tempo map (*.mid *.midi);;Beats as CSV (*.csv)</source>
   <translation>MIDI-Tempospur (*.mid *.midi);;Beats als CSV (*.csv)</translation>
  </message>
  <message>
   <source>MOV: for editing programs</source>
   <translation>MOV: für Schnittprogramme</translation>
  </message>
  <message>
   <source>MP3: small, plays everywhere</source>
   <translation>MP3: klein, spielt überall</translation>
  </message>
  <message>
   <source>MP4: H.264 and AAC, plays everywhere</source>
   <translation>MP4: H.264 und AAC, spielt überall</translation>
  </message>
  <message>
   <source>Make a cover of every chosen range; all of them if none is chosen.</source>
   <translation>Deckt jeden gewählten Bereich ab; alle, wenn keiner gewählt ist.</translation>
  </message>
  <message>
   <source>Make a recipe of it.</source>
   <translation>Ein Rezept daraus machen.</translation>
  </message>
  <message>
   <source>Make those that failed or were stopped once more.</source>
   <translation>Erzeugt gescheiterte und abgebrochene noch einmal.</translation>
  </message>
  <message>
   <source>Make-up gain</source>
   <translation>Aufholverstärkung</translation>
  </message>
  <message>
   <source>Makes a range louder or quieter, with fades.</source>
   <translation>Macht einen Bereich lauter oder leiser, mit Blenden.</translation>
  </message>
  <message>
   <source>Makes a word or a range unheard.</source>
   <translation>Macht ein Wort oder einen Bereich unhörbar.</translation>
  </message>
  <message>
   <source>Makes the chosen takes one.</source>
   <translation>Macht aus den gewählten Takes einen.</translation>
  </message>
  <message>
   <source>Makes the song louder or quieter; automate it to ride the level.</source>
   <translation>Macht den Song lauter oder leiser; automatisiert führt sie den Pegel.</translation>
  </message>
  <message>
   <source>Making a pad</source>
   <translation>Pad wird erzeugt</translation>
  </message>
  <message>
   <source>Making {0} files, {1} at a time …</source>
   <translation>{0} Dateien werden erzeugt, je {1} zugleich …</translation>
  </message>
  <message>
   <source>Maps of control surfaces ({0})</source>
   <translation>Controller-Belegungen ({0})</translation>
  </message>
  <message>
   <source>Mar&amp;k the section as the range</source>
   <translation>Abschnitt als Bereich &amp;markieren</translation>
  </message>
  <message>
   <source>Mark</source>
   <translation>Marker setzen</translation>
  </message>
  <message>
   <source>Mark a range of the song first: drag along a waveform over a few beats of its melody.</source>
   <translation>Markieren Sie zuerst einen Bereich: Ziehen Sie auf einer Wellenform über einige Beats der Melodie.</translation>
  </message>
  <message>
   <source>Mark as a &amp;favourite, or not</source>
   <translation>Als &amp;Favorit markieren oder nicht</translation>
  </message>
  <message>
   <source>Mark as a favourite</source>
   <translation>Als Favorit markieren</translation>
  </message>
  <message>
   <source>Mark as the range</source>
   <translation>Als Bereich markieren</translation>
  </message>
  <message>
   <source>Mark here</source>
   <translation>Hier Marker setzen</translation>
  </message>
  <message>
   <source>Mark ranges first: drag along a waveform and press X, or X at the start and Shift+X at the end.</source>
   <translation>Markieren Sie zuerst Bereiche: auf einer Wellenform ziehen und X drücken, oder X am Anfang und Umschalt+X am Ende.</translation>
  </message>
  <message>
   <source>Mark the playhead, or the marked range (X).</source>
   <translation>Merkt den Abspielkopf oder den markierten Bereich (X).</translation>
  </message>
  <message>
   <source>Marked range lasts</source>
   <translation>Markierter Bereich dauert</translation>
  </message>
  <message>
   <source>Marker {0}</source>
   <translation>Marker {0}</translation>
  </message>
  <message>
   <source>Markers</source>
   <translation>Marker</translation>
  </message>
  <message>
   <source>Markers (*.csv *.wav);;All files (*)</source>
   <translation>Marker (*.csv *.wav);;Alle Dateien (*)</translation>
  </message>
  <message>
   <source>Markers as CSV (*.csv);;The song as WAV with cue points (*.wav)</source>
   <translation>Marker als CSV (*.csv);;Der Song als WAV mit Cue-Punkten (*.wav)</translation>
  </message>
  <message>
   <source>Markers of the song</source>
   <translation>Marker des Songs</translation>
  </message>
  <message>
   <source>Markers written to {0}.</source>
   <translation>Marker in {0} geschrieben.</translation>
  </message>
  <message>
   <source>Match</source>
   <translation>Angleichung</translation>
  </message>
  <message>
   <source>Match on</source>
   <translation>Angleichung ein</translation>
  </message>
  <message>
   <source>Match {0}</source>
   <translation>Angleichung {0}</translation>
  </message>
  <message>
   <source>Match: {0}</source>
   <translation>Angleichung: {0}</translation>
  </message>
  <message>
   <source>Material</source>
   <translation>Material</translation>
  </message>
  <message>
   <source>Matroska: holds pictures of any kind</source>
   <translation>Matroska: fasst Bilder aller Art</translation>
  </message>
  <message>
   <source>Maximum limiting</source>
   <translation>Stärkste Begrenzung</translation>
  </message>
  <message>
   <source>Maximum reduction</source>
   <translation>Größte Absenkung</translation>
  </message>
  <message>
   <source>Measure another song and keep its tone in this session.</source>
   <translation>Misst einen anderen Song und hält sein Klangbild in dieser Sitzung fest.</translation>
  </message>
  <message>
   <source>Measured at</source>
   <translation>Gemessen bei</translation>
  </message>
  <message>
   <source>Measured ears (*.sofa);;All files (*)</source>
   <translation>Gemessene Ohren (*.sofa);;Alle Dateien (*)</translation>
  </message>
  <message>
   <source>Measuring</source>
   <translation>Messen</translation>
  </message>
  <message>
   <source>Measuring the track’s tone</source>
   <translation>Klangbild des Tracks wird gemessen</translation>
  </message>
  <message>
   <source>Measuring the whole version …</source>
   <translation>Die ganze Version wird gemessen …</translation>
  </message>
  <message>
   <source>Measuring {0}</source>
   <translation>{0} wird gemessen</translation>
  </message>
  <message>
   <source>Measuring {0} …</source>
   <translation>{0} wird gemessen …</translation>
  </message>
  <message>
   <source>Merge</source>
   <translation>Vereinen</translation>
  </message>
  <message>
   <source>Merge takes</source>
   <translation>Takes zusammenfügen</translation>
  </message>
  <message>
   <source>Meters</source>
   <translation>Pegelanzeigen</translation>
  </message>
  <message>
   <source>Mid</source>
   <translation>Mitte</translation>
  </message>
  <message>
   <source>Mid amount</source>
   <translation>Stärke Mitte</translation>
  </message>
  <message>
   <source>Mid attack</source>
   <translation>Attack Mitte</translation>
  </message>
  <message>
   <source>Mid evenness</source>
   <translation>Gleichmaß der Mitten</translation>
  </message>
  <message>
   <source>Mid make-up gain</source>
   <translation>Aufholverstärkung Mitte</translation>
  </message>
  <message>
   <source>Mid ratio</source>
   <translation>Verhältnis Mitte</translation>
  </message>
  <message>
   <source>Mid release</source>
   <translation>Release Mitte</translation>
  </message>
  <message>
   <source>Mid threshold</source>
   <translation>Schwelle Mitte</translation>
  </message>
  <message>
   <source>Mid/side compressor</source>
   <translation>Mitte/Seite-Kompressor</translation>
  </message>
  <message>
   <source>Mids are below this, highs above.</source>
   <translation>Darunter liegen Mitten, darüber Höhen.</translation>
  </message>
  <message>
   <source>Milliseconds …</source>
   <translation>Millisekunden …</translation>
  </message>
  <message>
   <source>Minimum</source>
   <translation>Minimal</translation>
  </message>
  <message>
   <source>Mixes the layer in after all effects; off, it passes those below it in the list.</source>
   <translation>Mischt die Ebene nach allen Effekten dazu; sonst durchläuft sie die unter ihr in der Liste.</translation>
  </message>
  <message>
   <source>Mixes the low-passed song in beneath, so that it does not sound thin; −60 is none.</source>
   <translation>Mischt den tiefpassgefilterten Song darunter, damit es nicht dünn klingt; −60 ist keiner.</translation>
  </message>
  <message>
   <source>Modulation</source>
   <translation>Modulation</translation>
  </message>
  <message>
   <source>Moment on</source>
   <translation>Moment ein</translation>
  </message>
  <message>
   <source>Moments</source>
   <translation>Momente</translation>
  </message>
  <message>
   <source>Moments of this version</source>
   <translation>Momente dieser Version</translation>
  </message>
  <message>
   <source>Monitoring volume</source>
   <translation>Abhörlautstärke</translation>
  </message>
  <message>
   <source>Mono below</source>
   <translation>Mono unter</translation>
  </message>
  <message>
   <source>Mono-safe</source>
   <translation>Monosicher</translation>
  </message>
  <message>
   <source>More</source>
   <translation>Mehr</translation>
  </message>
  <message>
   <source>More for takes</source>
   <translation>Mehr zu Takes</translation>
  </message>
  <message>
   <source>Move &amp;up</source>
   <translation>Nach o&amp;ben</translation>
  </message>
  <message>
   <source>Move a beat</source>
   <translation>Beat verschieben</translation>
  </message>
  <message>
   <source>Move do&amp;wn</source>
   <translation>Nach u&amp;nten</translation>
  </message>
  <message>
   <source>Move down</source>
   <translation>Nach unten</translation>
  </message>
  <message>
   <source>Move ending</source>
   <translation>Schluss verschieben</translation>
  </message>
  <message>
   <source>Move marker</source>
   <translation>Marker verschieben</translation>
  </message>
  <message>
   <source>Move section</source>
   <translation>Abschnitt verschieben</translation>
  </message>
  <message>
   <source>Move up</source>
   <translation>Nach oben</translation>
  </message>
  <message>
   <source>Move version</source>
   <translation>Version verschieben</translation>
  </message>
  <message>
   <source>Move {0}</source>
   <translation>{0} verschieben</translation>
  </message>
  <message>
   <source>Moved</source>
   <translation>Verschoben</translation>
  </message>
  <message>
   <source>Moves recorded moves towards the nearest place of this note value; Off keeps them where you played them.</source>
   <translation>Rückt Aufgenommenes zum nächsten Platz dieses Notenwerts; „Aus“ lässt es, wo Sie es gespielt haben.</translation>
  </message>
  <message>
   <source>Moves the chosen takes’ moves towards the grid chosen above.</source>
   <translation>Rückt die Aktionen der gewählten Takes zum oben gewählten Raster.</translation>
  </message>
  <message>
   <source>Moves the reverb’s delays: more is softer and less metallic, none is exact.</source>
   <translation>Bewegt die Verzögerungen des Halls: mehr ist weicher und weniger metallisch, keine ist exakt.</translation>
  </message>
  <message>
   <source>Moves the slice up or down before it is smeared.</source>
   <translation>Verschiebt den Ausschnitt vor dem Verwischen nach oben oder unten.</translation>
  </message>
  <message>
   <source>Muffle</source>
   <translation>Dämpfen</translation>
  </message>
  <message>
   <source>Muffle the splash</source>
   <translation>Platscher dämpfen</translation>
  </message>
  <message>
   <source>Muffle the water</source>
   <translation>Wasser dämpfen</translation>
  </message>
  <message>
   <source>Muffled</source>
   <translation>Gedämpft</translation>
  </message>
  <message>
   <source>Multiband compressor</source>
   <translation>Multibandkompressor</translation>
  </message>
  <message>
   <source>Music length</source>
   <translation>Länge der Musik</translation>
  </message>
  <message>
   <source>Mutes the finished sound.</source>
   <translation>Schaltet den fertigen Klang stumm.</translation>
  </message>
  <message>
   <source>My surface</source>
   <translation>Mein Controller</translation>
  </message>
  <message>
   <source>My surface {0}</source>
   <translation>Mein Controller {0}</translation>
  </message>
  <message>
   <source>Name</source>
   <translation>Name</translation>
  </message>
  <message>
   <source>Name of the map:</source>
   <translation>Name der Belegung:</translation>
  </message>
  <message>
   <source>Name of the version</source>
   <translation>Name der Version</translation>
  </message>
  <message>
   <source>Name:</source>
   <translation>Name:</translation>
  </message>
  <message>
   <source>Named</source>
   <translation>Heißt</translation>
  </message>
  <message>
   <source>Narrower at most</source>
   <translation>Höchstens schmaler um</translation>
  </message>
  <message>
   <source>Natural</source>
   <translation>Natürlich</translation>
  </message>
  <message>
   <source>Nave</source>
   <translation>Kirchenschiff</translation>
  </message>
  <message>
   <source>New</source>
   <translation>Neu</translation>
  </message>
  <message>
   <source>New moment at the playhead, or over the marked range</source>
   <translation>Neuer Moment am Abspielkopf oder über dem markierten Bereich</translation>
  </message>
  <message>
   <source>New version</source>
   <translation>Neue Version</translation>
  </message>
  <message>
   <source>New version with it</source>
   <translation>Neue Version damit</translation>
  </message>
  <message>
   <source>New version: {0}</source>
   <translation>Neue Version: {0}</translation>
  </message>
  <message>
   <source>Newsreel</source>
   <translation>Wochenschau</translation>
  </message>
  <message>
   <source>Next mar&amp;ker</source>
   <translation>N&amp;ächster Marker</translation>
  </message>
  <message>
   <source>Next se&amp;ction</source>
   <translation>&amp;Nächster Abschnitt</translation>
  </message>
  <message>
   <source>No beats detected yet. Detect again, tap along, or type the BPM.</source>
   <translation>Noch keine Beats erkannt. Erkennen Sie erneut, tippen Sie mit oder geben Sie die BPM ein.</translation>
  </message>
  <message>
   <source>No control surface is connected.</source>
   <translation>Kein Controller ist angeschlossen.</translation>
  </message>
  <message>
   <source>No cover</source>
   <translation>Kein Cover</translation>
  </message>
  <message>
   <source>No frequency is lowered by more.</source>
   <translation>Keine Frequenz wird stärker gesenkt.</translation>
  </message>
  <message>
   <source>No frequency is raised by more.</source>
   <translation>Keine Frequenz wird stärker angehoben.</translation>
  </message>
  <message>
   <source>No hints</source>
   <translation>Keine Hinweise</translation>
  </message>
  <message>
   <source>No key found.</source>
   <translation>Keine Tonart gefunden.</translation>
  </message>
  <message>
   <source>No kind</source>
   <translation>Ohne Art</translation>
  </message>
  <message>
   <source>No message of {0} is in the map.</source>
   <translation>Keine Nachricht aus {0} steht in der Belegung.</translation>
  </message>
  <message>
   <source>No moment was copied yet. Ctrl+C copies the chosen ones.</source>
   <translation>Noch wurde kein Moment kopiert. Strg+C kopiert die gewählten.</translation>
  </message>
  <message>
   <source>No points yet: double-click the Before waveform to add one</source>
   <translation>Noch keine Punkte: Doppelklick auf die Wellenform Vorher setzt einen</translation>
  </message>
  <message>
   <source>No reference</source>
   <translation>Keine Referenz</translation>
  </message>
  <message>
   <source>No sound device: playing silently</source>
   <translation>Kein Audiogerät: stumme Wiedergabe</translation>
  </message>
  <message>
   <source>No stage was copied yet. Ctrl+Shift+C copies the one whose panel is open.</source>
   <translation>Noch wurde keine Stufe kopiert. Strg+Umschalt+C kopiert die, deren Feld offen ist.</translation>
  </message>
  <message>
   <source>No steady beat found. Play the song and tap along, or type its BPM.</source>
   <translation>Kein stetiger Beat gefunden. Spielen Sie den Song und tippen Sie mit, oder geben Sie seine BPM ein.</translation>
  </message>
  <message>
   <source>No takes yet. Switch Record on, play, and hold pads.</source>
   <translation>Noch keine Takes. „Aufnehmen“ einschalten, abspielen, Pads halten.</translation>
  </message>
  <message>
   <source>No target: the version is as loud as its stages make it, and true peaks stay below the ceiling.</source>
   <translation>Kein Ziel: Die Version ist so laut, wie ihre Stufen sie machen; True Peaks bleiben unter der Obergrenze.</translation>
  </message>
  <message>
   <source>Noise</source>
   <translation>Rauschen</translation>
  </message>
  <message>
   <source>None</source>
   <translation>Keine</translation>
  </message>
  <message>
   <source>Not heard now: nothing is stretched while the pitch is linked.</source>
   <translation>Jetzt nicht zu hören: Bei gekoppelter Tonhöhe wird nichts gedehnt.</translation>
  </message>
  <message>
   <source>Not set</source>
   <translation>Nicht gesetzt</translation>
  </message>
  <message>
   <source>Note</source>
   <translation>Notiz</translation>
  </message>
  <message>
   <source>Note of a version</source>
   <translation>Notiz zu einer Version</translation>
  </message>
  <message>
   <source>Note on the recipe</source>
   <translation>Notiz zum Rezept</translation>
  </message>
  <message>
   <source>Note the one that is heard now, and shuffle again (Return).</source>
   <translation>Notiert, was gerade klingt, und mischt neu (Eingabetaste).</translation>
  </message>
  <message>
   <source>Note to “{0}”</source>
   <translation>Notiz zu „{0}“</translation>
  </message>
  <message>
   <source>Note value</source>
   <translation>Notenwert</translation>
  </message>
  <message>
   <source>Note value of the echo.</source>
   <translation>Notenwert des Echos.</translation>
  </message>
  <message>
   <source>Note value of the fade back to the song’s level.</source>
   <translation>Notenwert der Blende zurück zum Pegel des Songs.</translation>
  </message>
  <message>
   <source>Note value of the fade into the range’s gain.</source>
   <translation>Notenwert der Blende zur Verstärkung des Bereichs.</translation>
  </message>
  <message>
   <source>Note values of the repeated slice. Several follow one another, each for an equal share.</source>
   <translation>Notenwerte des wiederholten Ausschnitts. Mehrere folgen einander zu gleichen Teilen.</translation>
  </message>
  <message>
   <source>Nothing</source>
   <translation>Nichts</translation>
  </message>
  <message>
   <source>Nothing changed yet.</source>
   <translation>Noch nichts geändert.</translation>
  </message>
  <message>
   <source>Nothing in this version is strained.</source>
   <translation>In dieser Version ist nichts beansprucht.</translation>
  </message>
  <message>
   <source>Nothing is called “{0}”. Try another word.</source>
   <translation>Nichts heißt „{0}“. Versuchen Sie ein anderes Wort.</translation>
  </message>
  <message>
   <source>Nothing is shifted against anything; a sharp beat may be heard a little before its time.</source>
   <translation>Nichts verschiebt sich gegeneinander; ein scharfer Schlag kann etwas vor seiner Zeit klingen.</translation>
  </message>
  <message>
   <source>Nothing sounds before its time; what is changed is shifted a little.</source>
   <translation>Nichts klingt vor seiner Zeit; was sich ändert, verschiebt sich ein wenig.</translation>
  </message>
  <message>
   <source>Nothing yet</source>
   <translation>Noch nichts</translation>
  </message>
  <message>
   <source>Nudge beats</source>
   <translation>Beats feinverschieben</translation>
  </message>
  <message>
   <source>Nudge the chosen moment by a beat; with Shift by 10 ms</source>
   <translation>Gewählten Moment um einen Beat verschieben; mit Umschalt um 10 ms</translation>
  </message>
  <message>
   <source>Nudge the chosen point of a curve; Left and Right choose the next one</source>
   <translation>Gewählten Kurvenpunkt verschieben; links und rechts wählen den nächsten</translation>
  </message>
  <message>
   <source>Nudge {0}</source>
   <translation>{0} feinverschieben</translation>
  </message>
  <message>
   <source>Number {0}</source>
   <translation>Nummer {0}</translation>
  </message>
  <message>
   <source>Off</source>
   <translation>Aus</translation>
  </message>
  <message>
   <source>Ogg Vorbis: small, open</source>
   <translation>Ogg Vorbis: klein, offen</translation>
  </message>
  <message>
   <source>On</source>
   <translation>Ein</translation>
  </message>
  <message>
   <source>On a value: ten times as fine</source>
   <translation>Auf einem Wert: zehnmal so fein</translation>
  </message>
  <message>
   <source>On a value: type it. Arrow keys step it, Page Up and Down ten times as far, Home sets the default</source>
   <translation>Auf einem Wert: eintippen. Pfeiltasten ändern ihn, Bild auf und ab zehnmal so weit, Pos1 setzt den Standard</translation>
  </message>
  <message>
   <source>On these beats the copied moment has no length. Set the length of the copy.</source>
   <translation>Auf diesen Beats hat der kopierte Moment keine Länge. Setzen Sie die Länge der Kopie.</translation>
  </message>
  <message>
   <source>One export is</source>
   <translation>Ein Export wird</translation>
  </message>
  <message>
   <source>One of the chosen sounds</source>
   <translation>Einer der gewählten Klänge</translation>
  </message>
  <message>
   <source>One speed throughout.</source>
   <translation>Durchweg eine Geschwindigkeit.</translation>
  </message>
  <message>
   <source>One turn takes</source>
   <translation>Eine Runde dauert</translation>
  </message>
  <message>
   <source>Only while you listen: exports have the whole sound.</source>
   <translation>Nur beim Hören: Exporte haben den ganzen Klang.</translation>
  </message>
  <message>
   <source>Open &amp;recent</source>
   <translation>&amp;Zuletzt geöffnet</translation>
  </message>
  <message>
   <source>Open Play along first (P).</source>
   <translation>Öffnen Sie zuerst „Mitspielen“ (P).</translation>
  </message>
  <message>
   <source>Open a song or a saved session (Ctrl+O).</source>
   <translation>Song oder gesicherte Sitzung öffnen (Strg+O).</translation>
  </message>
  <message>
   <source>Open a song or a session</source>
   <translation>Song oder Sitzung öffnen</translation>
  </message>
  <message>
   <source>Open it</source>
   <translation>Öffnen</translation>
  </message>
  <message>
   <source>Open over {0}: from this amount to none</source>
   <translation>Öffnen über {0}: von dieser Stärke bis auf null</translation>
  </message>
  <message>
   <source>Open the demo</source>
   <translation>Demo öffnen</translation>
  </message>
  <message>
   <source>Open the panel of a stage first: beats and bars belong to the song.</source>
   <translation>Öffnen Sie zuerst das Feld einer Stufe: Beats und Takte gehören zum Song.</translation>
  </message>
  <message>
   <source>Open the panel of a stage: Time, Effects, Moments, Ending, Level</source>
   <translation>Feld einer Stufe öffnen: Zeit, Effekte, Momente, Schluss, Pegel</translation>
  </message>
  <message>
   <source>Opening {0}</source>
   <translation>{0} wird geöffnet</translation>
  </message>
  <message>
   <source>Opens narrow and worn, as in an old newsreel, and widens over eight bars into the full song.</source>
   <translation>Beginnt eng und abgenutzt wie in einer alten Wochenschau und weitet sich über acht Takte zum vollen Song.</translation>
  </message>
  <message>
   <source>Opus: smallest, open</source>
   <translation>Opus: am kleinsten, offen</translation>
  </message>
  <message>
   <source>Otherwise they run on as they were, and are not encoded again.</source>
   <translation>Sonst laufen sie weiter wie zuvor und werden nicht neu kodiert.</translation>
  </message>
  <message>
   <source>Output limited</source>
   <translation>Ausgabe begrenzt</translation>
  </message>
  <message>
   <source>Outro</source>
   <translation>Outro</translation>
  </message>
  <message>
   <source>Over how much of an octave the curve is evened out: less follows the reference more closely, more is safer.</source>
   <translation>Über welchen Teil einer Oktave die Kurve geglättet wird: weniger folgt der Referenz genauer, mehr ist sicherer.</translation>
  </message>
  <message>
   <source>Over the waveforms: zoom, scroll</source>
   <translation>Über den Wellenformen: zoomen, rollen</translation>
  </message>
  <message>
   <source>P&amp;lay the moment, or the ending</source>
   <translation>Moment oder &amp;Schluss spielen</translation>
  </message>
  <message>
   <source>PLR {0} LU</source>
   <translation>PLR {0} LU</translation>
  </message>
  <message>
   <source>Pad from the marked range …</source>
   <translation>Pad aus dem markierten Bereich …</translation>
  </message>
  <message>
   <source>Pad maker – Late Spin</source>
   <translation>Pad-Werkstatt – Late Spin</translation>
  </message>
  <message>
   <source>Pad settings</source>
   <translation>Einstellungen des Pads</translation>
  </message>
  <message>
   <source>Pads</source>
   <translation>Pads</translation>
  </message>
  <message>
   <source>Page of the Moments panel</source>
   <translation>Seite des Felds „Momente“</translation>
  </message>
  <message>
   <source>Page of the Time panel</source>
   <translation>Seite des Felds „Zeit“</translation>
  </message>
  <message>
   <source>Panel</source>
   <translation>Feld</translation>
  </message>
  <message>
   <source>Pas&amp;te them here</source>
   <translation>Hier einse&amp;tzen</translation>
  </message>
  <message>
   <source>Passages</source>
   <translation>Passagen</translation>
  </message>
  <message>
   <source>Paste here</source>
   <translation>Hier einsetzen</translation>
  </message>
  <message>
   <source>Paste {0}</source>
   <translation>{0} einsetzen</translation>
  </message>
  <message>
   <source>Pause</source>
   <translation>Pause</translation>
  </message>
  <message>
   <source>Peak of the tick of the needle; −60 dB is off.</source>
   <translation>Spitze des Knackses der Nadel; −60 dB heißt aus.</translation>
  </message>
  <message>
   <source>Phase</source>
   <translation>Phase</translation>
  </message>
  <message>
   <source>Pictures (*.jpg *.jpeg *.png *.webp *.bmp)</source>
   <translation>Bilder (*.jpg *.jpeg *.png *.webp *.bmp)</translation>
  </message>
  <message>
   <source>Pictures follow where time jumps or runs backwards</source>
   <translation>Bilder folgen, wo die Zeit springt oder rückwärts läuft</translation>
  </message>
  <message>
   <source>Ping-pong</source>
   <translation>Ping-Pong</translation>
  </message>
  <message>
   <source>Pitch</source>
   <translation>Tonhöhe</translation>
  </message>
  <message>
   <source>Pitch deviation in cents, from two seconds ago to two seconds ahead; the line is now.</source>
   <translation>Abweichung der Tonhöhe in Cent, von vor zwei Sekunden bis in zwei Sekunden; die Linie ist jetzt.</translation>
  </message>
  <message>
   <source>Pitch glide</source>
   <translation>Tonhöhengleiten</translation>
  </message>
  <message>
   <source>Pitch heard</source>
   <translation>Gehörte Tonhöhe</translation>
  </message>
  <message>
   <source>Pitch relative to the track. Type semitones or cents to set the transposition.</source>
   <translation>Tonhöhe gegenüber dem Track. Halbtöne oder Cent eingeben, um zu transponieren.</translation>
  </message>
  <message>
   <source>Pitch when the speed changes</source>
   <translation>Tonhöhe bei geänderter Geschwindigkeit</translation>
  </message>
  <message>
   <source>Place</source>
   <translation>Stelle</translation>
  </message>
  <message>
   <source>Place a moment on the marked range, or at the playhead.</source>
   <translation>Setzt einen Moment auf den markierten Bereich oder an den Abspielkopf.</translation>
  </message>
  <message>
   <source>Place in the track as it came: time, then bar and beat.</source>
   <translation>Stelle im unveränderten Track: Zeit, dann Takt und Beat.</translation>
  </message>
  <message>
   <source>Place in the version.</source>
   <translation>Stelle in der Version.</translation>
  </message>
  <message>
   <source>Places</source>
   <translation>Orte</translation>
  </message>
  <message>
   <source>Planned</source>
   <translation>Geplant</translation>
  </message>
  <message>
   <source>Planned. {0}</source>
   <translation>Geplant. {0}</translation>
  </message>
  <message>
   <source>Planning the export</source>
   <translation>Export wird geplant</translation>
  </message>
  <message>
   <source>Play</source>
   <translation>Wiedergabe</translation>
  </message>
  <message>
   <source>Play alon&amp;g</source>
   <translation>&amp;Mitspielen</translation>
  </message>
  <message>
   <source>Play it</source>
   <translation>Abspielen</translation>
  </message>
  <message>
   <source>Play it on this song</source>
   <translation>Auf diesem Song spielen</translation>
  </message>
  <message>
   <source>Play number {0}</source>
   <translation>Nummer {0} spielen</translation>
  </message>
  <message>
   <source>Play or pause (Space).</source>
   <translation>Wiedergabe oder Pause (Leertaste).</translation>
  </message>
  <message>
   <source>Play the original track from the same musical place (B).</source>
   <translation>Spielt den Originaltrack ab derselben musikalischen Stelle (B).</translation>
  </message>
  <message>
   <source>Play the pad round and round.</source>
   <translation>Spielt das Pad immer wieder.</translation>
  </message>
  <message>
   <source>Play the song and hold a pad. Switch Record on to keep what you play as a take.</source>
   <translation>Spielen Sie den Song und halten Sie ein Pad. „Aufnehmen“ hält fest, was Sie spielen, als Take.</translation>
  </message>
  <message>
   <source>Play the version as it is</source>
   <translation>Version spielen, wie sie ist</translation>
  </message>
  <message>
   <source>Play the version as the recipe would make it, at the same place and loudness; nothing is changed yet.</source>
   <translation>Spielt die Version, wie das Rezept sie machen würde, an derselben Stelle und gleich laut; noch ändert sich nichts.</translation>
  </message>
  <message>
   <source>Play the version from the same musical place (B).</source>
   <translation>Spielt die Version ab derselben musikalischen Stelle (B).</translation>
  </message>
  <message>
   <source>Play to see what it takes away.</source>
   <translation>Starten Sie die Wiedergabe, um zu sehen, was er wegnimmt.</translation>
  </message>
  <message>
   <source>Playback stopped: {0}</source>
   <translation>Wiedergabe angehalten: {0}</translation>
  </message>
  <message>
   <source>Playback volume. It changes no file.</source>
   <translation>Lautstärke der Wiedergabe. Sie ändert keine Datei.</translation>
  </message>
  <message>
   <source>Plays a click on every beat, over Before and After (K). Exports never contain it.</source>
   <translation>Spielt auf jedem Beat einen Klick, zu Vorher und Nachher (K). Exporte enthalten ihn nie.</translation>
  </message>
  <message>
   <source>Plays another sound over the song.</source>
   <translation>Spielt einen anderen Klang über den Song.</translation>
  </message>
  <message>
   <source>Plays every second repeat backwards.</source>
   <translation>Spielt jede zweite Wiederholung rückwärts.</translation>
  </message>
  <message>
   <source>Plays from two bars before the end (A).</source>
   <translation>Spielt ab zwei Takten vor dem Ende (A).</translation>
  </message>
  <message>
   <source>Plays the finished sound backwards, from its start on.</source>
   <translation>Spielt den fertigen Klang ab dem Anfang rückwärts.</translation>
  </message>
  <message>
   <source>Plays the pad. Click here, then use the typing keys shown; Page Up and Page Down move by octaves.</source>
   <translation>Spielt das Pad. Klicken Sie hierher und nehmen Sie die gezeigten Tasten; Bild auf und Bild ab wechseln die Oktave.</translation>
  </message>
  <message>
   <source>Plays the range backwards.</source>
   <translation>Spielt den Bereich rückwärts.</translation>
  </message>
  <message>
   <source>Pocket radio</source>
   <translation>Taschenradio</translation>
  </message>
  <message>
   <source>Podcast</source>
   <translation>Podcast</translation>
  </message>
  <message>
   <source>Points</source>
   <translation>Punkte</translation>
  </message>
  <message>
   <source>Pops</source>
   <translation>Knackser</translation>
  </message>
  <message>
   <source>Position in the song: 0 is its start, 1 its end.</source>
   <translation>Stelle im Song: 0 ist der Anfang, 1 das Ende.</translation>
  </message>
  <message>
   <source>Practice surface</source>
   <translation>Übungs-Controller</translation>
  </message>
  <message>
   <source>Pre&amp;vious marker</source>
   <translation>V&amp;origer Marker</translation>
  </message>
  <message>
   <source>Pre-delay</source>
   <translation>Vorverzögerung</translation>
  </message>
  <message>
   <source>Preference</source>
   <translation>Vorliebe</translation>
  </message>
  <message>
   <source>Preparing the pads</source>
   <translation>Pads werden vorbereitet</translation>
  </message>
  <message>
   <source>Preparing the sound, once on this machine</source>
   <translation>Klang wird vorbereitet, einmalig auf diesem Rechner</translation>
  </message>
  <message>
   <source>Press 1 to 4 to switch while it plays. All are turned down to the quietest, so that none wins by being louder.</source>
   <translation>Mit 1 bis 4 wechseln Sie während der Wiedergabe. Alle sind so leise wie das leiseste, damit keines durch Lautstärke gewinnt.</translation>
  </message>
  <message>
   <source>Press a pad of your control surface. Esc stops.</source>
   <translation>Drücken Sie ein Pad Ihres Controllers. Esc bricht ab.</translation>
  </message>
  <message>
   <source>Press a recipe to hear it.</source>
   <translation>Ein Rezept drücken, um es zu hören.</translation>
  </message>
  <message>
   <source>Press to stop the preview, or to let it go on (Space).</source>
   <translation>Drücken hält die Vorschau an oder lässt sie weiterlaufen (Leertaste).</translation>
  </message>
  <message>
   <source>Press {0} to open its panel. Shift+{0} switches it off and on.</source>
   <translation>{0} öffnet das Feld. Umschalt+{0} schaltet aus und ein.</translation>
  </message>
  <message>
   <source>Preview of the video</source>
   <translation>Vorschau des Videos</translation>
  </message>
  <message>
   <source>Previous sec&amp;tion</source>
   <translation>&amp;Voriger Abschnitt</translation>
  </message>
  <message>
   <source>Progress of {0}</source>
   <translation>Fortschritt: {0}</translation>
  </message>
  <message>
   <source>Put the first beat of a bar at the playhead.</source>
   <translation>Setzt den ersten Beat eines Takts an den Abspielkopf.</translation>
  </message>
  <message>
   <source>Put the ticked stages of the recipe into the version; undo takes it back.</source>
   <translation>Setzt die gewählten Stufen des Rezepts in die Version; Rückgängig nimmt es zurück.</translation>
  </message>
  <message>
   <source>Quality</source>
   <translation>Qualität</translation>
  </message>
  <message>
   <source>Quantise</source>
   <translation>Rastern</translation>
  </message>
  <message>
   <source>R&amp;ecipes …</source>
   <translation>&amp;Rezepte …</translation>
  </message>
  <message>
   <source>RPM</source>
   <translation>U/min</translation>
  </message>
  <message>
   <source>Rain</source>
   <translation>Regen</translation>
  </message>
  <message>
   <source>Rain, crackle, water, hum or your own file beneath the song.</source>
   <translation>Regen, Knistern, Wasser, Brummen oder eine eigene Datei unter dem Song.</translation>
  </message>
  <message>
   <source>Ran&amp;ge</source>
   <translation>Be&amp;reich</translation>
  </message>
  <message>
   <source>Random</source>
   <translation>Zufällig</translation>
  </message>
  <message>
   <source>Range</source>
   <translation>Bereich</translation>
  </message>
  <message>
   <source>Ranges snap to beats and bars (N); hold Shift for a free hand.</source>
   <translation>Bereiche rasten auf Beats und Takten ein (N); mit Umschalt ziehen Sie frei.</translation>
  </message>
  <message>
   <source>Rate</source>
   <translation>Rate</translation>
  </message>
  <message>
   <source>Ratio</source>
   <translation>Verhältnis</translation>
  </message>
  <message>
   <source>Reaching {0} LUFS takes more than {1} dB of limiting; the version is at {2} LUFS. Raise the maximum limiting, or lower the loudness.</source>
   <translation>{0} LUFS verlangen mehr als {1} dB Begrenzung; die Version liegt bei {2} LUFS. Erlauben Sie mehr Begrenzung oder senken Sie die Lautheit.</translation>
  </message>
  <message>
   <source>Read the song once more.</source>
   <translation>Liest den Song noch einmal.</translation>
  </message>
  <message>
   <source>Reading a picture</source>
   <translation>Bild wird gelesen</translation>
  </message>
  <message>
   <source>Reading the song …</source>
   <translation>Song wird gelesen …</translation>
  </message>
  <message>
   <source>Reading {0}</source>
   <translation>{0} wird gelesen</translation>
  </message>
  <message>
   <source>Reading {0} …</source>
   <translation>{0} wird gelesen …</translation>
  </message>
  <message>
   <source>Recipe {0}</source>
   <translation>Rezept {0}</translation>
  </message>
  <message>
   <source>Recipe: {0}</source>
   <translation>Rezept: {0}</translation>
  </message>
  <message>
   <source>Recipes</source>
   <translation>Rezepte</translation>
  </message>
  <message>
   <source>Recipes (*.json)</source>
   <translation>Rezepte (*.json)</translation>
  </message>
  <message>
   <source>Record</source>
   <translation>Aufnehmen</translation>
  </message>
  <message>
   <source>Record {0}</source>
   <translation>{0} aufnehmen</translation>
  </message>
  <message>
   <source>Recording</source>
   <translation>Aufnahme</translation>
  </message>
  <message>
   <source>Recovers sooner after short peaks; sustained sound keeps the release as set.</source>
   <translation>Erholt sich nach kurzen Spitzen früher; bei Anhaltendem gilt das eingestellte Release.</translation>
  </message>
  <message>
   <source>Reference</source>
   <translation>Referenz</translation>
  </message>
  <message>
   <source>Reference {0}</source>
   <translation>Referenz {0}</translation>
  </message>
  <message>
   <source>Reference: {0}</source>
   <translation>Referenz: {0}</translation>
  </message>
  <message>
   <source>Release</source>
   <translation>Release</translation>
  </message>
  <message>
   <source>Remove</source>
   <translation>Entfernen</translation>
  </message>
  <message>
   <source>Remove markers</source>
   <translation>Marker entfernen</translation>
  </message>
  <message>
   <source>Remove point</source>
   <translation>Punkt entfernen</translation>
  </message>
  <message>
   <source>Remove the favourite mark</source>
   <translation>Favorit aufheben</translation>
  </message>
  <message>
   <source>Remove {0}</source>
   <translation>{0} entfernen</translation>
  </message>
  <message>
   <source>Removes everything above this frequency.</source>
   <translation>Entfernt alles über dieser Frequenz.</translation>
  </message>
  <message>
   <source>Removes everything above this frequency; 20 kHz is off.</source>
   <translation>Entfernt alles über dieser Frequenz; 20 kHz ist aus.</translation>
  </message>
  <message>
   <source>Removes everything below this frequency; 20 Hz is off.</source>
   <translation>Entfernt alles unter dieser Frequenz; 20 Hz ist aus.</translation>
  </message>
  <message>
   <source>Removes its highs.</source>
   <translation>Entfernt seine Höhen.</translation>
  </message>
  <message>
   <source>Removes the highs of each repeat above this frequency.</source>
   <translation>Entfernt die Höhen jeder Wiederholung über dieser Frequenz.</translation>
  </message>
  <message>
   <source>Removes the layer’s highs above this frequency; 20 kHz is off.</source>
   <translation>Entfernt die Höhen der Ebene über dieser Frequenz; 20 kHz ist aus.</translation>
  </message>
  <message>
   <source>Removes the lows of each repeat below this frequency.</source>
   <translation>Entfernt die Tiefen jeder Wiederholung unter dieser Frequenz.</translation>
  </message>
  <message>
   <source>Removes the pad’s highs above this; 20 kHz is off.</source>
   <translation>Entfernt die Höhen des Pads darüber; 20 kHz ist aus.</translation>
  </message>
  <message>
   <source>Removes the pad’s lows below this; 20 Hz is off.</source>
   <translation>Entfernt die Tiefen des Pads darunter; 20 Hz ist aus.</translation>
  </message>
  <message>
   <source>Removes the reverb’s highs above this frequency.</source>
   <translation>Entfernt die Höhen des Halls über dieser Frequenz.</translation>
  </message>
  <message>
   <source>Removes the reverb’s lows below this frequency, so that the bass stays dry.</source>
   <translation>Entfernt die Tiefen des Halls unter dieser Frequenz, damit der Bass trocken bleibt.</translation>
  </message>
  <message>
   <source>Rename</source>
   <translation>Umbenennen</translation>
  </message>
  <message>
   <source>Rename marker</source>
   <translation>Marker umbenennen</translation>
  </message>
  <message>
   <source>Rename section</source>
   <translation>Abschnitt umbenennen</translation>
  </message>
  <message>
   <source>Rename take</source>
   <translation>Take umbenennen</translation>
  </message>
  <message>
   <source>Rename the pad</source>
   <translation>Pad umbenennen</translation>
  </message>
  <message>
   <source>Rename version</source>
   <translation>Version umbenennen</translation>
  </message>
  <message>
   <source>Rename …</source>
   <translation>Umbenennen …</translation>
  </message>
  <message>
   <source>Repeat</source>
   <translation>Wiederholen</translation>
  </message>
  <message>
   <source>Repeat 1/16</source>
   <translation>Schleife 1/16</translation>
  </message>
  <message>
   <source>Repeat 1/32</source>
   <translation>Schleife 1/32</translation>
  </message>
  <message>
   <source>Repeat 1/4</source>
   <translation>Schleife 1/4</translation>
  </message>
  <message>
   <source>Repeat 1/8</source>
   <translation>Schleife 1/8</translation>
  </message>
  <message>
   <source>Repeat 1/8 triplet</source>
   <translation>Schleife 1/8 Triole</translation>
  </message>
  <message>
   <source>Repeat 60 ms</source>
   <translation>Schleife 60 ms</translation>
  </message>
  <message>
   <source>Repeat length</source>
   <translation>Länge der Wiederholung</translation>
  </message>
  <message>
   <source>Repeat the drums</source>
   <translation>Schlagzeug wiederholen</translation>
  </message>
  <message>
   <source>Repeat the slice before</source>
   <translation>Ausschnitt davor wiederholen</translation>
  </message>
  <message>
   <source>Repeat {0} ms</source>
   <translation>Wiederholen {0} ms</translation>
  </message>
  <message>
   <source>Repeats</source>
   <translation>Wiederholungen</translation>
  </message>
  <message>
   <source>Repeats a slice of the finished sound, effects included.</source>
   <translation>Wiederholt einen Ausschnitt des fertigen Klangs samt Effekten.</translation>
  </message>
  <message>
   <source>Repeats alternate between left and right.</source>
   <translation>Wiederholungen wechseln zwischen links und rechts.</translation>
  </message>
  <message>
   <source>Repeats at a free length instead of a note value, down to a buzz.</source>
   <translation>Wiederholt in freier Länge statt in einem Notenwert, bis hin zum Summen.</translation>
  </message>
  <message>
   <source>Repeats in time with the song.</source>
   <translation>Wiederholungen im Takt des Songs.</translation>
  </message>
  <message>
   <source>Repeats the whole song, or only its drums while the rest goes on.</source>
   <translation>Wiederholt den ganzen Song oder nur sein Schlagzeug, während der Rest weiterläuft.</translation>
  </message>
  <message>
   <source>Repeats what was just heard.</source>
   <translation>Wiederholt, was gerade klang.</translation>
  </message>
  <message>
   <source>Replace files that are already there</source>
   <translation>Vorhandene Dateien ersetzen</translation>
  </message>
  <message>
   <source>Replace it</source>
   <translation>Ersetzen</translation>
  </message>
  <message>
   <source>Replace the recipe</source>
   <translation>Rezept ersetzen</translation>
  </message>
  <message>
   <source>Reset</source>
   <translation>Zurücksetzen</translation>
  </message>
  <message>
   <source>Resonance</source>
   <translation>Resonanz</translation>
  </message>
  <message>
   <source>Response, with the song’s spectrum behind</source>
   <translation>Frequenzgang, dahinter das Spektrum des Songs</translation>
  </message>
  <message>
   <source>Return, a digit</source>
   <translation>Eingabetaste, eine Ziffer</translation>
  </message>
  <message>
   <source>Reverb, worn media, underwater, small speakers, 8D spin, EQ and layers.</source>
   <translation>Hall, abgenutzte Medien, unter Wasser, kleine Lautsprecher, 8D-Drehung, EQ und Ebenen.</translation>
  </message>
  <message>
   <source>Reverse</source>
   <translation>Rückwärts</translation>
  </message>
  <message>
   <source>Reverse every other</source>
   <translation>Jede zweite rückwärts</translation>
  </message>
  <message>
   <source>Reverses the slice before it is stretched.</source>
   <translation>Dreht den Ausschnitt vor dem Dehnen um.</translation>
  </message>
  <message>
   <source>Ribbons that move with the sound</source>
   <translation>Bänder, die sich mit dem Klang bewegen</translation>
  </message>
  <message>
   <source>Rides the tempo of the finished sound, and its pitch with it.</source>
   <translation>Führt das Tempo des fertigen Klangs, und die Tonhöhe mit.</translation>
  </message>
  <message>
   <source>Ring-out</source>
   <translation>Ausklingen</translation>
  </message>
  <message>
   <source>Ring-out ending</source>
   <translation>Ausklingender Schluss</translation>
  </message>
  <message>
   <source>Rink hum</source>
   <translation>Brummen der Bahn</translation>
  </message>
  <message>
   <source>Roller rink</source>
   <translation>Rollschuhbahn</translation>
  </message>
  <message>
   <source>Room</source>
   <translation>Raum</translation>
  </message>
  <message>
   <source>Room tone</source>
   <translation>Raumton</translation>
  </message>
  <message>
   <source>Root note</source>
   <translation>Grundton</translation>
  </message>
  <message>
   <source>Rounds peaks off and adds harmonics.</source>
   <translation>Rundet Spitzen und fügt Obertöne hinzu.</translation>
  </message>
  <message>
   <source>Rulers in &amp;video frames</source>
   <translation>Lineale &amp;in Videobildern</translation>
  </message>
  <message>
   <source>Rumble</source>
   <translation>Rumpeln</translation>
  </message>
  <message>
   <source>R−L  500 Hz {0} dB · 6 kHz {1} dB</source>
   <translation>R−L  500 Hz {0} dB · 6 kHz {1} dB</translation>
  </message>
  <message>
   <source>S&amp;hape</source>
   <translation>&amp;Seitenverhältnis</translation>
  </message>
  <message>
   <source>S&amp;plit the section here</source>
   <translation>Abs&amp;chnitt hier teilen</translation>
  </message>
  <message>
   <source>Sample rate</source>
   <translation>Abtastrate</translation>
  </message>
  <message>
   <source>Saturation</source>
   <translation>Sättigung</translation>
  </message>
  <message>
   <source>Save session &amp;as …</source>
   <translation>Sitzung sichern &amp;unter …</translation>
  </message>
  <message>
   <source>Save the pad</source>
   <translation>Pad sichern</translation>
  </message>
  <message>
   <source>Save the pad and add it as a layer of this version.</source>
   <translation>Sichert das Pad und fügt es dieser Version als Ebene hinzu.</translation>
  </message>
  <message>
   <source>Save the pad as WAV with its loop points.</source>
   <translation>Sichert das Pad als WAV mit seinen Schleifenpunkten.</translation>
  </message>
  <message>
   <source>Save the session</source>
   <translation>Sitzung sichern</translation>
  </message>
  <message>
   <source>Save the session with copies of its files</source>
   <translation>Sitzung mit Kopien ihrer Dateien sichern</translation>
  </message>
  <message>
   <source>Save under another name …</source>
   <translation>Unter anderem Namen sichern …</translation>
  </message>
  <message>
   <source>Save with &amp;copies of its files …</source>
   <translation>Mit &amp;Kopien der Dateien sichern …</translation>
  </message>
  <message>
   <source>Save …</source>
   <translation>Sichern …</translation>
  </message>
  <message>
   <source>Saved as {0}.</source>
   <translation>Als {0} gesichert.</translation>
  </message>
  <message>
   <source>Saved {0}</source>
   <translation>{0} gesichert</translation>
  </message>
  <message>
   <source>Schedulers need the package “distributed”. Install Late Spin with its extra “cluster”: pip install 'latespin[cluster]'.</source>
   <translation>Scheduler brauchen das Paket „distributed“. Installieren Sie Late Spin mit dem Zusatz „cluster“: pip install 'latespin[cluster]'.</translation>
  </message>
  <message>
   <source>Scratch</source>
   <translation>Kratzer</translation>
  </message>
  <message>
   <source>Second bell</source>
   <translation>Zweite Glocke</translation>
  </message>
  <message>
   <source>Second bell Q</source>
   <translation>Güte der zweiten Glocke</translation>
  </message>
  <message>
   <source>Second bell at</source>
   <translation>Zweite Glocke bei</translation>
  </message>
  <message>
   <source>Second stage</source>
   <translation>Zweite Stufe</translation>
  </message>
  <message>
   <source>Seconds</source>
   <translation>Sekunden</translation>
  </message>
  <message>
   <source>Sections corrected by hand: {0}.</source>
   <translation>Abschnitte, von Hand berichtigt: {0}.</translation>
  </message>
  <message>
   <source>Sections detected: {0}.</source>
   <translation>Erkannte Abschnitte: {0}.</translation>
  </message>
  <message>
   <source>Send to</source>
   <translation>Senden an</translation>
  </message>
  <message>
   <source>Sends control change 8. Learn it for a knob in Late Spin.</source>
   <translation>Sendet Control Change 8. Lassen Sie es in Late Spin einen Regler lernen.</translation>
  </message>
  <message>
   <source>Sends the range into an echo or a hall, which rings on.</source>
   <translation>Schickt den Bereich in ein Echo oder einen Hall, der weiterklingt.</translation>
  </message>
  <message>
   <source>Sends the splash through the same low-pass as the music.</source>
   <translation>Schickt den Platscher durch denselben Tiefpass wie die Musik.</translation>
  </message>
  <message>
   <source>Sends the water through the same low-pass as the music.</source>
   <translation>Schickt das Wasser durch denselben Tiefpass wie die Musik.</translation>
  </message>
  <message>
   <source>Settings of {0}</source>
   <translation>Einstellungen: {0}</translation>
  </message>
  <message>
   <source>Shape</source>
   <translation>Seitenverhältnis</translation>
  </message>
  <message>
   <source>Share of the length for which the song stays at its slowest.</source>
   <translation>Anteil der Länge, in dem der Song am langsamsten bleibt.</translation>
  </message>
  <message>
   <source>Share of the length in which it fades out.</source>
   <translation>Anteil der Länge, in dem er ausblendet.</translation>
  </message>
  <message>
   <source>Share of the length in which the effect fades in.</source>
   <translation>Anteil der Länge, in dem der Effekt einblendet.</translation>
  </message>
  <message>
   <source>Share of the length, at its end, in which a second and steeper slow-down works.</source>
   <translation>Anteil der Länge am Ende, in dem ein zweites, steileres Abbremsen wirkt.</translation>
  </message>
  <message>
   <source>Share of the length, at its end, in which the song comes up to speed again.</source>
   <translation>Anteil der Länge am Ende, in dem der Song wieder anläuft.</translation>
  </message>
  <message>
   <source>Share of the length, at its end, that stays silent before the song returns.</source>
   <translation>Anteil der Länge am Ende, der still bleibt, bevor der Song zurückkehrt.</translation>
  </message>
  <message>
   <source>Shelf at</source>
   <translation>Shelf bei</translation>
  </message>
  <message>
   <source>Shelves, two bells and cuts.</source>
   <translation>Shelfs, zwei Glocken und Schnitte.</translation>
  </message>
  <message>
   <source>Shift while dragging</source>
   <translation>Umschalt beim Ziehen</translation>
  </message>
  <message>
   <source>Shift with drag or wheel</source>
   <translation>Umschalt beim Ziehen oder Drehen</translation>
  </message>
  <message>
   <source>Shift+1 … 5</source>
   <translation>Umschalt+1 … 5</translation>
  </message>
  <message>
   <source>Shifts the formants without the pitch: up sounds smaller, down larger.</source>
   <translation>Verschiebt die Formanten ohne die Tonhöhe: nach oben klingt kleiner, nach unten größer.</translation>
  </message>
  <message>
   <source>Shifts the pitch on top of what the speed does. The length stays.</source>
   <translation>Verschiebt die Tonhöhe zusätzlich zur Geschwindigkeit. Die Länge bleibt.</translation>
  </message>
  <message>
   <source>Short losses where the tape lifts off the head.</source>
   <translation>Kurze Verluste, wo das Band vom Kopf abhebt.</translation>
  </message>
  <message>
   <source>Short tape stop</source>
   <translation>Kurzer Tape-Stop</translation>
  </message>
  <message>
   <source>Short windows: hits keep their body; low tones waver.</source>
   <translation>Kurze Fenster: Schläge behalten ihren Körper; tiefe Töne flattern.</translation>
  </message>
  <message>
   <source>Short-term loudness (3 s, EBU R 128) over the song: Before and After in their own colours, on one time scale; the dashed line is the target.
At the right, how often the song is how loud. PLR is the true peak above the loudness: the more, the more lively.</source>
   <translation>Kurzzeit-Lautheit (3 s, EBU R 128) im Verlauf des Songs: Vorher und Nachher in ihren Farben auf einer Zeitachse; die gestrichelte Linie ist das Ziel.
Rechts: wie oft der Song wie laut ist. PLR ist der True Peak über der Lautheit: je mehr, desto lebendiger.</translation>
  </message>
  <message>
   <source>Show no hints at all.</source>
   <translation>Gar keine Hinweise zeigen.</translation>
  </message>
  <message>
   <source>Show or hide the finer controls of this effect.</source>
   <translation>Zeigt oder verbirgt die feineren Regler dieses Effekts.</translation>
  </message>
  <message>
   <source>Shuffle what the keys play and hide the names, until you say which you like best.</source>
   <translation>Mischt, was die Tasten spielen, und verbirgt die Namen, bis Sie sagen, was Ihnen am besten gefällt.</translation>
  </message>
  <message>
   <source>Side</source>
   <translation>Seite</translation>
  </message>
  <message>
   <source>Side amount</source>
   <translation>Stärke Seite</translation>
  </message>
  <message>
   <source>Side attack</source>
   <translation>Attack Seite</translation>
  </message>
  <message>
   <source>Side make-up gain</source>
   <translation>Aufholverstärkung Seite</translation>
  </message>
  <message>
   <source>Side ratio</source>
   <translation>Verhältnis Seite</translation>
  </message>
  <message>
   <source>Side release</source>
   <translation>Release Seite</translation>
  </message>
  <message>
   <source>Side threshold</source>
   <translation>Schwelle Seite</translation>
  </message>
  <message>
   <source>Sides</source>
   <translation>Seiten</translation>
  </message>
  <message>
   <source>Silence</source>
   <translation>Stille</translation>
  </message>
  <message>
   <source>Sixteen times as long: the song stretched into a soft, wide pad in a large hall.</source>
   <translation>Sechzehnmal so lang: der Song, gedehnt zu einem weichen, weiten Pad in einem großen Hall.</translation>
  </message>
  <message>
   <source>Size</source>
   <translation>Größe</translation>
  </message>
  <message>
   <source>Slice</source>
   <translation>Ausschnitt</translation>
  </message>
  <message>
   <source>Slice offset</source>
   <translation>Versatz des Ausschnitts</translation>
  </message>
  <message>
   <source>Slow speed variation, once per turn.</source>
   <translation>Langsame Gleichlaufschwankung, einmal je Umdrehung.</translation>
  </message>
  <message>
   <source>Slow to a stop</source>
   <translation>Auslaufen</translation>
  </message>
  <message>
   <source>Slowed + reverb</source>
   <translation>Slowed + Reverb</translation>
  </message>
  <message>
   <source>Slower and lower, as on a turntable, in a large soft hall.</source>
   <translation>Langsamer und tiefer, wie auf dem Plattenspieler, in einem großen weichen Hall.</translation>
  </message>
  <message>
   <source>Slower tape is duller, noisier and less even.</source>
   <translation>Langsameres Band ist dumpfer, rauschender und ungleichmäßiger.</translation>
  </message>
  <message>
   <source>Slows from</source>
   <translation>Läuft aus ab</translation>
  </message>
  <message>
   <source>Slows in</source>
   <translation>Läuft aus in</translation>
  </message>
  <message>
   <source>Slows the finished sound to a standstill.</source>
   <translation>Lässt den fertigen Klang bis zum Stillstand auslaufen.</translation>
  </message>
  <message>
   <source>Small speaker</source>
   <translation>Kleiner Lautsprecher</translation>
  </message>
  <message>
   <source>Smear</source>
   <translation>Verwischen</translation>
  </message>
  <message>
   <source>Smear again</source>
   <translation>Nochmals verwischen</translation>
  </message>
  <message>
   <source>Smooth</source>
   <translation>Weich</translation>
  </message>
  <message>
   <source>Smoothing</source>
   <translation>Glättung</translation>
  </message>
  <message>
   <source>Snap</source>
   <translation>Einrasten</translation>
  </message>
  <message>
   <source>Snap &amp;to</source>
   <translation>Ein&amp;rasten auf</translation>
  </message>
  <message>
   <source>Snug</source>
   <translation>Stube</translation>
  </message>
  <message>
   <source>Soft clipping: odd harmonics only, even ones too, or late and gentle.</source>
   <translation>Weiches Begrenzen: nur ungerade Obertöne, auch gerade, oder spät und sanft.</translation>
  </message>
  <message>
   <source>Solo</source>
   <translation>Solo</translation>
  </message>
  <message>
   <source>Solo: {0}</source>
   <translation>Solo: {0}</translation>
  </message>
  <message>
   <source>Solo: {0} of {1}</source>
   <translation>Solo: {0} von {1}</translation>
  </message>
  <message>
   <source>Something went wrong in Late Spin itself ({0}). The log has more.</source>
   <translation>In Late Spin selbst ist etwas schiefgegangen ({0}). Mehr steht im Protokoll.</translation>
  </message>
  <message>
   <source>Something went wrong in Late Spin itself ({0}: {1}).</source>
   <translation>In Late Spin selbst ist etwas schiefgegangen ({0}: {1}).</translation>
  </message>
  <message>
   <source>Songs</source>
   <translation>Songs</translation>
  </message>
  <message>
   <source>Songs to export</source>
   <translation>Zu exportierende Songs</translation>
  </message>
  <message>
   <source>Sound</source>
   <translation>Klang</translation>
  </message>
  <message>
   <source>Sound &amp;device</source>
   <translation>A&amp;udiogerät</translation>
  </message>
  <message>
   <source>Sound &amp;track …</source>
   <translation>&amp;Tonspur …</translation>
  </message>
  <message>
   <source>Sound and video files are welcome. The song itself is never changed.</source>
   <translation>Audio- und Videodateien sind willkommen. Der Song selbst wird nie verändert.</translation>
  </message>
  <message>
   <source>Sound track</source>
   <translation>Tonspur</translation>
  </message>
  <message>
   <source>Sounds (*.wav *.flac *.ogg *.opus *.mp3 *.aif *.aiff *.m4a);;All files (*)</source>
   <translation>Klänge (*.wav *.flac *.ogg *.opus *.mp3 *.aif *.aiff *.m4a);;Alle Dateien (*)</translation>
  </message>
  <message>
   <source>Space</source>
   <translation>Raum</translation>
  </message>
  <message>
   <source>Space plays it while it is being read. Click on the waveform to hear it from there.</source>
   <translation>Die Leertaste spielt ihn, während er gelesen wird. Ein Klick auf die Wellenform spielt ihn ab dort.</translation>
  </message>
  <message>
   <source>Sped up</source>
   <translation>Sped up</translation>
  </message>
  <message>
   <source>Speed</source>
   <translation>Geschwindigkeit</translation>
  </message>
  <message>
   <source>Speed and pitch</source>
   <translation>Geschwindigkeit und Tonhöhe</translation>
  </message>
  <message>
   <source>Speed and pitch over the moment. Drag the ring to change the curve, the diamond to move the second stage, the square to move the silence. They snap to quarter beats; hold Shift to place them freely.</source>
   <translation>Geschwindigkeit und Tonhöhe im Moment. Der Ring ändert die Kurve, die Raute verschiebt die zweite Stufe, das Quadrat die Stille. Sie rasten auf Viertelbeats ein; mit Umschalt frei.</translation>
  </message>
  <message>
   <source>Speed and pitch.</source>
   <translation>Geschwindigkeit und Tonhöhe.</translation>
  </message>
  <message>
   <source>Speed dip</source>
   <translation>Tempodelle</translation>
  </message>
  <message>
   <source>Speed of the echo’s tape. Automate it, and repeats glide in pitch; at 1 % the tape stands still.</source>
   <translation>Geschwindigkeit des Echobands. Automatisiert gleiten die Wiederholungen in der Tonhöhe; bei 1 % steht das Band.</translation>
  </message>
  <message>
   <source>Speed ramp</source>
   <translation>Temporampe</translation>
  </message>
  <message>
   <source>Speed variation of the echo’s tape.</source>
   <translation>Gleichlaufschwankung des Echobands.</translation>
  </message>
  <message>
   <source>Speeds up in</source>
   <translation>Läuft an in</translation>
  </message>
  <message>
   <source>Spherical head</source>
   <translation>Kugelkopf</translation>
  </message>
  <message>
   <source>Spin up</source>
   <translation>Anlaufen</translation>
  </message>
  <message>
   <source>Spin-up</source>
   <translation>Anlauf</translation>
  </message>
  <message>
   <source>Splash</source>
   <translation>Platscher</translation>
  </message>
  <message>
   <source>Split at the playhead</source>
   <translation>Am Abspielkopf teilen</translation>
  </message>
  <message>
   <source>Split section</source>
   <translation>Abschnitt teilen</translation>
  </message>
  <message>
   <source>Square, for feeds</source>
   <translation>Quadratisch, für Feeds</translation>
  </message>
  <message>
   <source>Stages of it to use</source>
   <translation>Zu verwendende Stufen</translation>
  </message>
  <message>
   <source>Stages to keep</source>
   <translation>Zu sichernde Stufen</translation>
  </message>
  <message>
   <source>Start</source>
   <translation>Starten</translation>
  </message>
  <message>
   <source>Starts at</source>
   <translation>Beginnt mit</translation>
  </message>
  <message>
   <source>State</source>
   <translation>Stand</translation>
  </message>
  <message>
   <source>Stay</source>
   <translation>Verweilen</translation>
  </message>
  <message>
   <source>Stereo</source>
   <translation>Stereo</translation>
  </message>
  <message>
   <source>Stereo link</source>
   <translation>Stereokopplung</translation>
  </message>
  <message>
   <source>Stereo width of the reverb. The song itself keeps its width.</source>
   <translation>Stereobreite des Halls. Der Song behält seine Breite.</translation>
  </message>
  <message>
   <source>Stop</source>
   <translation>Stopp</translation>
  </message>
  <message>
   <source>Stop all</source>
   <translation>Alle abbrechen</translation>
  </message>
  <message>
   <source>Stop chosen</source>
   <translation>Gewählte abbrechen</translation>
  </message>
  <message>
   <source>Stop the export. Files already written stay, and the export can resume later.</source>
   <translation>Bricht den Export ab. Geschriebene Dateien bleiben, und er kann später weitergehen.</translation>
  </message>
  <message>
   <source>Stop the files chosen in the table; the rest goes on.</source>
   <translation>Bricht die in der Tabelle gewählten Dateien ab; der Rest läuft weiter.</translation>
  </message>
  <message>
   <source>Stop, and go on from there</source>
   <translation>Anhalten und von dort weiterspielen</translation>
  </message>
  <message>
   <source>Stopped</source>
   <translation>Abgebrochen</translation>
  </message>
  <message>
   <source>Straight</source>
   <translation>Gerade</translation>
  </message>
  <message>
   <source>Strain</source>
   <translation>Beanspruchung</translation>
  </message>
  <message>
   <source>Streaming</source>
   <translation>Streaming</translation>
  </message>
  <message>
   <source>Strength</source>
   <translation>Ausmaß</translation>
  </message>
  <message>
   <source>Stretch a slice of the song into a pad that loops without a seam.</source>
   <translation>Dehnt einen Ausschnitt des Songs zu einem Pad, das nahtlos in Schleife läuft.</translation>
  </message>
  <message>
   <source>Stretches the decay of the impulse response: 1 is as recorded.</source>
   <translation>Dehnt das Abklingen der Impulsantwort: 1 ist wie aufgenommen.</translation>
  </message>
  <message>
   <source>Strong bar lines</source>
   <translation>Starke Taktstriche</translation>
  </message>
  <message>
   <source>Stuck record</source>
   <translation>Hängende Platte</translation>
  </message>
  <message>
   <source>Stutter</source>
   <translation>Stutter</translation>
  </message>
  <message>
   <source>Stutter: there are hardly any drums here to repeat. Repeat the whole song instead.</source>
   <translation>Stutter: Hier ist kaum Schlagzeug zum Wiederholen. Wiederholen Sie stattdessen den ganzen Song.</translation>
  </message>
  <message>
   <source>Sums the bass below this frequency to mono, as on cut records.</source>
   <translation>Fasst den Bass unter dieser Frequenz zu Mono zusammen, wie auf geschnittenen Platten.</translation>
  </message>
  <message>
   <source>Surface</source>
   <translation>Controller</translation>
  </message>
  <message>
   <source>Surface noise, dust and fine crackle.</source>
   <translation>Oberflächenrauschen, Staub und feines Knistern.</translation>
  </message>
  <message>
   <source>Swings of the tape’s speed while it runs down.</source>
   <translation>Schwankungen des Bands, während es ausläuft.</translation>
  </message>
  <message>
   <source>Swings per second. Fast and shallow is flutter.</source>
   <translation>Schwankungen je Sekunde. Schnell und flach ist Flutter.</translation>
  </message>
  <message>
   <source>Switch a stage off or on, at the same loudness</source>
   <translation>Stufe bei gleicher Lautheit aus- oder einschalten</translation>
  </message>
  <message>
   <source>Switch it off</source>
   <translation>Ausschalten</translation>
  </message>
  <message>
   <source>Switch it on</source>
   <translation>Einschalten</translation>
  </message>
  <message>
   <source>Switch the match off and on to compare at the same loudness.</source>
   <translation>Schalten Sie die Angleichung aus und ein, um bei gleicher Lautheit zu vergleichen.</translation>
  </message>
  <message>
   <source>Switch this effect on or off.</source>
   <translation>Schaltet diesen Effekt ein oder aus.</translation>
  </message>
  <message>
   <source>Switch this moment off and on.</source>
   <translation>Schaltet diesen Moment aus und ein.</translation>
  </message>
  <message>
   <source>Switch {0} off</source>
   <translation>{0} ausschalten</translation>
  </message>
  <message>
   <source>Switch {0} off and on to compare at the same loudness.</source>
   <translation>Schalten Sie {0} aus und ein, um bei gleicher Lautheit zu vergleichen.</translation>
  </message>
  <message>
   <source>Switch {0} on</source>
   <translation>{0} einschalten</translation>
  </message>
  <message>
   <source>Switches any effect on over the finished sound.</source>
   <translation>Schaltet einen beliebigen Effekt über dem fertigen Klang ein.</translation>
  </message>
  <message>
   <source>Symmetric</source>
   <translation>Symmetrisch</translation>
  </message>
  <message>
   <source>Tags</source>
   <translation>Tags</translation>
  </message>
  <message>
   <source>Tags of the file</source>
   <translation>Tags der Datei</translation>
  </message>
  <message>
   <source>Tags of {0} are too large, and left out: {1}.</source>
   <translation>Tags von {0} sind zu groß und bleiben weg: {1}.</translation>
  </message>
  <message>
   <source>Tags …</source>
   <translation>Tags …</translation>
  </message>
  <message>
   <source>Tail</source>
   <translation>Ausklang</translation>
  </message>
  <message>
   <source>Tail length</source>
   <translation>Länge des Ausklangs</translation>
  </message>
  <message>
   <source>Take</source>
   <translation>Take</translation>
  </message>
  <message>
   <source>Take a recipe from a file among your own.</source>
   <translation>Nimmt ein Rezept aus einer Datei bei Ihren eigenen auf.</translation>
  </message>
  <message>
   <source>Take beats and bars from a MIDI file’s tempo map or a CSV file.</source>
   <translation>Übernimmt Beats und Takte aus der Tempospur einer MIDI-Datei oder aus einer CSV-Datei.</translation>
  </message>
  <message>
   <source>Take off</source>
   <translation>Take ausschalten</translation>
  </message>
  <message>
   <source>Take on</source>
   <translation>Take einschalten</translation>
  </message>
  <message>
   <source>Take the chosen markers away.</source>
   <translation>Nimmt die gewählten Marker weg.</translation>
  </message>
  <message>
   <source>Take the chosen point away. Delete does it, too.</source>
   <translation>Nimmt den gewählten Punkt weg. Entf tut es auch.</translation>
  </message>
  <message>
   <source>Take the chosen reference out of this session.</source>
   <translation>Nimmt die gewählte Referenz aus dieser Sitzung.</translation>
  </message>
  <message>
   <source>Take this pad for the slice, and make another of it.</source>
   <translation>Nimmt dieses Pad als Ausschnitt und macht daraus ein weiteres.</translation>
  </message>
  <message>
   <source>Take {0}</source>
   <translation>Take {0}</translation>
  </message>
  <message>
   <source>Takes as MIDI files.</source>
   <translation>Takes als MIDI-Dateien.</translation>
  </message>
  <message>
   <source>Takes of this version</source>
   <translation>Takes dieser Version</translation>
  </message>
  <message>
   <source>Tall, for phones</source>
   <translation>Hoch, für Handys</translation>
  </message>
  <message>
   <source>Tap</source>
   <translation>Tippen</translation>
  </message>
  <message>
   <source>Tap along</source>
   <translation>Mittippen</translation>
  </message>
  <message>
   <source>Tap on the beats while the song plays (T): tempo and place are fitted to your taps.</source>
   <translation>Tippen Sie auf die Beats, während der Song läuft (T): Tempo und Lage richten sich danach.</translation>
  </message>
  <message>
   <source>Tap the tempo</source>
   <translation>Tempo tippen</translation>
  </message>
  <message>
   <source>Tape</source>
   <translation>Band</translation>
  </message>
  <message>
   <source>Tape hiss</source>
   <translation>Bandrauschen</translation>
  </message>
  <message>
   <source>Tape speed</source>
   <translation>Bandgeschwindigkeit</translation>
  </message>
  <message>
   <source>Tape stop</source>
   <translation>Tape-Stop</translation>
  </message>
  <message>
   <source>Tape stop ending</source>
   <translation>Tape-Stop-Schluss</translation>
  </message>
  <message>
   <source>Tapped {0} BPM from {1} taps.{2}</source>
   <translation>{0} BPM aus {1}-mal Tippen.{2}</translation>
  </message>
  <message>
   <source>Target</source>
   <translation>Ziel</translation>
  </message>
  <message>
   <source>Telephone</source>
   <translation>Telefon</translation>
  </message>
  <message>
   <source>Telephone, pocket radio, loud-hailer, newsreel …</source>
   <translation>Telefon, Taschenradio, Megafon, Wochenschau …</translation>
  </message>
  <message>
   <source>Tempo</source>
   <translation>Tempo</translation>
  </message>
  <message>
   <source>Tempo curve</source>
   <translation>Tempokurve</translation>
  </message>
  <message>
   <source>That control is automated. Switch Record on to record over its automation.</source>
   <translation>Dieser Regler ist automatisiert. Schalten Sie „Aufnehmen“ ein, um seine Automation zu überschreiben.</translation>
  </message>
  <message>
   <source>That pad cannot be played: {0}</source>
   <translation>Dieses Pad lässt sich nicht spielen: {0}</translation>
  </message>
  <message>
   <source>That sends nothing that can be learnt. Try another pad or knob.</source>
   <translation>Das sendet nichts, was sich lernen ließe. Versuchen Sie ein anderes Pad oder einen anderen Regler.</translation>
  </message>
  <message>
   <source>That would last {0} minutes; a pad lasts 10 at most. Smear it less, or mark a shorter range.</source>
   <translation>Das würde {0} Minuten dauern; ein Pad dauert höchstens 10. Dehnen Sie weniger oder markieren Sie einen kürzeren Bereich.</translation>
  </message>
  <message>
   <source>The &amp;system’s device</source>
   <translation>Gerät des &amp;Systems</translation>
  </message>
  <message>
   <source>The ALSA sequencer cannot be opened. Add yourself to the group “audio” to connect MIDI devices.</source>
   <translation>Der ALSA-Sequenzer lässt sich nicht öffnen. Nehmen Sie sich in die Gruppe „audio“ auf, um MIDI-Geräte zu verbinden.</translation>
  </message>
  <message>
   <source>The clipboard</source>
   <translation>Die Zwischenablage</translation>
  </message>
  <message>
   <source>The cover</source>
   <translation>Das Cover</translation>
  </message>
  <message>
   <source>The curve of the chosen moment is drawn here.</source>
   <translation>Hier erscheint die Kurve des gewählten Moments.</translation>
  </message>
  <message>
   <source>The curve of the way back, like Curve.</source>
   <translation>Die Kurve des Rückwegs, wie „Kurve“.</translation>
  </message>
  <message>
   <source>The detected key; the pitch moves that of After. Cents show a tuning off concert pitch.</source>
   <translation>Die erkannte Tonart; die Tonhöhe verschiebt die von Nachher. Cent zeigen eine Stimmung neben dem Kammerton.</translation>
  </message>
  <message>
   <source>The drums alone</source>
   <translation>Nur das Schlagzeug</translation>
  </message>
  <message>
   <source>The effect of a moment cannot be automated; automate one in the Effects stage instead.</source>
   <translation>Der Effekt eines Moments lässt sich nicht automatisieren; automatisieren Sie einen in der Stufe „Effekte“.</translation>
  </message>
  <message>
   <source>The effect of the range, with settings of its own.</source>
   <translation>Der Effekt des Bereichs, mit eigenen Einstellungen.</translation>
  </message>
  <message>
   <source>The effect that carries the range on.</source>
   <translation>Der Effekt, der den Bereich weiterträgt.</translation>
  </message>
  <message>
   <source>The effect that fades in and out.</source>
   <translation>Der Effekt, der ein- und ausblendet.</translation>
  </message>
  <message>
   <source>The effect that is switched on while it is held. Echoes and halls ring on afterwards.</source>
   <translation>Der Effekt, der beim Halten eingeschaltet ist. Echos und Hall klingen danach weiter.</translation>
  </message>
  <message>
   <source>The end of the version is drawn here.</source>
   <translation>Hier erscheint das Ende der Version.</translation>
  </message>
  <message>
   <source>The ending at {0} leaves nothing of the song. Move it later.</source>
   <translation>Der Schluss bei {0} lässt nichts vom Song übrig. Verschieben Sie ihn nach hinten.</translation>
  </message>
  <message>
   <source>The ending at {0} lies before the first beat. Move it into the song.</source>
   <translation>Der Schluss bei {0} liegt vor dem ersten Beat. Schieben Sie ihn in den Song.</translation>
  </message>
  <message>
   <source>The ending at {0} lies beyond the song’s end at {1}. Move it earlier.</source>
   <translation>Der Schluss bei {0} liegt hinter dem Ende des Songs bei {1}. Verschieben Sie ihn nach vorn.</translation>
  </message>
  <message>
   <source>The ending at {0}: this song has no bars. Tap the tempo, or give a time.</source>
   <translation>Der Schluss bei {0}: Dieser Song hat keine Takte. Tippen Sie das Tempo oder geben Sie eine Zeit an.</translation>
  </message>
  <message>
   <source>The excerpt {0} to {1} is too short, or beyond the version’s end at {2}. Give it at least {3} s.</source>
   <translation>Der Auszug von {0} bis {1} ist zu kurz oder liegt hinter dem Ende der Version bei {2}. Geben Sie ihm mindestens {3} s.</translation>
  </message>
  <message>
   <source>The export was stopped before it began.</source>
   <translation>Der Export wurde abgebrochen, bevor er begann.</translation>
  </message>
  <message>
   <source>The fade at {0} is shortened to {1}: the song ends by then.</source>
   <translation>Die Blende bei {0} wird auf {1} gekürzt: Der Song endet dann.</translation>
  </message>
  <message>
   <source>The file the moment plays or its effect is made from.</source>
   <translation>Die Datei, die der Moment spielt oder aus der sein Effekt entsteht.</translation>
  </message>
  <message>
   <source>The finished version’s true peak stays below this.</source>
   <translation>Der True Peak der fertigen Version bleibt darunter.</translation>
  </message>
  <message>
   <source>The first bar of each two over both; the length stays.</source>
   <translation>Der erste von je zwei Takten über beide; die Länge bleibt.</translation>
  </message>
  <message>
   <source>The first half of each bar over the whole bar; the length stays.</source>
   <translation>Die erste Hälfte jedes Takts über den ganzen Takt; die Länge bleibt.</translation>
  </message>
  <message>
   <source>The first two bars of each four over all four; the length stays.</source>
   <translation>Die ersten zwei von je vier Takten über alle vier; die Länge bleibt.</translation>
  </message>
  <message>
   <source>The folder {0} cannot be made: {1}.</source>
   <translation>Der Ordner {0} lässt sich nicht anlegen: {1}.</translation>
  </message>
  <message>
   <source>The folder {0} cannot be made: {1}. Choose another.</source>
   <translation>Der Ordner {0} lässt sich nicht anlegen: {1}. Wählen Sie einen anderen.</translation>
  </message>
  <message>
   <source>The folder {0} does not exist. Make it, or choose another.</source>
   <translation>Den Ordner {0} gibt es nicht. Legen Sie ihn an oder wählen Sie einen anderen.</translation>
  </message>
  <message>
   <source>The folder {0} may not be written to. Choose another folder.</source>
   <translation>In den Ordner {0} darf nicht geschrieben werden. Wählen Sie einen anderen.</translation>
  </message>
  <message>
   <source>The highest point of the wave between the samples (ITU-R BS.1770).</source>
   <translation>Der höchste Punkt der Welle zwischen den Samples (ITU-R BS.1770).</translation>
  </message>
  <message>
   <source>The impulse response: one that ships with Late Spin, or a file of your own.</source>
   <translation>Die Impulsantwort: eine mitgelieferte oder eine eigene Datei.</translation>
  </message>
  <message>
   <source>The lane of “{0}” has {1} points; it can have 1 to {2}.</source>
   <translation>Die Automation von „{0}“ hat {1} Punkte; sie kann 1 bis {2} haben.</translation>
  </message>
  <message>
   <source>The last slice repeats ever more slowly and fades.</source>
   <translation>Der letzte Ausschnitt wiederholt sich immer langsamer und verklingt.</translation>
  </message>
  <message>
   <source>The limiter makes this no louder than {1} LUFS, with {2} dB of limiting; {0} LUFS is out of its reach. Compress it, or lower the loudness.</source>
   <translation>Lauter als {1} LUFS macht es der Limiter nicht, bei {2} dB Begrenzung; {0} LUFS erreicht er nicht. Komprimieren Sie das Stück oder senken Sie die Lautheit.</translation>
  </message>
  <message>
   <source>The limiter turns peaks down by this at most. If that is not enough, the version stays quieter.</source>
   <translation>Um so viel senkt der Limiter Spitzen höchstens. Reicht das nicht, bleibt die Version leiser.</translation>
  </message>
  <message>
   <source>The loudest passage</source>
   <translation>Die lauteste Passage</translation>
  </message>
  <message>
   <source>The loudness of this sound is undefined (it is silent or too short), so Level leaves it unchanged.</source>
   <translation>Die Lautheit dieses Klangs ist unbestimmt (er ist still oder zu kurz), deshalb lässt „Pegel“ ihn unverändert.</translation>
  </message>
  <message>
   <source>The loudspeaker that plays the song.</source>
   <translation>Der Lautsprecher, der den Song spielt.</translation>
  </message>
  <message>
   <source>The loudspeaker’s own hiss, where it has any.</source>
   <translation>Das Eigenrauschen des Lautsprechers, wo er eines hat.</translation>
  </message>
  <message>
   <source>The low-bass boost of a playback head.</source>
   <translation>Die Tiefbassanhebung eines Wiedergabekopfs.</translation>
  </message>
  <message>
   <source>The low-pass frequency at full depth. Lower is darker.</source>
   <translation>Frequenz des Tiefpasses in voller Tiefe. Niedriger ist dunkler.</translation>
  </message>
  <message>
   <source>The marked range</source>
   <translation>Der markierte Bereich</translation>
  </message>
  <message>
   <source>The most typical passage</source>
   <translation>Die typischste Passage</translation>
  </message>
  <message>
   <source>The name {0} is too long for this disk. Choose a shorter one.</source>
   <translation>Der Name {0} ist für diesen Datenträger zu lang. Wählen Sie einen kürzeren.</translation>
  </message>
  <message>
   <source>The naming pattern has no field {{{0}}}. It can have {1}.</source>
   <translation>Das Namensmuster kennt kein Feld {{{0}}}. Es kennt {1}.</translation>
  </message>
  <message>
   <source>The naming pattern is empty. Use something like {0}.</source>
   <translation>Das Namensmuster ist leer. Nehmen Sie etwa {0}.</translation>
  </message>
  <message>
   <source>The naming pattern leads out of its folder. Leave out “..”, “~” and slashes at its beginning and end.</source>
   <translation>Das Namensmuster führt aus seinem Ordner heraus. Lassen Sie „..“, „~“ und Schrägstriche am Anfang und Ende weg.</translation>
  </message>
  <message>
   <source>The naming pattern {0} gives no name for this song: all of its fields are empty. Add {{song}}.</source>
   <translation>Das Namensmuster {0} ergibt für diesen Song keinen Namen: Alle seine Felder sind leer. Fügen Sie {{song}} hinzu.</translation>
  </message>
  <message>
   <source>The needle falls back by one turn of the record, with a tick, again and again.</source>
   <translation>Die Nadel springt mit einem Knacks immer wieder um eine Umdrehung der Platte zurück.</translation>
  </message>
  <message>
   <source>The note the slice sounds at. It is written into the file, and the keys are in tune by it.</source>
   <translation>Der Ton, auf dem der Ausschnitt klingt. Er steht in der Datei, und die Tasten stimmen danach.</translation>
  </message>
  <message>
   <source>The output is being turned down.</source>
   <translation>Die Ausgabe wird leiser gestellt.</translation>
  </message>
  <message>
   <source>The package python-rtmidi is missing, so MIDI devices cannot be connected.</source>
   <translation>Das Paket python-rtmidi fehlt, deshalb lassen sich keine MIDI-Geräte verbinden.</translation>
  </message>
  <message>
   <source>The pad, looped once</source>
   <translation>Das Pad, einmal als Schleife</translation>
  </message>
  <message>
   <source>The pad, played twice: the loop point is in the middle.</source>
   <translation>Das Pad, zweimal gespielt: Der Schleifenpunkt liegt in der Mitte.</translation>
  </message>
  <message>
   <source>The past and the coming turn; the line is now. Above, the bearing of the song and its bars.
Each ear’s trace rises with its level and moves aside by the delay between the ears. For headphones.</source>
   <translation>Die vergangene und die kommende Runde; die Linie ist jetzt. Oben die Richtung des Songs und seine Takte.
Die Spur jedes Ohrs steigt mit dem Pegel und rückt um die Verzögerung zwischen den Ohren. Für Kopfhörer.</translation>
  </message>
  <message>
   <source>The peaks that this format adds hold the ceiling only at {0} LUFS.</source>
   <translation>Mit den Spitzen, die dieses Format hinzufügt, hält die Obergrenze nur bei {0} LUFS.</translation>
  </message>
  <message>
   <source>The pictures of {0} cannot be decoded.</source>
   <translation>Die Bilder von {0} lassen sich nicht dekodieren.</translation>
  </message>
  <message>
   <source>The pitch drifts at random instead of swinging evenly.</source>
   <translation>Die Tonhöhe driftet zufällig, statt gleichmäßig zu schwanken.</translation>
  </message>
  <message>
   <source>The pitch follows the speed, as on a turntable.</source>
   <translation>Die Tonhöhe folgt der Geschwindigkeit, wie auf dem Plattenspieler.</translation>
  </message>
  <message>
   <source>The pitch glides back by the end; off, it jumps back.</source>
   <translation>Die Tonhöhe gleitet bis zum Ende zurück; sonst springt sie zurück.</translation>
  </message>
  <message>
   <source>The pitch glides while the tempo stays.</source>
   <translation>Die Tonhöhe gleitet, das Tempo bleibt.</translation>
  </message>
  <message>
   <source>The pitch is {0} semitones higher than before: it follows the speed.</source>
   <translation>Die Tonhöhe ist {0} Halbtöne höher als zuvor: Sie folgt der Geschwindigkeit.</translation>
  </message>
  <message>
   <source>The pitch is {0} semitones lower than before: it follows the speed.</source>
   <translation>Die Tonhöhe ist {0} Halbtöne tiefer als zuvor: Sie folgt der Geschwindigkeit.</translation>
  </message>
  <message>
   <source>The pitch stays; the song is stretched in time.</source>
   <translation>Die Tonhöhe bleibt; der Song wird in der Zeit gedehnt.</translation>
  </message>
  <message>
   <source>The pitch swings, slowly or as flutter.</source>
   <translation>Die Tonhöhe schwankt, langsam oder als Flutter.</translation>
  </message>
  <message>
   <source>The practice surface cannot be connected: {0}.</source>
   <translation>Der Übungs-Controller lässt sich nicht verbinden: {0}.</translation>
  </message>
  <message>
   <source>The recipe “{0}” is among your own now.</source>
   <translation>Das Rezept „{0}“ gehört jetzt zu Ihren eigenen.</translation>
  </message>
  <message>
   <source>The recipe “{0}” is kept. On the command line it is called {1}.</source>
   <translation>Das Rezept „{0}“ ist gesichert. Auf der Befehlszeile heißt es {1}.</translation>
  </message>
  <message>
   <source>The repeats of a single beat: their level and time. With ping-pong, left repeats point up and right ones down.</source>
   <translation>Die Wiederholungen eines Schlags: Pegel und Zeit. Bei Ping-Pong zeigen linke nach oben, rechte nach unten.</translation>
  </message>
  <message>
   <source>The reverb loses its highs above this frequency.</source>
   <translation>Über dieser Frequenz verliert der Hall seine Höhen.</translation>
  </message>
  <message>
   <source>The reverb loses its highs above this frequency. Lower is darker and softer.</source>
   <translation>Über dieser Frequenz verliert der Hall seine Höhen. Niedriger ist dunkler und weicher.</translation>
  </message>
  <message>
   <source>The reverb of a single clap: its early reflections, then a line for each octave, 125 Hz darkest, 8 kHz lightest,
down to −60 dB. Dimmed while it is not heard.</source>
   <translation>Der Hall eines einzelnen Klatschens: frühe Reflexionen, dann eine Linie je Oktave, 125 Hz am dunkelsten, 8 kHz am hellsten,
bis −60 dB. Abgeblendet, solange er nicht zu hören ist.</translation>
  </message>
  <message>
   <source>The reverb rings until it has decayed, or fades out over a length of its own.</source>
   <translation>Der Hall klingt, bis er abgeklungen ist, oder blendet über eine eigene Länge aus.</translation>
  </message>
  <message>
   <source>The same for all files. Fields are filled in for each: {0}</source>
   <translation>Für alle Dateien gleich. Felder werden für jede eingesetzt: {0}</translation>
  </message>
  <message>
   <source>The samples of {0} reach beyond {1} times full scale. Scale them to ±1 first.</source>
   <translation>Die Samples von {0} reichen über das {1}-Fache der Vollaussteuerung hinaus. Skalieren Sie sie zuerst auf ±1.</translation>
  </message>
  <message>
   <source>The scheduler has no workers. Start some, and give the same command again to go on.</source>
   <translation>Der Scheduler hat keine Worker. Starten Sie welche und geben Sie denselben Befehl noch einmal, um fortzufahren.</translation>
  </message>
  <message>
   <source>The session was changed elsewhere</source>
   <translation>Die Sitzung wurde anderswo geändert</translation>
  </message>
  <message>
   <source>The session {0} has no song. Open it in the window and choose one.</source>
   <translation>Die Sitzung {0} hat keinen Song. Öffnen Sie sie im Fenster und wählen Sie einen.</translation>
  </message>
  <message>
   <source>The session {0} has no version “{1}”. It has {2}.</source>
   <translation>Die Sitzung {0} hat keine Version „{1}“. Sie hat {2}.</translation>
  </message>
  <message>
   <source>The share of the gain, in dB, that you hear.</source>
   <translation>Der Anteil der Verstärkung in dB, der zu hören ist.</translation>
  </message>
  <message>
   <source>The shelf goes down by this at most.</source>
   <translation>Um so viel senkt sich der Shelf höchstens.</translation>
  </message>
  <message>
   <source>The sides get the middle’s curve: the width stays as it is.</source>
   <translation>Die Seiten erhalten die Kurve der Mitte: Die Breite bleibt.</translation>
  </message>
  <message>
   <source>The sides get their own curve, but hardly narrower than the middle’s.</source>
   <translation>Die Seiten erhalten eine eigene Kurve, aber kaum schmaler als die Mitte.</translation>
  </message>
  <message>
   <source>The sides get their own curve, however much of them it takes.</source>
   <translation>Die Seiten erhalten eine eigene Kurve, wie viel es auch von ihnen nimmt.</translation>
  </message>
  <message>
   <source>The song as far as it has been read</source>
   <translation>Der Song, so weit er gelesen ist</translation>
  </message>
  <message>
   <source>The song comes back in time, or from where it stopped, which makes the version longer.</source>
   <translation>Der Song kommt in der Zeit zurück oder von dort, wo er anhielt; das macht die Version länger.</translation>
  </message>
  <message>
   <source>The song comes up to speed from a standstill.</source>
   <translation>Der Song läuft aus dem Stillstand an.</translation>
  </message>
  <message>
   <source>The song continues in time as if nothing had happened, or from where it stopped, which makes the version longer.</source>
   <translation>Der Song läuft in der Zeit weiter, als wäre nichts geschehen, oder von dort, wo er anhielt; das macht die Version länger.</translation>
  </message>
  <message>
   <source>The song goes at its speed.</source>
   <translation>Der Song läuft mit seiner Geschwindigkeit.</translation>
  </message>
  <message>
   <source>The song goes to another speed, and its pitch with it.</source>
   <translation>Der Song geht zu einer anderen Geschwindigkeit über, und die Tonhöhe mit.</translation>
  </message>
  <message>
   <source>The song has changed</source>
   <translation>Der Song hat sich geändert</translation>
  </message>
  <message>
   <source>The song in a real room, by its impulse response.</source>
   <translation>Der Song in einem echten Raum, durch dessen Impulsantwort.</translation>
  </message>
  <message>
   <source>The song is in {0} and stays so: it is now in {1}, which has the notes of {2}.</source>
   <translation>Der Song steht in {0} und bleibt dabei: Er ist jetzt in {1} und hat die Töne von {2}.</translation>
  </message>
  <message>
   <source>The song is not there</source>
   <translation>Der Song ist nicht da</translation>
  </message>
  <message>
   <source>The song of this work is not where it was: {0}. Show where it is</source>
   <translation>Der Song zu dieser Arbeit ist nicht mehr an seinem Ort: {0}. Zeigen Sie, wo er liegt</translation>
  </message>
  <message>
   <source>The song of {0} is not where it was:
{1}

If it was moved, show where it is now.</source>
   <translation>Der Song zu {0} ist nicht mehr an seinem Ort:
{1}

Falls er verschoben wurde, zeigen Sie, wo er jetzt liegt.</translation>
  </message>
  <message>
   <source>The song slows down and returns to its speed.</source>
   <translation>Der Song wird langsamer und kehrt zu seiner Geschwindigkeit zurück.</translation>
  </message>
  <message>
   <source>The song slows to a standstill and comes back.</source>
   <translation>Der Song läuft bis zum Stillstand aus und kommt zurück.</translation>
  </message>
  <message>
   <source>The song slows to a standstill.</source>
   <translation>Der Song läuft bis zum Stillstand aus.</translation>
  </message>
  <message>
   <source>The song stops on a beat and its last moments ring on in a reverb.</source>
   <translation>Der Song hält auf einem Beat an, und seine letzten Momente klingen im Hall weiter.</translation>
  </message>
  <message>
   <source>The song stops on a beat.</source>
   <translation>Der Song hält auf einem Beat an.</translation>
  </message>
  <message>
   <source>The song turns around the listener. For headphones.</source>
   <translation>Der Song kreist um den Hörer. Für Kopfhörer.</translation>
  </message>
  <message>
   <source>The song whose tone the version is brought towards.</source>
   <translation>Der Song, dessen Klangbild sich die Version nähert.</translation>
  </message>
  <message>
   <source>The song’s detected beats, bars and key, and how to correct them (G).</source>
   <translation>Erkannte Beats, Takte und Tonart des Songs, und wie man sie berichtigt (G).</translation>
  </message>
  <message>
   <source>The song’s own pictures</source>
   <translation>Die Bilder des Songs</translation>
  </message>
  <message>
   <source>The song’s own video</source>
   <translation>Das Video des Songs</translation>
  </message>
  <message>
   <source>The song’s spectrum without and with this effect</source>
   <translation>Das Spektrum des Songs ohne und mit diesem Effekt</translation>
  </message>
  <message>
   <source>The sound beneath the song: one that Late Spin makes, or a file of your own.</source>
   <translation>Der Klang unter dem Song: einer von Late Spin oder eine eigene Datei.</translation>
  </message>
  <message>
   <source>The sound contains invalid samples (NaN or infinity), which are silenced. Switch effects off one by one to find the cause.</source>
   <translation>Der Klang enthält ungültige Samples (NaN oder unendlich), die stumm gestellt sind. Schalten Sie Effekte einzeln aus, um die Ursache zu finden.</translation>
  </message>
  <message>
   <source>The speed as a percentage of the track’s. Type one to set the speed.</source>
   <translation>Die Geschwindigkeit in Prozent des Tracks. Eingeben, um sie zu setzen.</translation>
  </message>
  <message>
   <source>The speed at the end of the song. Type one, such as 1.15.</source>
   <translation>Die Geschwindigkeit am Ende des Songs. Geben Sie eine ein, etwa 1,15.</translation>
  </message>
  <message>
   <source>The speed at the start of the song. Type one, such as 0.9.</source>
   <translation>Die Geschwindigkeit am Anfang des Songs. Geben Sie eine ein, etwa 0,9.</translation>
  </message>
  <message>
   <source>The speed changes evenly from the chosen point to the next.</source>
   <translation>Die Geschwindigkeit ändert sich vom gewählten Punkt zum nächsten gleichmäßig.</translation>
  </message>
  <message>
   <source>The speed changes softly from the chosen point to the next.</source>
   <translation>Die Geschwindigkeit ändert sich vom gewählten Punkt zum nächsten weich.</translation>
  </message>
  <message>
   <source>The speed curve goes back from {0} to {1}; put its points in order of place.</source>
   <translation>Die Tempokurve geht von {0} auf {1} zurück; ordnen Sie ihre Punkte nach dem Platz.</translation>
  </message>
  <message>
   <source>The speed curve has three points at {0}; it can have two, which make a step.</source>
   <translation>Die Tempokurve hat drei Punkte bei {0}; möglich sind zwei, die eine Stufe bilden.</translation>
  </message>
  <message>
   <source>The speed it reaches, or the semitones the pitch moves by.</source>
   <translation>Die erreichte Geschwindigkeit, oder um wie viele Halbtöne sich die Tonhöhe bewegt.</translation>
  </message>
  <message>
   <source>The stage is off: the other stages set the loudness.</source>
   <translation>Die Stufe ist aus: Die anderen Stufen bestimmen die Lautheit.</translation>
  </message>
  <message>
   <source>The sum of left and right stays the song; off, one side is simply delayed.</source>
   <translation>Die Summe aus links und rechts bleibt der Song; sonst wird eine Seite einfach verzögert.</translation>
  </message>
  <message>
   <source>The tags of {0} are too large, and left out.</source>
   <translation>Die Tags von {0} sind zu groß und bleiben weg.</translation>
  </message>
  <message>
   <source>The take it was recorded in.</source>
   <translation>Der Take, in dem es aufgenommen wurde.</translation>
  </message>
  <message>
   <source>The tape’s own noise.</source>
   <translation>Das Eigenrauschen des Bands.</translation>
  </message>
  <message>
   <source>The time between two repeats.</source>
   <translation>Die Zeit zwischen zwei Wiederholungen.</translation>
  </message>
  <message>
   <source>The track as it is</source>
   <translation>Der Track, wie er ist</translation>
  </message>
  <message>
   <source>The undertone is the song below this frequency.</source>
   <translation>Der Unterton ist der Song unter dieser Frequenz.</translation>
  </message>
  <message>
   <source>The version ends as the track does.</source>
   <translation>Die Version endet wie der Track.</translation>
  </message>
  <message>
   <source>The version is only {0} long. Ask for a shorter excerpt, or export all of it.</source>
   <translation>Die Version ist nur {0} lang. Wählen Sie einen kürzeren Auszug oder exportieren Sie sie ganz.</translation>
  </message>
  <message>
   <source>The version’s hall</source>
   <translation>Der Hall der Version</translation>
  </message>
  <message>
   <source>The version’s tempo. Type one to set the speed; the track’s own is set in the header.</source>
   <translation>Das Tempo der Version. Eingeben, um die Geschwindigkeit zu setzen; das des Tracks steht in der Kopfzeile.</translation>
  </message>
  <message>
   <source>The video could not be written: {0}.</source>
   <translation>Das Video ließ sich nicht schreiben: {0}.</translation>
  </message>
  <message>
   <source>The whole song</source>
   <translation>Der ganze Song</translation>
  </message>
  <message>
   <source>The whole song at half speed, twice the length.</source>
   <translation>Der ganze Song mit halber Geschwindigkeit, doppelt so lang.</translation>
  </message>
  <message>
   <source>The whole version</source>
   <translation>Die ganze Version</translation>
  </message>
  <message>
   <source>The worker process crashed twice, perhaps for lack of memory. Try fewer files at a time.</source>
   <translation>Der Arbeitsprozess ist zweimal abgestürzt, vielleicht aus Speichermangel. Versuchen Sie es mit weniger Dateien zugleich.</translation>
  </message>
  <message>
   <source>The worker {0} cannot do Late Spin’s work: {1}. Install Late Spin there.</source>
   <translation>Der Worker {0} kann nicht für Late Spin arbeiten: {1}. Installieren Sie Late Spin dort.</translation>
  </message>
  <message>
   <source>The worker {0} has Late Spin {1}, and this is {2}. Install the same there.</source>
   <translation>Der Worker {0} hat Late Spin {1}, und dies ist {2}. Installieren Sie dort dieselbe Fassung.</translation>
  </message>
  <message>
   <source>There are no bars yet. Tap along, or type the track’s BPM.</source>
   <translation>Noch gibt es keine Takte. Tippen Sie mit oder geben Sie die BPM des Tracks ein.</translation>
  </message>
  <message>
   <source>There are no beats yet. Tap along, or type the track’s BPM.</source>
   <translation>Noch gibt es keine Beats. Tippen Sie mit oder geben Sie die BPM des Tracks ein.</translation>
  </message>
  <message>
   <source>There are no markers to export. X sets one.</source>
   <translation>Es gibt keine Marker zum Exportieren. X setzt einen.</translation>
  </message>
  <message>
   <source>There are no songs there. Give songs, or folders with songs in them.</source>
   <translation>Dort sind keine Songs. Geben Sie Songs an oder Ordner mit Songs.</translation>
  </message>
  <message>
   <source>There is a recipe “{0}” of yours already. Replace it?</source>
   <translation>Sie haben schon ein Rezept „{0}“. Ersetzen?</translation>
  </message>
  <message>
   <source>There is no effect to copy. Choose one in the Effects panel.</source>
   <translation>Es gibt keinen Effekt zum Kopieren. Wählen Sie einen im Feld „Effekte“.</translation>
  </message>
  <message>
   <source>There is no field {{{0}}}. A tag can have {1}.</source>
   <translation>Es gibt kein Feld {{{0}}}. Ein Tag kennt {1}.</translation>
  </message>
  <message>
   <source>There is no map “{0}” of a control surface. Use one of {1}, or a .json file.</source>
   <translation>Es gibt keine Controller-Belegung „{0}“. Nehmen Sie eine von {1} oder eine .json-Datei.</translation>
  </message>
  <message>
   <source>There is no marker after this place.</source>
   <translation>Nach dieser Stelle kommt kein Marker.</translation>
  </message>
  <message>
   <source>There is no marker before the playhead whose end this could be. X sets one.</source>
   <translation>Vor dem Abspielkopf liegt kein Marker, dessen Ende dies sein könnte. X setzt einen.</translation>
  </message>
  <message>
   <source>There is no marker before this place.</source>
   <translation>Vor dieser Stelle liegt kein Marker.</translation>
  </message>
  <message>
   <source>There is no recipe “{0}”. Use one of {1}, or a .json file.</source>
   <translation>Es gibt kein Rezept „{0}“. Nehmen Sie eines von {1} oder eine .json-Datei.</translation>
  </message>
  <message>
   <source>There is no room left on the disk for {0}. Free some space, or choose another disk.</source>
   <translation>Auf dem Datenträger ist kein Platz mehr für {0}. Schaffen Sie Platz oder wählen Sie einen anderen.</translation>
  </message>
  <message>
   <source>There is no scheduler at {0}: {1}. Check the address and that it runs.</source>
   <translation>Unter {0} ist kein Scheduler: {1}. Prüfen Sie die Adresse und ob er läuft.</translation>
  </message>
  <message>
   <source>There is no section before this one to join it with.</source>
   <translation>Vor diesem Abschnitt ist keiner, mit dem er sich verbinden ließe.</translation>
  </message>
  <message>
   <source>There is no “{0}”.</source>
   <translation>Es gibt kein „{0}“.</translation>
  </message>
  <message>
   <source>There is no “{0}”: bars are counted from 1, beats from 1 to {1}.</source>
   <translation>„{0}“ gibt es nicht: Takte zählen ab 1, Beats von 1 bis {1}.</translation>
  </message>
  <message>
   <source>There is not enough memory for this. Close other programs first.</source>
   <translation>Dafür reicht der Speicher nicht. Schließen Sie zuerst andere Programme.</translation>
  </message>
  <message>
   <source>There is not enough memory for this. Close other programs, or do fewer at a time.</source>
   <translation>Dafür reicht der Speicher nicht. Schließen Sie andere Programme oder machen Sie weniger zugleich.</translation>
  </message>
  <message>
   <source>There is not enough room in {0}: {1} would take about {2} MB, and {3} MB are free. Make room, or choose another folder.</source>
   <translation>In {0} ist nicht genug Platz: {1} würde etwa {2} MB brauchen, und {3} MB sind frei. Schaffen Sie Platz oder wählen Sie einen anderen Ordner.</translation>
  </message>
  <message>
   <source>There is nothing to be heard in the marked range. Mark another one.</source>
   <translation>Im markierten Bereich ist nichts zu hören. Markieren Sie einen anderen.</translation>
  </message>
  <message>
   <source>There is nothing to set here.</source>
   <translation>Hier gibt es nichts einzustellen.</translation>
  </message>
  <message>
   <source>There is too little to measure a tone from: it takes {0} s of sound. Choose a longer song or passage.</source>
   <translation>Das ist zu wenig, um ein Klangbild zu messen: Dazu braucht es {0} s Klang. Wählen Sie einen längeren Song oder Abschnitt.</translation>
  </message>
  <message>
   <source>These recipes have moments placed on different songs. Use one of them at a time.</source>
   <translation>Die Momente dieser Rezepte liegen auf verschiedenen Songs. Verwenden Sie eines nach dem anderen.</translation>
  </message>
  <message>
   <source>These songs, each in these versions</source>
   <translation>Diese Songs, jeder in diesen Versionen</translation>
  </message>
  <message>
   <source>Third-octave spectrum of the song without the effect (filled) and with it (outline), predicted from the effect’s settings.</source>
   <translation>Terzspektrum des Songs ohne den Effekt (gefüllt) und mit ihm (Umriss), vorhergesagt aus den Einstellungen.</translation>
  </message>
  <message>
   <source>This computer has no ALSA sequencer ({0}), so MIDI devices cannot be connected.</source>
   <translation>Dieser Rechner hat keinen ALSA-Sequenzer ({0}), deshalb lassen sich keine MIDI-Geräte verbinden.</translation>
  </message>
  <message>
   <source>This disk does not take the name {0}. Choose a plainer one.</source>
   <translation>Dieser Datenträger nimmt den Namen {0} nicht an. Wählen Sie einen schlichteren.</translation>
  </message>
  <message>
   <source>This file is one of the songs, which are never changed. Choose another folder or pattern.</source>
   <translation>Diese Datei ist einer der Songs, die nie verändert werden. Wählen Sie einen anderen Ordner oder ein anderes Muster.</translation>
  </message>
  <message>
   <source>This is silent, so that it has no tone. Choose another song or passage.</source>
   <translation>Das ist still und hat deshalb kein Klangbild. Wählen Sie einen anderen Song oder Abschnitt.</translation>
  </message>
  <message>
   <source>This one has no curve.</source>
   <translation>Dieser hat keine Kurve.</translation>
  </message>
  <message>
   <source>This session has changes that are not saved.</source>
   <translation>Diese Sitzung hat ungesicherte Änderungen.</translation>
  </message>
  <message>
   <source>This song has no bars to quantise to. Tap its tempo first.</source>
   <translation>Dieser Song hat keine Takte, auf die sich quantisieren ließe. Tippen Sie zuerst sein Tempo.</translation>
  </message>
  <message>
   <source>This song has no bars yet, so the moment is placed in seconds. Tap the tempo to place it on beats.</source>
   <translation>Dieser Song hat noch keine Takte, deshalb liegt der Moment auf einer Sekunde. Tippen Sie das Tempo, um ihn auf Beats zu setzen.</translation>
  </message>
  <message>
   <source>This song has no bars yet; give a time such as 1:02.5, or tap its tempo first.</source>
   <translation>Dieser Song hat noch keine Takte; geben Sie eine Zeit wie 1:02,5 an oder tippen Sie zuerst sein Tempo.</translation>
  </message>
  <message>
   <source>This song has no bars; the ending is placed in seconds, at {0}.</source>
   <translation>Dieser Song hat keine Takte; der Schluss liegt auf einer Zeit, bei {0}.</translation>
  </message>
  <message>
   <source>This song has no opening without drums.</source>
   <translation>Dieser Song hat keinen Anfang ohne Schlagzeug.</translation>
  </message>
  <message>
   <source>This song needs {0} GB in {1} while it is open: {2}. Make room there.</source>
   <translation>Dieser Song braucht {0} GB in {1}, solange er offen ist: {2}. Schaffen Sie dort Platz.</translation>
  </message>
  <message>
   <source>This version ends as the track does. Choose an ending in its panel (4).</source>
   <translation>Diese Version endet wie der Track. Wählen Sie im Feld „Schluss“ (4) einen anderen.</translation>
  </message>
  <message>
   <source>This version has no effects</source>
   <translation>Diese Version hat keine Effekte</translation>
  </message>
  <message>
   <source>Three beats instead of two, where dotted beats were detected instead of plain ones.</source>
   <translation>Drei Beats statt zwei, wo punktierte statt einfacher Beats erkannt wurden.</translation>
  </message>
  <message>
   <source>Threshold</source>
   <translation>Schwelle</translation>
  </message>
  <message>
   <source>Throw</source>
   <translation>Throw</translation>
  </message>
  <message>
   <source>Throw into</source>
   <translation>Throw in</translation>
  </message>
  <message>
   <source>Throw it away</source>
   <translation>Verwerfen</translation>
  </message>
  <message>
   <source>Tick</source>
   <translation>Knacks</translation>
  </message>
  <message>
   <source>Tick at least one version or recipe.</source>
   <translation>Wählen Sie mindestens eine Version oder ein Rezept.</translation>
  </message>
  <message>
   <source>Tick what is made of every song: versions of this session, and recipes.</source>
   <translation>Wählen Sie, was aus jedem Song wird: Versionen dieser Sitzung und Rezepte.</translation>
  </message>
  <message>
   <source>Ticks that come back once per turn, from a wear of 30 % on.</source>
   <translation>Ticks, die mit jeder Umdrehung wiederkehren, ab 30 % Abnutzung.</translation>
  </message>
  <message>
   <source>Tilt</source>
   <translation>Kippung</translation>
  </message>
  <message>
   <source>Tilts the turn: it rises on one side and falls on the other.</source>
   <translation>Neigt die Kreisbahn: Sie steigt auf einer Seite und sinkt auf der anderen.</translation>
  </message>
  <message>
   <source>Time</source>
   <translation>Zeit</translation>
  </message>
  <message>
   <source>Time for one turn around the head.</source>
   <translation>Zeit für eine Runde um den Kopf.</translation>
  </message>
  <message>
   <source>Time for the reverb to fall by 60 dB after the song has stopped.</source>
   <translation>Zeit, in der der Hall nach dem Ende des Songs um 60 dB abklingt.</translation>
  </message>
  <message>
   <source>Time for the reverb to fall by 60 dB.</source>
   <translation>Zeit, in der der Hall um 60 dB abklingt.</translation>
  </message>
  <message>
   <source>Time from a standstill to full speed.</source>
   <translation>Zeit vom Stillstand bis zur vollen Geschwindigkeit.</translation>
  </message>
  <message>
   <source>Time from the stop to silence.</source>
   <translation>Zeit vom Ende bis zur Stille.</translation>
  </message>
  <message>
   <source>Time of the first downbeat; negative where bar 1 begins before the track.</source>
   <translation>Zeit der ersten Eins; negativ, wo Takt 1 vor dem Track beginnt.</translation>
  </message>
  <message>
   <source>Time to a standstill.</source>
   <translation>Zeit bis zum Stillstand.</translation>
  </message>
  <message>
   <source>Time until it recovers. Shorter is denser, longer is smoother.</source>
   <translation>Zeit bis zur Erholung. Kürzer ist dichter, länger weicher.</translation>
  </message>
  <message>
   <source>Time until it turns down. Longer lets the start of each hit through.</source>
   <translation>Zeit bis zum Eingreifen. Länger lässt den Anfang jedes Schlags durch.</translation>
  </message>
  <message>
   <source>Time: tempo curve</source>
   <translation>Zeit: Tempokurve</translation>
  </message>
  <message>
   <source>Time: {0}</source>
   <translation>Zeit: {0}</translation>
  </message>
  <message>
   <source>Timing</source>
   <translation>Zeitmaß</translation>
  </message>
  <message>
   <source>To</source>
   <translation>Bis</translation>
  </message>
  <message>
   <source>To folder</source>
   <translation>Ordner</translation>
  </message>
  <message>
   <source>To speed</source>
   <translation>Zur Geschwindigkeit</translation>
  </message>
  <message>
   <source>To the &amp;start</source>
   <translation>Zum &amp;Anfang</translation>
  </message>
  <message>
   <source>To the left</source>
   <translation>Linksherum</translation>
  </message>
  <message>
   <source>To the right</source>
   <translation>Rechtsherum</translation>
  </message>
  <message>
   <source>To the start</source>
   <translation>Zum Anfang</translation>
  </message>
  <message>
   <source>Tone</source>
   <translation>Klang</translation>
  </message>
  <message>
   <source>Trac&amp;k</source>
   <translation>Trac&amp;k</translation>
  </message>
  <message>
   <source>Track’s BPM</source>
   <translation>BPM des Tracks</translation>
  </message>
  <message>
   <source>Track’s beats</source>
   <translation>Beats des Tracks</translation>
  </message>
  <message>
   <source>Transpose</source>
   <translation>Transponieren</translation>
  </message>
  <message>
   <source>Treble</source>
   <translation>Höhen</translation>
  </message>
  <message>
   <source>True peak</source>
   <translation>True Peak</translation>
  </message>
  <message>
   <source>Try again</source>
   <translation>Nochmals versuchen</translation>
  </message>
  <message>
   <source>Try on this song</source>
   <translation>An diesem Song ausprobieren</translation>
  </message>
  <message>
   <source>Try {0}</source>
   <translation>{0} ausprobieren</translation>
  </message>
  <message>
   <source>Tube</source>
   <translation>Röhre</translation>
  </message>
  <message>
   <source>Turn a knob of your control surface. Esc stops.</source>
   <translation>Drehen Sie einen Regler Ihres Controllers. Esc bricht ab.</translation>
  </message>
  <message>
   <source>Turn knobs</source>
   <translation>Regler drehen</translation>
  </message>
  <message>
   <source>Turns down what is louder than this, relative to the song’s loudness.</source>
   <translation>Macht leiser, was lauter ist, bezogen auf die Lautheit des Songs.</translation>
  </message>
  <message>
   <source>Turns down what is louder than this, relative to this part’s usual level.</source>
   <translation>Macht leiser, was lauter ist, bezogen auf den üblichen Pegel dieses Teils.</translation>
  </message>
  <message>
   <source>Turns loud parts down, so that quiet ones come forward.</source>
   <translation>Macht laute Stellen leiser, damit leise hervortreten.</translation>
  </message>
  <message>
   <source>Turns swells down, each band by itself, so that the pad stays even.</source>
   <translation>Dämpft Anschwellendes, jedes Band für sich, damit das Pad gleichmäßig bleibt.</translation>
  </message>
  <message>
   <source>Turns the highs down only while they are loud.</source>
   <translation>Senkt die Höhen nur, solange sie laut sind.</translation>
  </message>
  <message>
   <source>Turns the highs down where they are louder than this, relative to their usual level in the song.</source>
   <translation>Senkt die Höhen, wo sie lauter sind, bezogen auf ihren üblichen Pegel im Song.</translation>
  </message>
  <message>
   <source>Turns the layer down while the song is loud.</source>
   <translation>Macht die Ebene leiser, solange der Song laut ist.</translation>
  </message>
  <message>
   <source>Turns the reverb down while the song is loud. It comes up in the gaps.</source>
   <translation>Macht den Hall leiser, solange der Song laut ist. In den Lücken kommt er hervor.</translation>
  </message>
  <message>
   <source>Twice the length at half the tempo</source>
   <translation>Doppelte Länge bei halbem Tempo</translation>
  </message>
  <message>
   <source>Two beats instead of three, where triplets or dotted notes were taken for beats.</source>
   <translation>Zwei Beats statt drei, wo Triolen oder punktierte Noten für Beats gehalten wurden.</translation>
  </message>
  <message>
   <source>Two stages</source>
   <translation>Zwei Stufen</translation>
  </message>
  <message>
   <source>Type BPM; the speed is set to reach them. The track’s own are typed in the row of Before.</source>
   <translation>BPM eingeben; die Geschwindigkeit richtet sich danach. Die des Tracks stehen in der Zeile Vorher.</translation>
  </message>
  <message>
   <source>Type LUFS; the Level stage’s target is set to it.</source>
   <translation>LUFS eingeben; das Ziel der Stufe „Pegel“ richtet sich danach.</translation>
  </message>
  <message>
   <source>Type a key such as A minor or F♯; the transposition is set to reach it, the nearer way.</source>
   <translation>Geben Sie eine Tonart wie a-Moll oder F♯ ein; die Transposition erreicht sie auf dem kürzeren Weg.</translation>
  </message>
  <message>
   <source>Type a length such as 1:30; the speed is set to reach it.</source>
   <translation>Geben Sie eine Länge wie 1:30 ein; die Geschwindigkeit richtet sich danach.</translation>
  </message>
  <message>
   <source>Type dBTP; the Level stage’s ceiling is set to it.</source>
   <translation>dBTP eingeben; die Obergrenze der Stufe „Pegel“ richtet sich danach.</translation>
  </message>
  <message>
   <source>Type how long the marked range, or the whole song if none is marked, shall last in After.</source>
   <translation>Geben Sie ein, wie lange der markierte Bereich, sonst der ganze Song, in Nachher dauern soll.</translation>
  </message>
  <message>
   <source>Type semitones or cents; the transposition is set to reach it.</source>
   <translation>Halbtöne oder Cent eingeben; die Transposition richtet sich danach.</translation>
  </message>
  <message>
   <source>Type what you want in the table above: a length such as 2:30, a tempo or a key. Speed and pitch follow.</source>
   <translation>Tippen Sie oben in die Tabelle, was Sie wollen: eine Länge wie 2:30, ein Tempo oder eine Tonart. Geschwindigkeit und Tonhöhe folgen.</translation>
  </message>
  <message>
   <source>Under water</source>
   <translation>Unter Wasser</translation>
  </message>
  <message>
   <source>Undertone</source>
   <translation>Unterton</translation>
  </message>
  <message>
   <source>Undertone below</source>
   <translation>Unterton unter</translation>
  </message>
  <message>
   <source>Underwater</source>
   <translation>Unter Wasser</translation>
  </message>
  <message>
   <source>Unlock</source>
   <translation>Entsperren</translation>
  </message>
  <message>
   <source>Unprocessed, with one cover over a word. Cover more words in the Moments panel: silence, repeat, reverse or muffle.</source>
   <translation>Unbearbeitet, ein Wort abgedeckt. Weitere im Feld „Momente“: Stille, Wiederholung, rückwärts oder gedämpft.</translation>
  </message>
  <message>
   <source>Unprocessed; slows to a standstill over the last bar, in two stages.</source>
   <translation>Unbearbeitet; läuft über den letzten Takt in zwei Stufen aus.</translation>
  </message>
  <message>
   <source>Unprocessed; stops on a strong bar line while a hall rings on.</source>
   <translation>Unbearbeitet; hält auf einem starken Taktstrich an, während ein Hall weiterklingt.</translation>
  </message>
  <message>
   <source>Unprocessed; the last beat repeats ever more slowly over two bars.</source>
   <translation>Unbearbeitet; der letzte Beat wiederholt sich über zwei Takte immer langsamer.</translation>
  </message>
  <message>
   <source>Unsaved changes</source>
   <translation>Ungesicherte Änderungen</translation>
  </message>
  <message>
   <source>Unsaved work</source>
   <translation>Ungesicherte Arbeit</translation>
  </message>
  <message>
   <source>Untouched</source>
   <translation>Unberührt</translation>
  </message>
  <message>
   <source>Up, Down</source>
   <translation>Auf, Ab</translation>
  </message>
  <message>
   <source>Use a card with title, artist and version.</source>
   <translation>Eine Karte mit Titel, Interpret und Version verwenden.</translation>
  </message>
  <message>
   <source>Use a picture file as the cover.</source>
   <translation>Eine Bilddatei als Cover verwenden.</translation>
  </message>
  <message>
   <source>Use a recipe</source>
   <translation>Rezept verwenden</translation>
  </message>
  <message>
   <source>Use it as it is now</source>
   <translation>So verwenden, wie er jetzt ist</translation>
  </message>
  <message>
   <source>Use on this version</source>
   <translation>Auf diese Version anwenden</translation>
  </message>
  <message>
   <source>Use one of {0}.</source>
   <translation>Möglich ist {0}.</translation>
  </message>
  <message>
   <source>Use the &amp;detected beats</source>
   <translation>&amp;Erkannte Beats verwenden</translation>
  </message>
  <message>
   <source>Use the detected secti&amp;ons</source>
   <translation>Erkannte Abschnitte ver&amp;wenden</translation>
  </message>
  <message>
   <source>Use the detected sections</source>
   <translation>Erkannte Abschnitte verwenden</translation>
  </message>
  <message>
   <source>V&amp;iew</source>
   <translation>&amp;Ansicht</translation>
  </message>
  <message>
   <source>Variation</source>
   <translation>Variante</translation>
  </message>
  <message>
   <source>Verse</source>
   <translation>Strophe</translation>
  </message>
  <message>
   <source>Version</source>
   <translation>Version</translation>
  </message>
  <message>
   <source>Version {0}</source>
   <translation>Version {0}</translation>
  </message>
  <message>
   <source>Versions</source>
   <translation>Versionen</translation>
  </message>
  <message>
   <source>Versions and recipes</source>
   <translation>Versionen und Rezepte</translation>
  </message>
  <message>
   <source>Versions and recipes to export</source>
   <translation>Zu exportierende Versionen und Rezepte</translation>
  </message>
  <message>
   <source>Version’s effects</source>
   <translation>Effekte der Version</translation>
  </message>
  <message>
   <source>Video of “{0}”</source>
   <translation>Video von „{0}“</translation>
  </message>
  <message>
   <source>Vintage opening</source>
   <translation>Nostalgischer Anfang</translation>
  </message>
  <message>
   <source>Vinyl</source>
   <translation>Vinyl</translation>
  </message>
  <message>
   <source>Voice</source>
   <translation>Stimme</translation>
  </message>
  <message>
   <source>Voices change their size with the pitch, as on a turntable.</source>
   <translation>Stimmen ändern mit der Tonhöhe ihre Größe, wie auf dem Plattenspieler.</translation>
  </message>
  <message>
   <source>Voices keep their formants while their pitch moves.</source>
   <translation>Stimmen behalten ihre Formanten, während sich die Tonhöhe bewegt.</translation>
  </message>
  <message>
   <source>Volume</source>
   <translation>Lautstärke</translation>
  </message>
  <message>
   <source>WAV (*.wav)</source>
   <translation>WAV (*.wav)</translation>
  </message>
  <message>
   <source>WAV: lossless, opens everywhere</source>
   <translation>WAV: verlustfrei, öffnet überall</translation>
  </message>
  <message>
   <source>Waiting</source>
   <translation>Wartet</translation>
  </message>
  <message>
   <source>Waiting for Late Spin: open Play along there (P).</source>
   <translation>Wartet auf Late Spin: Öffnen Sie dort „Mitspielen“ (P).</translation>
  </message>
  <message>
   <source>Wanted: {0}</source>
   <translation>Gewünscht: {0}</translation>
  </message>
  <message>
   <source>Water</source>
   <translation>Wasser</translation>
  </message>
  <message>
   <source>Water sound</source>
   <translation>Wassergeräusch</translation>
  </message>
  <message>
   <source>Way to the next point</source>
   <translation>Weg zum nächsten Punkt</translation>
  </message>
  <message>
   <source>Wear</source>
   <translation>Abnutzung</translation>
  </message>
  <message>
   <source>WebM: VP9 and Opus, open</source>
   <translation>WebM: VP9 und Opus, offen</translation>
  </message>
  <message>
   <source>Wet</source>
   <translation>Wet</translation>
  </message>
  <message>
   <source>What each ear gets over the turn</source>
   <translation>Was jedes Ohr im Lauf der Runde hört</translation>
  </message>
  <message>
   <source>What each stage adds</source>
   <translation>Was jede Stufe beiträgt</translation>
  </message>
  <message>
   <source>What each stage adds to the loudness, each with all that come before it.</source>
   <translation>Was jede Stufe zur Lautheit beiträgt, jeweils mit allen vor ihr.</translation>
  </message>
  <message>
   <source>What files are called. Fields:</source>
   <translation>Wie Dateien heißen. Felder:</translation>
  </message>
  <message>
   <source>What fits</source>
   <translation>Treffer</translation>
  </message>
  <message>
   <source>What happens at a place in the song: tape stops, stutters, reversed words, a dive under water.</source>
   <translation>Was an einer Stelle geschieht: Tape-Stops, Stutter, umgedrehte Worte, ein Abtauchen.</translation>
  </message>
  <message>
   <source>What happens at places of this version.</source>
   <translation>Was an Stellen dieser Version geschieht.</translation>
  </message>
  <message>
   <source>What is heard now: momentary (400 ms) and short-term (3 s) loudness as bars;
integrated loudness and the highest true peak, since play was pressed or something was changed, as numbers.</source>
   <translation>Was gerade klingt: momentane (400 ms) und Kurzzeit-Lautheit (3 s) als Balken;
integrierte Lautheit und höchster True Peak, seit Beginn der Wiedergabe oder der letzten Änderung, als Zahlen.</translation>
  </message>
  <message>
   <source>What plays instead.</source>
   <translation>Was stattdessen klingt.</translation>
  </message>
  <message>
   <source>What time-stretching preserves best, and the formants of voices.</source>
   <translation>Was die Zeitdehnung am besten bewahrt, und die Formanten von Stimmen.</translation>
  </message>
  <message>
   <source>What will be written</source>
   <translation>Was geschrieben wird</translation>
  </message>
  <message>
   <source>What you can press here</source>
   <translation>Was Sie hier drücken können</translation>
  </message>
  <message>
   <source>When in the track, seconds.</source>
   <translation>Wann im Track, in Sekunden.</translation>
  </message>
  <message>
   <source>When, from the start of the range.</source>
   <translation>Wann, ab dem Anfang des Bereichs.</translation>
  </message>
  <message>
   <source>Where bar 1 begins in the track. Type a time such as 0:01.25; all beats move along.</source>
   <translation>Wo im Track Takt 1 beginnt. Geben Sie eine Zeit wie 0:01,25 ein; alle Beats rücken mit.</translation>
  </message>
  <message>
   <source>Where drums &amp;enter</source>
   <translation>&amp;Einsatz des Schlagzeugs</translation>
  </message>
  <message>
   <source>Where in the range the song is slowest.</source>
   <translation>Wo im Bereich der Song am langsamsten ist.</translation>
  </message>
  <message>
   <source>Where it begins: a bar (17), a bar and beat (17.3) or a time (1:02.345).</source>
   <translation>Wo es beginnt: ein Takt (17), Takt und Beat (17.3) oder eine Zeit (1:02,345).</translation>
  </message>
  <message>
   <source>Where it ends</source>
   <translation>Wo sie endet</translation>
  </message>
  <message>
   <source>Where it ends: a bar (19), a bar and beat (18.3) or a time (1:04.5).</source>
   <translation>Wo es endet: ein Takt (19), Takt und Beat (18.3) oder eine Zeit (1:04,5).</translation>
  </message>
  <message>
   <source>Where the first beat of a bar is in the track. Type a time such as 0:01.25.</source>
   <translation>Wo im Track der erste Beat eines Takts liegt. Geben Sie eine Zeit wie 0:01,25 ein.</translation>
  </message>
  <message>
   <source>Where the first turn begins: 0 is ahead, 90 is right, 180 is behind.</source>
   <translation>Wo die erste Runde beginnt: 0 ist vorn, 90 rechts, 180 hinten.</translation>
  </message>
  <message>
   <source>Where the reference was measured: its fullest passages, or those you type, such as 0:32-0:51, 1:04-1:20; “auto” finds them again.</source>
   <translation>Wo die Referenz gemessen wurde: ihre vollsten Passagen oder die eingegebenen, etwa 0:32-0:51, 1:04-1:20; „auto“ sucht sie neu.</translation>
  </message>
  <message>
   <source>Whether one turn is counted in bars or in seconds.</source>
   <translation>Ob eine Runde in Takten oder Sekunden zählt.</translation>
  </message>
  <message>
   <source>Whether {0} is taken from the recipe; otherwise it stays as the version has it.</source>
   <translation>Ob {0} aus dem Rezept kommt; sonst bleibt es wie in der Version.</translation>
  </message>
  <message>
   <source>Which beat, counted from bar 1; its first is 0.</source>
   <translation>Welcher Beat, ab Takt 1 gezählt; der erste ist 0.</translation>
  </message>
  <message>
   <source>Which sound track is the song?
Versions stay, but earlier steps can then not be undone.</source>
   <translation>Welche Tonspur ist der Song?
Versionen bleiben, aber frühere Schritte lassen sich dann nicht mehr zurücknehmen.</translation>
  </message>
  <message>
   <source>Which way it turns, seen from above.</source>
   <translation>Wie er sich dreht, von oben gesehen.</translation>
  </message>
  <message>
   <source>While the song plays, keeps every pad and knob you move as a take. Over a loop, each round adds to it (Ctrl+P).</source>
   <translation>Hält bei der Wiedergabe jedes bewegte Pad und jeden Regler als Take fest. In einer Schleife kommt mit jeder Runde etwas dazu (Strg+P).</translation>
  </message>
  <message>
   <source>Whole song</source>
   <translation>Ganzer Song</translation>
  </message>
  <message>
   <source>Whole song lasts</source>
   <translation>Ganzer Song dauert</translation>
  </message>
  <message>
   <source>Whole songs: steady tones and sharp drums at once.</source>
   <translation>Ganze Songs: stetige Töne und scharfes Schlagzeug zugleich.</translation>
  </message>
  <message>
   <source>Wide, for screens</source>
   <translation>Breit, für Bildschirme</translation>
  </message>
  <message>
   <source>Width</source>
   <translation>Breite</translation>
  </message>
  <message>
   <source>Width of the bend at the threshold. 0 is a hard knee.</source>
   <translation>Breite der Krümmung an der Schwelle. 0 ist ein hartes Knie.</translation>
  </message>
  <message>
   <source>Windows of a few pitch periods: words stay crisp; dense chords may roughen.</source>
   <translation>Fenster von wenigen Tonperioden: Worte bleiben deutlich; dichte Akkorde können rau werden.</translation>
  </message>
  <message>
   <source>Wobble</source>
   <translation>Leiern</translation>
  </message>
  <message>
   <source>Worst place</source>
   <translation>Schlimmste Stelle</translation>
  </message>
  <message>
   <source>Wow</source>
   <translation>Wow</translation>
  </message>
  <message>
   <source>Wow and flutter</source>
   <translation>Wow und Flutter</translation>
  </message>
  <message>
   <source>Write all files.</source>
   <translation>Schreibt alle Dateien.</translation>
  </message>
  <message>
   <source>Write beats and bars as a MIDI file’s tempo map or a CSV file.</source>
   <translation>Schreibt Beats und Takte als Tempospur einer MIDI-Datei oder als CSV-Datei.</translation>
  </message>
  <message>
   <source>Write the file without a cover.</source>
   <translation>Die Datei ohne Cover schreiben.</translation>
  </message>
  <message>
   <source>Write the recipe to a file, for others.</source>
   <translation>Schreibt das Rezept in eine Datei, für andere.</translation>
  </message>
  <message>
   <source>Writing markers</source>
   <translation>Marker werden geschrieben</translation>
  </message>
  <message>
   <source>Written</source>
   <translation>Geschrieben</translation>
  </message>
  <message>
   <source>Written before</source>
   <translation>Schon vorher geschrieben</translation>
  </message>
  <message>
   <source>Wrote {0}</source>
   <translation>{0} geschrieben</translation>
  </message>
  <message>
   <source>X marks the playhead, or the marked range. Double-click a label to change it.</source>
   <translation>X merkt den Abspielkopf oder den markierten Bereich. Doppelklick ändert eine Beschriftung.</translation>
  </message>
  <message>
   <source>Zoom &amp;in</source>
   <translation>&amp;Vergrößern</translation>
  </message>
  <message>
   <source>Zoom &amp;out</source>
   <translation>Ver&amp;kleinern</translation>
  </message>
  <message>
   <source>Zoom to four &amp;bars</source>
   <translation>Vier &amp;Takte zeigen</translation>
  </message>
  <message>
   <source>a song</source>
   <translation>einem Song</translation>
  </message>
  <message>
   <source>above the surface</source>
   <translation>über Wasser</translation>
  </message>
  <message>
   <source>add a point of the curve</source>
   <translation>Kurvenpunkt setzen</translation>
  </message>
  <message>
   <source>ahead</source>
   <translation>vorn</translation>
  </message>
  <message>
   <source>and {0} more</source>
   <translation>und {0} weitere</translation>
  </message>
  <message>
   <source>as it is</source>
   <translation>wie er ist</translation>
  </message>
  <message>
   <source>automated</source>
   <translation>automatisiert</translation>
  </message>
  <message>
   <source>bar {0}</source>
   <translation>Takt {0}</translation>
  </message>
  <message>
   <source>beat {0}</source>
   <translation>Beat {0}</translation>
  </message>
  <message>
   <source>behind</source>
   <translation>hinten</translation>
  </message>
  <message>
   <source>being measured …</source>
   <translation>wird gemessen …</translation>
  </message>
  <message>
   <source>both at once</source>
   <translation>beide zugleich</translation>
  </message>
  <message>
   <source>cancelled</source>
   <translation>abgebrochen</translation>
  </message>
  <message>
   <source>changed since export</source>
   <translation>seit dem Export geändert</translation>
  </message>
  <message>
   <source>changes over the song</source>
   <translation>ändert sich im Verlauf des Songs</translation>
  </message>
  <message>
   <source>clear the tempo curve</source>
   <translation>Tempokurve löschen</translation>
  </message>
  <message>
   <source>done</source>
   <translation>fertig</translation>
  </message>
  <message>
   <source>drive {0} dB</source>
   <translation>Drive {0} dB</translation>
  </message>
  <message>
   <source>drums</source>
   <translation>Schlagzeug</translation>
  </message>
  <message>
   <source>drums will lose their punch</source>
   <translation>das Schlagzeug verliert seinen Druck</translation>
  </message>
  <message>
   <source>drums will soften</source>
   <translation>das Schlagzeug wird weicher</translation>
  </message>
  <message>
   <source>end</source>
   <translation>Ende</translation>
  </message>
  <message>
   <source>evenly spaced</source>
   <translation>gleichmäßig</translation>
  </message>
  <message>
   <source>every {0} ms</source>
   <translation>alle {0} ms</translation>
  </message>
  <message>
   <source>exported</source>
   <translation>exportiert</translation>
  </message>
  <message>
   <source>fade</source>
   <translation>Blende</translation>
  </message>
  <message>
   <source>failed</source>
   <translation>gescheitert</translation>
  </message>
  <message>
   <source>formants kept</source>
   <translation>Formanten gehalten</translation>
  </message>
  <message>
   <source>formants {0}</source>
   <translation>Formanten {0}</translation>
  </message>
  <message>
   <source>halftime</source>
   <translation>Halftime</translation>
  </message>
  <message>
   <source>halftime bar by bar</source>
   <translation>Halftime Takt für Takt</translation>
  </message>
  <message>
   <source>halftime every 2 bars</source>
   <translation>Halftime je 2 Takte</translation>
  </message>
  <message>
   <source>halftime every 4 bars</source>
   <translation>Halftime je 4 Takte</translation>
  </message>
  <message>
   <source>held</source>
   <translation>gehalten</translation>
  </message>
  <message>
   <source>highs to {0}</source>
   <translation>Höhen bis {0}</translation>
  </message>
  <message>
   <source>hiss and tails will be drawn out</source>
   <translation>Rauschen und Ausklang werden lang gezogen</translation>
  </message>
  <message>
   <source>hold pitch</source>
   <translation>Tonhöhe halten</translation>
  </message>
  <message>
   <source>how long the version is</source>
   <translation>wie lang die Version ist</translation>
  </message>
  <message>
   <source>latched</source>
   <translation>gehalten</translation>
  </message>
  <message>
   <source>left</source>
   <translation>links</translation>
  </message>
  <message>
   <source>length</source>
   <translation>Länge</translation>
  </message>
  <message>
   <source>linked</source>
   <translation>gekoppelt</translation>
  </message>
  <message>
   <source>linked, transposed</source>
   <translation>gekoppelt, transponiert</translation>
  </message>
  <message>
   <source>lo-fi</source>
   <translation>Lo-fi</translation>
  </message>
  <message>
   <source>major</source>
   <translation>Dur</translation>
  </message>
  <message>
   <source>matched</source>
   <translation>angeglichen</translation>
  </message>
  <message>
   <source>minor</source>
   <translation>Moll</translation>
  </message>
  <message>
   <source>mono</source>
   <translation>mono</translation>
  </message>
  <message>
   <source>natural</source>
   <translation>natürlich</translation>
  </message>
  <message>
   <source>no cover</source>
   <translation>kein Cover</translation>
  </message>
  <message>
   <source>no limiting</source>
   <translation>keine Begrenzung</translation>
  </message>
  <message>
   <source>no tail</source>
   <translation>kein Ausklang</translation>
  </message>
  <message>
   <source>none</source>
   <translation>keine</translation>
  </message>
  <message>
   <source>not in this recipe</source>
   <translation>nicht in diesem Rezept</translation>
  </message>
  <message>
   <source>not in use</source>
   <translation>nicht belegt</translation>
  </message>
  <message>
   <source>octave down</source>
   <translation>Oktave tiefer</translation>
  </message>
  <message>
   <source>one turn {0} s</source>
   <translation>eine Runde {0} s</translation>
  </message>
  <message>
   <source>opens over the song</source>
   <translation>öffnet sich im Verlauf des Songs</translation>
  </message>
  <message>
   <source>over the song</source>
   <translation>im Verlauf des Songs</translation>
  </message>
  <message>
   <source>pitch held</source>
   <translation>Tonhöhe gehalten</translation>
  </message>
  <message>
   <source>pitch kept</source>
   <translation>Tonhöhe bleibt</translation>
  </message>
  <message>
   <source>recipe</source>
   <translation>Rezept</translation>
  </message>
  <message>
   <source>remove a point of the curve</source>
   <translation>Kurvenpunkt entfernen</translation>
  </message>
  <message>
   <source>reverb</source>
   <translation>Hall</translation>
  </message>
  <message>
   <source>right</source>
   <translation>rechts</translation>
  </message>
  <message>
   <source>session</source>
   <translation>Sitzung</translation>
  </message>
  <message>
   <source>sides {0:.0f} dB → {1:.0f} dB</source>
   <translation>Seiten {0:.0f} dB → {1:.0f} dB</translation>
  </message>
  <message>
   <source>silent {0} s later</source>
   <translation>{0} s später still</translation>
  </message>
  <message>
   <source>small speaker</source>
   <translation>kleiner Lautsprecher</translation>
  </message>
  <message>
   <source>smear</source>
   <translation>verwischt</translation>
  </message>
  <message>
   <source>sped up</source>
   <translation>sped up</translation>
  </message>
  <message>
   <source>speed curve</source>
   <translation>Tempokurve</translation>
  </message>
  <message>
   <source>stays the same</source>
   <translation>bleibt gleich</translation>
  </message>
  <message>
   <source>stereo</source>
   <translation>stereo</translation>
  </message>
  <message>
   <source>stop</source>
   <translation>Stopp</translation>
  </message>
  <message>
   <source>stopping …</source>
   <translation>wird beendet …</translation>
  </message>
  <message>
   <source>tape</source>
   <translation>Band</translation>
  </message>
  <message>
   <source>the album it is from</source>
   <translation>das Album, von dem er stammt</translation>
  </message>
  <message>
   <source>the first 8 bars</source>
   <translation>die ersten 8 Takte</translation>
  </message>
  <message>
   <source>the loudness asked for</source>
   <translation>die verlangte Lautheit</translation>
  </message>
  <message>
   <source>the marked range</source>
   <translation>den markierten Bereich</translation>
  </message>
  <message>
   <source>the point at {0} is left out: it lies before the one before it, or past the song’s end. Put the points in order.</source>
   <translation>der Punkt bei {0} entfällt: Er liegt vor seinem Vorgänger oder hinter dem Ende des Songs. Ordnen Sie die Punkte.</translation>
  </message>
  <message>
   <source>the song’s file name without its ending</source>
   <translation>der Dateiname des Songs ohne Endung</translation>
  </message>
  <message>
   <source>the song’s number in the set</source>
   <translation>die Nummer des Songs im Stapel</translation>
  </message>
  <message>
   <source>the song’s title, or its file’s name</source>
   <translation>der Titel des Songs oder der Name seiner Datei</translation>
  </message>
  <message>
   <source>the tempo moves with the song</source>
   <translation>das Tempo schwankt mit dem Song</translation>
  </message>
  <message>
   <source>the version’s beats per minute</source>
   <translation>die Beats pro Minute der Version</translation>
  </message>
  <message>
   <source>the version’s key</source>
   <translation>die Tonart der Version</translation>
  </message>
  <message>
   <source>the version’s or the recipe’s name</source>
   <translation>der Name der Version oder des Rezepts</translation>
  </message>
  <message>
   <source>the {0} files together</source>
   <translation>die {0} Dateien zusammen</translation>
  </message>
  <message>
   <source>transposed</source>
   <translation>transponiert</translation>
  </message>
  <message>
   <source>turned down by {0} dB</source>
   <translation>um {0} dB leiser gestellt</translation>
  </message>
  <message>
   <source>underwater</source>
   <translation>unter Wasser</translation>
  </message>
  <message>
   <source>up to {0} dB of limiting</source>
   <translation>bis zu {0} dB Begrenzung</translation>
  </message>
  <message>
   <source>voice</source>
   <translation>Stimme</translation>
  </message>
  <message>
   <source>voices will sound larger</source>
   <translation>Stimmen klingen größer</translation>
  </message>
  <message>
   <source>voices will sound smaller</source>
   <translation>Stimmen klingen kleiner</translation>
  </message>
  <message>
   <source>voices will thin</source>
   <translation>Stimmen werden dünner</translation>
  </message>
  <message>
   <source>waiting</source>
   <translation>wartet</translation>
  </message>
  <message>
   <source>were stopped</source>
   <translation>wurden abgebrochen</translation>
  </message>
  <message>
   <source>what comes</source>
   <translation>was kommt</translation>
  </message>
  <message>
   <source>who made it</source>
   <translation>wer ihn gemacht hat</translation>
  </message>
  <message>
   <source>words and drums will melt</source>
   <translation>Worte und Schlagzeug verschwimmen</translation>
  </message>
  <message>
   <source>written to {0}</source>
   <translation>geschrieben in {0}</translation>
  </message>
  <message>
   <source>{0:,} samples were beyond full scale and are clipped in {1}. Set a loudness, or write a .wav in floating point.</source>
   <translation>{0:,} Samples lagen über Vollaussteuerung und sind in {1} abgeschnitten. Setzen Sie eine Lautheit oder schreiben Sie eine .wav in Gleitkomma.</translation>
  </message>
  <message>
   <source>{0}
{1} Drag, wheel, arrow keys, or Return to type; double-click for {2}.</source>
   <translation>{0}
{1} Ziehen, Mausrad, Pfeiltasten oder Eingabetaste zum Tippen; Doppelklick für {2}.</translation>
  </message>
  <message>
   <source>{0}  ·  yours</source>
   <translation>{0}  ·  eigenes</translation>
  </message>
  <message>
   <source>{0} % deep</source>
   <translation>{0} % tief</translation>
  </message>
  <message>
   <source>{0} BPM ({1} %)</source>
   <translation>{0} BPM ({1} %)</translation>
  </message>
  <message>
   <source>{0} The map of the practice surface is used instead.</source>
   <translation>{0} Stattdessen gilt die Belegung des Übungs-Controllers.</translation>
  </message>
  <message>
   <source>{0} already exists and was left as it is. Choose another name, or allow overwriting.</source>
   <translation>{0} gibt es schon und blieb, wie es ist. Wählen Sie einen anderen Namen oder erlauben Sie das Überschreiben.</translation>
  </message>
  <message>
   <source>{0} bar</source>
   <translation>{0} Takt</translation>
  </message>
  <message>
   <source>{0} bars</source>
   <translation>{0} Takte</translation>
  </message>
  <message>
   <source>{0} beat</source>
   <translation>{0} Beat</translation>
  </message>
  <message>
   <source>{0} beat later ({1} %)</source>
   <translation>{0} Beat später ({1} %)</translation>
  </message>
  <message>
   <source>{0} beats</source>
   <translation>{0} Beats</translation>
  </message>
  <message>
   <source>{0} beats and bars</source>
   <translation>{0} Beats und Takte</translation>
  </message>
  <message>
   <source>{0} beats to a bar; how likely it is. Puts the beats there and switches the click on (K).</source>
   <translation>{0} Beats pro Takt und wie wahrscheinlich das ist. Setzt die Beats dorthin und schaltet den Klick ein (K).</translation>
  </message>
  <message>
   <source>{0} cannot be the name of a file. Choose another name.</source>
   <translation>{0} kann kein Dateiname sein. Wählen Sie einen anderen.</translation>
  </message>
  <message>
   <source>{0} cannot be the name of a file. Choose another.</source>
   <translation>{0} kann kein Dateiname sein. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} cannot hold depth {1}.</source>
   <translation>{0} kennt die Bittiefe {1} nicht.</translation>
  </message>
  <message>
   <source>{0} cannot hold {1} Hz. Choose 48,000 Hz or another format.</source>
   <translation>{0} kann {1} Hz nicht enthalten. Wählen Sie 48.000 Hz oder ein anderes Format.</translation>
  </message>
  <message>
   <source>{0} cents now</source>
   <translation>jetzt {0} Cent</translation>
  </message>
  <message>
   <source>{0} changes</source>
   <translation>{0} ändert sich</translation>
  </message>
  <message>
   <source>{0} changes nothing on this version.</source>
   <translation>{0} ändert an dieser Version nichts.</translation>
  </message>
  <message>
   <source>{0} channels</source>
   <translation>{0} Kanäle</translation>
  </message>
  <message>
   <source>{0} channels, folded to stereo</source>
   <translation>{0} Kanäle, auf Stereo gemischt</translation>
  </message>
  <message>
   <source>{0} could not be read as a SOFA file: {1}. Choose another file.</source>
   <translation>{0} ließ sich nicht als SOFA-Datei lesen: {1}. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} could not be read: {1}.</source>
   <translation>{0} ließ sich nicht lesen: {1}.</translation>
  </message>
  <message>
   <source>{0} could not be written: {1}</source>
   <translation>{0} ließ sich nicht schreiben: {1}</translation>
  </message>
  <message>
   <source>{0} could not be written: {1}.</source>
   <translation>{0} ließ sich nicht schreiben: {1}.</translation>
  </message>
  <message>
   <source>{0} counts its time in frames of film or not at all, not in beats. Choose another file.</source>
   <translation>{0} zählt die Zeit in Filmbildern oder gar nicht, nicht in Beats. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} dB now, {1} dB at most</source>
   <translation>jetzt {0} dB, höchstens {1} dB</translation>
  </message>
  <message>
   <source>{0} did not fit the beats: ranges turned over became positions, starts before the song moved to its start.</source>
   <translation>{0} passten nicht zu den Beats: Umgedrehte Bereiche wurden zu Stellen, Anfänge vor dem Song rückten an seinen Anfang.</translation>
  </message>
  <message>
   <source>{0} does not exist. Check the name and the folder.</source>
   <translation>{0} gibt es nicht. Prüfen Sie Namen und Ordner.</translation>
  </message>
  <message>
   <source>{0} exports are</source>
   <translation>{0} Exporte werden</translation>
  </message>
  <message>
   <source>{0} files, about {1} MB.</source>
   <translation>{0} Dateien, etwa {1} MB.</translation>
  </message>
  <message>
   <source>{0} follows the SOFA convention “{1}”; a listener’s ears come as {2}. Choose another file.</source>
   <translation>{0} folgt der SOFA-Konvention „{1}“; die Ohren eines Hörers stehen in {2}. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} frames a second</source>
   <translation>{0} Bilder pro Sekunde</translation>
  </message>
  <message>
   <source>{0} from {1}</source>
   <translation>{0} ab {1}</translation>
  </message>
  <message>
   <source>{0} goes on for more than {1} beats. Choose another file.</source>
   <translation>{0} hat mehr als {1} Beats. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} has a sample rate of {1} Hz; Late Spin opens {2} to {3} Hz. Convert it to 44,100 or 48,000 Hz first.</source>
   <translation>{0} hat eine Abtastrate von {1} Hz; Late Spin öffnet {2} bis {3} Hz. Wandeln Sie die Datei zuerst in 44.100 oder 48.000 Hz um.</translation>
  </message>
  <message>
   <source>{0} has appeared meanwhile and was left as it is. Choose another name.</source>
   <translation>{0} ist inzwischen aufgetaucht und blieb, wie es ist. Wählen Sie einen anderen Namen.</translation>
  </message>
  <message>
   <source>{0} has changed since it was planned. Start the export again.</source>
   <translation>{0} hat sich seit der Planung geändert. Starten Sie den Export noch einmal.</translation>
  </message>
  <message>
   <source>{0} has fewer than two beats. Choose another file.</source>
   <translation>{0} hat weniger als zwei Beats. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} has more than {1} messages. Cut it into shorter files.</source>
   <translation>{0} hat mehr als {1} Nachrichten. Teilen Sie sie in kürzere Dateien.</translation>
  </message>
  <message>
   <source>{0} has no bitrate to choose: it is lossless. Leave it out.</source>
   <translation>Bei {0} lässt sich keine Bitrate wählen: Das Format ist verlustfrei. Lassen Sie sie weg.</translation>
  </message>
  <message>
   <source>{0} has no ending of a video. Use one of {1}.</source>
   <translation>{0} hat keine Endung eines Videos. Möglich ist {1}.</translation>
  </message>
  <message>
   <source>{0} has no ending that names a format. Use one of {1}.</source>
   <translation>{0} hat keine Endung, die ein Format nennt. Möglich ist {1}.</translation>
  </message>
  <message>
   <source>{0} has no moving pictures. Choose a picture for the video.</source>
   <translation>{0} hat keine bewegten Bilder. Wählen Sie ein Bild für das Video.</translation>
  </message>
  <message>
   <source>{0} has no notes and no control changes. Choose a file with a performance.</source>
   <translation>{0} hat weder Noten noch Controller-Bewegungen. Wählen Sie eine Datei, in der gespielt wird.</translation>
  </message>
  <message>
   <source>{0} has no other sound track.</source>
   <translation>{0} hat keine andere Tonspur.</translation>
  </message>
  <message>
   <source>{0} has no sound track {1}; it has {2}. Choose another.</source>
   <translation>{0} hat keine Tonspur {1}; es sind {2}. Wählen Sie eine andere.</translation>
  </message>
  <message>
   <source>{0} has no usable responses (rate {1} Hz). Choose another file.</source>
   <translation>{0} hat keine brauchbaren Impulsantworten (Abtastrate {1} Hz). Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} has positions or delays of another shape than its responses. Choose another file.</source>
   <translation>In {0} passen Positionen oder Verzögerungen in ihrer Anzahl nicht zu den Impulsantworten. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} has positions or delays that are not usable numbers. Choose another file.</source>
   <translation>{0} hat Positionen oder Verzögerungen, die keine brauchbaren Zahlen sind. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} has responses of the shape {1}; they should be [directions, 2 ears, frames].</source>
   <translation>{0} hat Impulsantworten der Form {1}; sie sollten [Richtungen, 2 Ohren, Frames] sein.</translation>
  </message>
  <message>
   <source>{0} has {1:.0f} megapixels; at most {2:.0f} can be used. Make it smaller first.</source>
   <translation>{0} hat {1:.0f} Megapixel; höchstens {2:.0f} sind möglich. Verkleinern Sie es zuerst.</translation>
  </message>
  <message>
   <source>{0} has {1} BPM; the grid can have {2} to {3}.</source>
   <translation>{0} hat {1} BPM; das Raster kann {2} bis {3} haben.</translation>
  </message>
  <message>
   <source>{0} has {1} beats; it can have {2}. Choose another file.</source>
   <translation>{0} hat {1} Beats; möglich sind {2}. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} has {1} channels; Late Spin opens 1 to {2}. Mix it down first.</source>
   <translation>{0} hat {1} Kanäle; Late Spin öffnet 1 bis {2}. Mischen Sie die Datei zuerst herunter.</translation>
  </message>
  <message>
   <source>{0} has {1} directions; it can have {2} to {3}.</source>
   <translation>{0} hat {1} Richtungen; möglich sind {2} bis {3}.</translation>
  </message>
  <message>
   <source>{0} has {1} sound tracks; number {2} is the song.</source>
   <translation>{0} hat {1} Tonspuren; Nummer {2} ist der Song.</translation>
  </message>
  <message>
   <source>{0} has {1} sound tracks; the first one is used.</source>
   <translation>{0} hat {1} Tonspuren; die erste wird verwendet.</translation>
  </message>
  <message>
   <source>{0} holds no markers. Choose another file.</source>
   <translation>{0} enthält keine Marker. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} holds no pictures that can be read, or they begin after the version ends.</source>
   <translation>{0} enthält keine lesbaren Bilder, oder sie beginnen erst nach dem Ende der Version.</translation>
  </message>
  <message>
   <source>{0} holds no sound of a kind that can be decoded. Choose a file with a sound track.</source>
   <translation>{0} enthält keinen Ton, der sich dekodieren lässt. Wählen Sie eine Datei mit Tonspur.</translation>
  </message>
  <message>
   <source>{0} holds no sound. Choose a file with a sound track.</source>
   <translation>{0} enthält keinen Ton. Wählen Sie eine Datei mit Tonspur.</translation>
  </message>
  <message>
   <source>{0} holds no sound: it is 0 frames long. Choose another file.</source>
   <translation>{0} enthält keinen Ton: Die Datei ist 0 Frames lang. Wählen Sie eine andere.</translation>
  </message>
  <message>
   <source>{0} holds no tempo. Choose another file.</source>
   <translation>{0} enthält kein Tempo. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} holds {1} markers; a session can have {2}.</source>
   <translation>{0} enthält {1} Marker; eine Sitzung kann {2} haben.</translation>
  </message>
  <message>
   <source>{0} holds {1} samples that are not numbers of sound; they are played as silence.</source>
   <translation>{0} enthält {1} Samples, die keine gültigen Zahlen sind; sie werden als Stille gespielt.</translation>
  </message>
  <message>
   <source>{0} is a file that this is made from; those are never changed. Choose another name.</source>
   <translation>{0} ist eine der Quelldateien; die werden nie verändert. Wählen Sie einen anderen Namen.</translation>
  </message>
  <message>
   <source>{0} is a folder. Add a file name to it.</source>
   <translation>{0} ist ein Ordner. Hängen Sie einen Dateinamen an.</translation>
  </message>
  <message>
   <source>{0} is a folder. Choose a file in it.</source>
   <translation>{0} ist ein Ordner. Wählen Sie eine Datei darin.</translation>
  </message>
  <message>
   <source>{0} is a link that leads round in a circle. Choose another file.</source>
   <translation>{0} ist ein Verweis, der im Kreis führt. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is a link that leads round in a circle. Choose another name.</source>
   <translation>{0} ist ein Verweis, der im Kreis führt. Wählen Sie einen anderen Namen.</translation>
  </message>
  <message>
   <source>{0} is back; the sound goes there.</source>
   <translation>{0} ist wieder da; der Ton geht dorthin.</translation>
  </message>
  <message>
   <source>{0} is being written. Keep the button pressed, or drag it from the list below.</source>
   <translation>{0} wird geschrieben. Halten Sie die Taste gedrückt, oder ziehen Sie die Datei nachher aus der Liste unten.</translation>
  </message>
  <message>
   <source>{0} is cut off: {1} s could be read and are used.</source>
   <translation>{0} ist abgeschnitten: {1} s waren lesbar und werden verwendet.</translation>
  </message>
  <message>
   <source>{0} is cut off: {1} s of {2} s could be read and are used.</source>
   <translation>{0} ist abgeschnitten: {1} s von {2} s waren lesbar und werden verwendet.</translation>
  </message>
  <message>
   <source>{0} is damaged: it has cue points, but no format. Choose another file.</source>
   <translation>{0} ist beschädigt: Cue-Punkte sind da, aber kein Format. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is damaged: one of its chunks is too short. Choose another file.</source>
   <translation>{0} ist beschädigt: Einer der Chunks ist zu kurz. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is empty (0 bytes). Choose another file.</source>
   <translation>{0} ist leer (0 Bytes). Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is gone; the sound goes to the system’s device.</source>
   <translation>{0} ist weg; der Ton geht an das Gerät des Systems.</translation>
  </message>
  <message>
   <source>{0} is larger than such files are ({1} MB at most). Choose another file.</source>
   <translation>{0} ist größer, als solche Dateien sind (höchstens {1} MB). Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is larger than such files are. Choose another file.</source>
   <translation>{0} ist größer, als solche Dateien sind. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is longer than {1} hours; the rest of it is left out.</source>
   <translation>{0} ist länger als {1} Stunden; der Rest bleibt weg.</translation>
  </message>
  <message>
   <source>{0} is not CSV text ({1}). Choose another file.</source>
   <translation>{0} ist kein CSV-Text ({1}). Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a Standard MIDI File ({1}). Choose another file.</source>
   <translation>{0} ist keine Standard-MIDI-Datei ({1}). Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a Standard MIDI File, or it is damaged. Choose another file.</source>
   <translation>{0} ist keine Standard-MIDI-Datei oder beschädigt. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a file but a device or a pipe. Choose a file.</source>
   <translation>{0} ist keine Datei, sondern ein Gerät oder eine Pipe. Wählen Sie eine Datei.</translation>
  </message>
  <message>
   <source>{0} is not a file but a device or a pipe. Choose another name.</source>
   <translation>{0} ist keine Datei, sondern ein Gerät oder eine Pipe. Wählen Sie einen anderen Namen.</translation>
  </message>
  <message>
   <source>{0} is not a map of a control surface: it is not JSON. Choose another file.</source>
   <translation>{0} ist keine Controller-Belegung: Das ist kein JSON. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a map of a control surface: its format should be “{1}”. Choose another file.</source>
   <translation>{0} ist keine Controller-Belegung: Das Format sollte „{1}“ sein. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a picture that can be read ({1}). Choose another.</source>
   <translation>{0} ist kein lesbares Bild ({1}). Wählen Sie ein anderes.</translation>
  </message>
  <message>
   <source>{0} is not a sound file that can be read: nothing in it could be decoded.</source>
   <translation>{0} ist keine lesbare Tondatei: Nichts darin ließ sich dekodieren.</translation>
  </message>
  <message>
   <source>{0} is not a sound or video file that can be read. Choose another file.</source>
   <translation>{0} ist keine lesbare Ton- oder Videodatei. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a {1}: it is nested too deeply, or its numbers are too large. Choose another file.</source>
   <translation>{0} lässt sich nicht als {1} lesen: zu tief verschachtelt, oder die Zahlen sind zu groß. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a {1}: it is nested too deeply. Choose another file.</source>
   <translation>{0} lässt sich nicht als {1} lesen: zu tief verschachtelt. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a {1}: it is not JSON ({2}). Choose another file.</source>
   <translation>{0} lässt sich nicht als {1} lesen: Das ist kein JSON ({2}). Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not a {1}: its format should be “{2}”. Choose another file.</source>
   <translation>{0} lässt sich nicht als {1} lesen: Das Format sollte „{2}“ sein. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} is not the same file as when {1} was saved.</source>
   <translation>{0} ist nicht mehr dieselbe Datei wie beim Sichern von {1}.</translation>
  </message>
  <message>
   <source>{0} is not there. Give songs, or folders with songs in them.</source>
   <translation>{0} ist nicht da. Geben Sie Songs an oder Ordner mit Songs.</translation>
  </message>
  <message>
   <source>{0} is not unsaved work of Late Spin.</source>
   <translation>{0} ist keine ungesicherte Arbeit von Late Spin.</translation>
  </message>
  <message>
   <source>{0} is silent. Choose another sound.</source>
   <translation>{0} ist still. Wählen Sie einen anderen Klang.</translation>
  </message>
  <message>
   <source>{0} is there already and was not written by Late Spin. Move it away first.</source>
   <translation>{0} ist schon da und stammt nicht von Late Spin. Verschieben Sie es zuerst.</translation>
  </message>
  <message>
   <source>{0} is too long for the name of a file. Choose another.</source>
   <translation>{0} ist als Dateiname zu lang. Wählen Sie einen anderen.</translation>
  </message>
  <message>
   <source>{0} is written; files copied beside it: {1}.</source>
   <translation>{0} ist geschrieben; daneben kopierte Dateien: {1}.</translation>
  </message>
  <message>
   <source>{0} is {1}; it can be {2} to {3}.</source>
   <translation>{0} ist {1}; möglich ist {2} bis {3}.</translation>
  </message>
  <message>
   <source>{0} kHz</source>
   <translation>{0} kHz</translation>
  </message>
  <message>
   <source>{0} kbit/s</source>
   <translation>{0} kbit/s</translation>
  </message>
  <message>
   <source>{0} knobs</source>
   <translation>{0} Regler</translation>
  </message>
  <message>
   <source>{0} lacks a part that SOFA files have: {1}. Choose another file.</source>
   <translation>In {0} fehlt, was SOFA-Dateien haben: {1}. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>{0} lasts {1}; only its first {2} are used.</source>
   <translation>{0} dauert {1}; nur die ersten {2} werden verwendet.</translation>
  </message>
  <message>
   <source>{0} may not be read: you have no permission. Change it, or copy the file.</source>
   <translation>{0} darf nicht gelesen werden: Ihnen fehlt das Recht dazu. Ändern Sie es oder kopieren Sie die Datei.</translation>
  </message>
  <message>
   <source>{0} moments</source>
   <translation>{0} Momente</translation>
  </message>
  <message>
   <source>{0} more</source>
   <translation>{0} weitere</translation>
  </message>
  <message>
   <source>{0} moves</source>
   <translation>{0} Aktionen</translation>
  </message>
  <message>
   <source>{0} needs the columns {1} in its first line.</source>
   <translation>{0} braucht in der ersten Zeile die Spalten {1}.</translation>
  </message>
  <message>
   <source>{0} noted. Leave blind mode to see which.</source>
   <translation>{0} notiert. Beenden Sie den Blindmodus, um zu sehen, was es war.</translation>
  </message>
  <message>
   <source>{0} of the take’s moves and knobs are not in the file: this map has no pad or knob for them.</source>
   <translation>{0} Aktionen und Regler des Takes fehlen in der Datei: Diese Belegung hat kein Pad und keinen Regler dafür.</translation>
  </message>
  <message>
   <source>{0} of {1} files are written to {2}. The report is {3}.</source>
   <translation>{0} von {1} Dateien sind in {2} geschrieben. Der Bericht ist {3}.</translation>
  </message>
  <message>
   <source>{0} of {1} files cannot be written as planned; nothing was begun.</source>
   <translation>{0} von {1} Dateien können nicht wie geplant geschrieben werden; begonnen wurde nichts.</translation>
  </message>
  <message>
   <source>{0} of {1} markers lie past the song’s end and are left out.</source>
   <translation>{0} von {1} Markern liegen hinter dem Ende des Songs und bleiben weg.</translation>
  </message>
  <message>
   <source>{0} on</source>
   <translation>{0} ein</translation>
  </message>
  <message>
   <source>{0} once more</source>
   <translation>{0} noch einmal</translation>
  </message>
  <message>
   <source>{0} points</source>
   <translation>{0} Punkte</translation>
  </message>
  <message>
   <source>{0} repeats, {1}</source>
   <translation>{0} Wiederholungen, {1}</translation>
  </message>
  <message>
   <source>{0} s</source>
   <translation>{0} s</translation>
  </message>
  <message>
   <source>{0} s of the song, smeared to about {1}{2}.</source>
   <translation>{0} s des Songs, verwischt auf etwa {1}{2}.</translation>
  </message>
  <message>
   <source>{0} says format_version {1}; a map has {2}.</source>
   <translation>{0} nennt format_version {1}; eine Belegung hat {2}.</translation>
  </message>
  <message>
   <source>{0} says format_version {1}; a {2} has {3}.</source>
   <translation>{0} nennt format_version {1}; bei {2} ist es {3}.</translation>
  </message>
  <message>
   <source>{0} stage</source>
   <translation>Stufe {0}</translation>
  </message>
  <message>
   <source>{0} still being written. Stop and leave no file?</source>
   <translation>{0} noch geschrieben. Abbrechen und keine Datei hinterlassen?</translation>
  </message>
  <message>
   <source>{0} tempo curve</source>
   <translation>Tempokurve {0}</translation>
  </message>
  <message>
   <source>{0} to {1} of the version, {2} s</source>
   <translation>{0} bis {1} der Version, {2} s</translation>
  </message>
  <message>
   <source>{0} to {1}.</source>
   <translation>{0} bis {1}.</translation>
  </message>
  <message>
   <source>{0} was not imported: another version is open now.</source>
   <translation>{0} wurde nicht importiert: Inzwischen ist eine andere Version offen.</translation>
  </message>
  <message>
   <source>{0} was saved by a newer Late Spin (format {1}; this one reads up to {2}). Update Late Spin to open it.</source>
   <translation>{0} wurde von einem neueren Late Spin gesichert (Format {1}; dieses liest bis {2}). Aktualisieren Sie Late Spin, um es zu öffnen.</translation>
  </message>
  <message>
   <source>{0} was saved by another window or program after it was opened here. Saving now would lose those changes.</source>
   <translation>{0} wurde von einem anderen Fenster oder Programm gesichert, nachdem es hier geöffnet wurde. Jetzt zu sichern würde jene Änderungen verlieren.</translation>
  </message>
  <message>
   <source>{0} would be larger than files may be here. Choose another disk or format, or raise the limit (ulimit -f).</source>
   <translation>{0} würde größer, als Dateien hier sein dürfen. Wählen Sie einen anderen Datenträger oder ein anderes Format, oder heben Sie die Grenze an (ulimit -f).</translation>
  </message>
  <message>
   <source>{0} {1} at {2}</source>
   <translation>{0} {1} bei {2}</translation>
  </message>
  <message>
   <source>{0} {1} cannot be written as planned: see the last column.</source>
   <translation>{0} {1} lässt sich nicht wie geplant schreiben: siehe letzte Spalte.</translation>
  </message>
  <message>
   <source>{0} µs {1} first</source>
   <translation>{0} µs {1} zuerst</translation>
  </message>
  <message>
   <source>{0}, all off</source>
   <translation>{0}, alle aus</translation>
  </message>
  <message>
   <source>{0}, as in this version</source>
   <translation>{0}, wie in dieser Version</translation>
  </message>
  <message>
   <source>{0}, line {1}: a marker starts at 0 s or later and ends after it starts.</source>
   <translation>{0}, Zeile {1}: Ein Marker beginnt bei 0 s oder später und endet nach seinem Anfang.</translation>
  </message>
  <message>
   <source>{0}, line {1}: seconds must be a finite number.</source>
   <translation>{0}, Zeile {1}: seconds muss eine endliche Zahl sein.</translation>
  </message>
  <message>
   <source>{0}, line {1}: seconds, bar and beat must be numbers.</source>
   <translation>{0}, Zeile {1}: seconds, bar und beat müssen Zahlen sein.</translation>
  </message>
  <message>
   <source>{0}, line {1}: start_seconds and end_seconds must be numbers.</source>
   <translation>{0}, Zeile {1}: start_seconds und end_seconds müssen Zahlen sein.</translation>
  </message>
  <message>
   <source>{0}, {1} BPM felt as {2}</source>
   <translation>{0}, {1} BPM, gefühlt {2}</translation>
  </message>
  <message>
   <source>{0}, {1}: {2} It is left out; the rest is used.</source>
   <translation>{0}, {1}: {2} Das bleibt weg; das Übrige wird verwendet.</translation>
  </message>
  <message>
   <source>{0}.  At the playhead {1}{2}.  In all {3}.</source>
   <translation>{0}.  Am Abspielkopf {1}{2}.  Insgesamt {3}.</translation>
  </message>
  <message>
   <source>{0}: Before, After without the match, and the reference (dashed), on their fullest passages, at the same loudness; lines fall by {1:g} dB an octave less than they do. The filter (yellow) goes from −{2:g} to +{3:g} dB around the middle line.</source>
   <translation>{0}: Vorher, Nachher ohne Angleichung und die Referenz (gestrichelt), an ihren vollsten Passagen bei gleicher Lautheit; die Linien fallen {1:g} dB je Oktave schwächer als in Wirklichkeit. Das Filter (gelb) reicht von −{2:g} bis +{3:g} dB um die Mittellinie.</translation>
  </message>
  <message>
   <source>{0}: beat {1} does not come after beat {2}. Correct the file.</source>
   <translation>{0}: Beat {1} kommt nicht nach Beat {2}. Berichtigen Sie die Datei.</translation>
  </message>
  <message>
   <source>{0}: beats are counted from 1 to at most {1} in a bar.</source>
   <translation>{0}: Beats zählen in einem Takt von 1 bis höchstens {1}.</translation>
  </message>
  <message>
   <source>{0}: it begins while {1} holds the song up or rides its tempo. Move one of them.</source>
   <translation>{0}: beginnt, während {1} den Song aufhält oder sein Tempo führt. Verschieben Sie eines von beiden.</translation>
  </message>
  <message>
   <source>{0}: it begins within {1}; two moments that change the time cannot overlap. Move one of them.</source>
   <translation>{0}: beginnt innerhalb von {1}; zwei Momente, die die Zeit verändern, dürfen sich nicht überlappen. Verschieben Sie einen.</translation>
  </message>
  <message>
   <source>{0}: it has no length. Move its end beyond its start.</source>
   <translation>{0}: hat keine Länge. Schieben Sie das Ende hinter den Anfang.</translation>
  </message>
  <message>
   <source>{0}: it is cut short, since the version ends before it does.</source>
   <translation>{0}: wird gekürzt, weil die Version vorher endet.</translation>
  </message>
  <message>
   <source>{0}: no file is chosen. Choose one.</source>
   <translation>{0}: Keine Datei gewählt. Wählen Sie eine.</translation>
  </message>
  <message>
   <source>{0}: nothing of it is left at this speed. Make it longer.</source>
   <translation>{0}: Bei dieser Geschwindigkeit bleibt nichts davon. Verlängern Sie es.</translation>
  </message>
  <message>
   <source>{0}: that lies beyond the song’s end at {1}. Move it earlier.</source>
   <translation>{0}: liegt hinter dem Ende des Songs bei {1}. Verschieben Sie es nach vorn.</translation>
  </message>
  <message>
   <source>{0}: the tone of Before, After and the reference, and the filter</source>
   <translation>{0}: Klangbild von Vorher, Nachher und Referenz, und das Filter</translation>
  </message>
  <message>
   <source>{0}: the version has ended by then. Move it before the ending, or the ending behind it.</source>
   <translation>{0}: Die Version ist dann schon zu Ende. Verschieben Sie es vor den Schluss oder den Schluss dahinter.</translation>
  </message>
  <message>
   <source>{0}: there is nothing before it that could be repeated.</source>
   <translation>{0}: Davor ist nichts, was sich wiederholen ließe.</translation>
  </message>
  <message>
   <source>{0}: this song has no bars to place it on. Tap the tempo, or place it in seconds.</source>
   <translation>{0}: Dieser Song hat keine Takte dafür. Tippen Sie das Tempo oder setzen Sie es auf eine Zeit.</translation>
  </message>
  <message>
   <source>{0}: this song has no bars, so beats of {1:g} BPM from its start are used. Tap its tempo to change that.</source>
   <translation>{0}: Dieser Song hat keine Takte, deshalb gelten Beats mit {1:g} BPM ab seinem Anfang. Tippen Sie sein Tempo, um das zu ändern.</translation>
  </message>
  <message>
   <source>{0}: {1} Correct the file or choose another.</source>
   <translation>{0}: {1} Berichtigen Sie die Datei oder wählen Sie eine andere.</translation>
  </message>
  <message>
   <source>{0}: {1} is not there. Choose its file again.</source>
   <translation>{0}: {1} ist nicht da. Wählen Sie die Datei neu.</translation>
  </message>
  <message>
   <source>{0}: {1}{2}
Click to work on it, F2 to rename, right-click for more.</source>
   <translation>{0}: {1}{2}
Klick zum Bearbeiten, F2 zum Umbenennen, Rechtsklick für mehr.</translation>
  </message>
  <message>
   <source>{0}Before {1}   →   After {2}{3}</source>
   <translation>{0}Vorher {1}   →   Nachher {2}{3}</translation>
  </message>
  <message>
   <source>{0}[*] – Late Spin</source>
   <translation>{0}[*] – Late Spin</translation>
  </message>
  <message>
   <source>“{0}” cannot change over the song here; these can: {1}.</source>
   <translation>„{0}“ kann sich hier nicht über den Song ändern; diese können es: {1}.</translation>
  </message>
  <message>
   <source>“{0}” does not fit here. Use {1}.</source>
   <translation>„{0}“ passt hier nicht. Nehmen Sie {1}.</translation>
  </message>
  <message>
   <source>“{0}” has two lanes; give it one.</source>
   <translation>„{0}“ hat zwei Automationen; geben Sie ihm eine.</translation>
  </message>
  <message>
   <source>“{0}” is not a key. Type one such as A minor, F♯ or Bb.</source>
   <translation>„{0}“ ist keine Tonart. Geben Sie eine ein, etwa a-Moll, F♯ oder Bb.</translation>
  </message>
  <message>
   <source>“{0}” is not a length. Give 2 bars, 3 beats, 1/8, 800 ms or 1.5 s.</source>
   <translation>„{0}“ ist keine Länge. Geben Sie 2 Takte, 3 Beats, 1/8, 800 ms oder 1,5 s an.</translation>
  </message>
  <message>
   <source>“{0}” is not a length. Type minutes and seconds, such as 1:30.</source>
   <translation>„{0}“ ist keine Länge. Tippen Sie Minuten und Sekunden, etwa 1:30.</translation>
  </message>
  <message>
   <source>“{0}” is not a note value; use 1/1 to 1/32, with d for dotted or t for triplet, such as 1/8t.</source>
   <translation>„{0}“ ist kein Notenwert; nehmen Sie 1/1 bis 1/32, mit d für punktiert oder t für Triole, etwa 1/8t.</translation>
  </message>
  <message>
   <source>“{0}” is not a number. Type one, with or without {1}.</source>
   <translation>„{0}“ ist keine Zahl. Tippen Sie eine, mit oder ohne {1}.</translation>
  </message>
  <message>
   <source>“{0}” is not a place. Give a bar (17), a bar and beat (17.3) or a time (1:02.345).</source>
   <translation>„{0}“ ist keine Stelle. Geben Sie einen Takt (17), Takt und Beat (17.3) oder eine Zeit (1:02,345) an.</translation>
  </message>
  <message>
   <source>“{0}” of this SOFA file is larger than such data are. Choose another file.</source>
   <translation>„{0}“ dieser SOFA-Datei ist größer, als solche Daten sind. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>“{0}” of this SOFA file is not made of numbers. Choose another file.</source>
   <translation>„{0}“ dieser SOFA-Datei besteht nicht aus Zahlen. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>“{0}” of this SOFA file lies in another file, which is not opened. Choose another file.</source>
   <translation>„{0}“ dieser SOFA-Datei liegt in einer anderen Datei, die nicht geöffnet wird. Wählen Sie eine andere Datei.</translation>
  </message>
  <message>
   <source>“{0}” sets nothing. Give a place, = and a value: ending.way.feedback_percent=40.</source>
   <translation>„{0}“ stellt nichts ein. Geben Sie eine Stelle, = und einen Wert an: ending.way.feedback_percent=40.</translation>
  </message>
  <message>
   <source>−14 LUFS: where most streaming players turn songs to.</source>
   <translation>−14 LUFS: worauf die meisten Streaming-Player Songs stellen.</translation>
  </message>
  <message>
   <source>−16 LUFS: a little more headroom; usual for phones and spoken word.</source>
   <translation>−16 LUFS: etwas mehr Aussteuerungsreserve; üblich für Handys und Sprache.</translation>
  </message>
  <message>
   <source>−23 LUFS: the level of broadcasts (EBU R 128).</source>
   <translation>−23 LUFS: der Pegel im Rundfunk (EBU R 128).</translation>
  </message>
  <message>
   <source>−9 LUFS: as loud as club music; the limiter may take off up to 6 dB.</source>
   <translation>−9 LUFS: so laut wie Clubmusik; der Limiter darf bis zu 6 dB nehmen.</translation>
  </message>
  <message>
   <source>★ Favourite</source>
   <translation>★ Favorit</translation>
  </message>
  <message>
   <source>☆ Favourite</source>
   <translation>☆ Favorit</translation>
  </message>
 </context>
</TS>
