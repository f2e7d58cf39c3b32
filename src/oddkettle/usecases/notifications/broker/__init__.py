"""An MQTT broker: samples in, level, verdict and alarms out. Off by default."""
