"""Everything that writes. One file an action; each takes objects and a user, never a request."""
