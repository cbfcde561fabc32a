"""Competitors over HTTP."""
