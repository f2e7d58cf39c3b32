"""Use cases shared by API and command line."""
