"""The Qt Widgets application: it reads the user's act, calls core, shows. No arithmetic of the trade in here."""
