"""Shapes of sources over HTTP."""
