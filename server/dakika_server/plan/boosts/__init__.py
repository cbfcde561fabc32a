"""Boosts: asked for within a month's limit, told to networks once, followed until they are over, counted apart."""
