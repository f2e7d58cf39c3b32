"""What goes out by itself: alarms, and messages to a broker."""
