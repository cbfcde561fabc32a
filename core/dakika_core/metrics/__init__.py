"""Metrics: definitions, values at equal age, gains by day, typical and index, rates."""
