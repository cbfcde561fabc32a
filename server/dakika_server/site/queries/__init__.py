"""Reads for site: a fixed number of queries whatever the size."""
