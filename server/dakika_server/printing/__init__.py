"""Pages of ours on paper: asked for by people, made by the worker one at a time, kept for a day."""
