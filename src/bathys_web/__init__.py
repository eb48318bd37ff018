"""The web application. Views are thin: the engine in :mod:`bathys` does all the work."""
