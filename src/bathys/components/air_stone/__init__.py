"""An air stone or diffuser in a vessel."""
