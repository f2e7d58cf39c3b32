"""The data file: how it is opened, brought up to date, named, copied and repaired."""
