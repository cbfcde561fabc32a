"""Pictor: Pictures."""
