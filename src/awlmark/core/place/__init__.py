"""Where panel, charger and cars stand."""
