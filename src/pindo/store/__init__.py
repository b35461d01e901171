"""Builds and the journal of their changes in one SQLite file, through plain SQL."""
