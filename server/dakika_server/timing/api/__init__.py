"""Timing over HTTP."""
