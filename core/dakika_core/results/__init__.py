"""Results: change against a comparison, and what a chart may say of itself."""
