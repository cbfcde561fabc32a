"""Items of feeds that become ideas, drafts or posts by a rule."""
