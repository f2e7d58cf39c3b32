"""Import and export: calendars, tracks, logs and samples."""
