"""Plan: states of a planned post, and what may happen next."""
