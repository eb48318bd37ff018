"""The float valve."""
