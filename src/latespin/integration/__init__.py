"""A place on the desktop: launcher, file type, man page; and handing files to the window that is open. Nothing here needs Qt."""

APP_ID = "org.latespin.LateSpin"
SESSION_TYPE = "application/x-late-spin-session"
