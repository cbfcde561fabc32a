"""Vignette: Short vertical video."""
