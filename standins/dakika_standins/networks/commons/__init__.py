"""Commons: pages and feed."""
