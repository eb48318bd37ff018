"""The bell siphon."""
