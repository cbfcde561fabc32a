"""Doorstep: Local listings."""
