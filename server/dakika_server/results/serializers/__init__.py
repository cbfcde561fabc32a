"""Shapes of results over HTTP."""
