"""The loop siphon."""
