"""Foresight over HTTP."""
