"""Links: addresses, campaign parameters, visitors, bots."""
