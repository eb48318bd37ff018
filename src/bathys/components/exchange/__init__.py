"""Water that is exchanged, a share at a time."""
