"""What each command prints: a table for people or JSON for programs."""
