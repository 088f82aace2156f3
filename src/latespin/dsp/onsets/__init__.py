"""Where something begins in a song: ``transients.py`` finds attacks, ``soft_onsets.py`` notes among others that sound on."""
