"""The simulated world: one seeded model from which all figures come, with the truth known."""
