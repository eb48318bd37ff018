"""The standpipe."""
