"""The application as a browser shows it."""
