"""In the field: the log, samples of devices, the tracked state of charge."""
