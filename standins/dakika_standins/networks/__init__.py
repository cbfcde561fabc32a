"""The stand-in networks, each in an API style of its own."""
