"""Open roads: tracks, calendars and places, in and out."""
