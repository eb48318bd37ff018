"""Pages of a plan's instruments, and where boards send."""
