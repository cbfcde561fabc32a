"""Longplay: Long video."""
