"""Reports: pages and their grid, words made by rule, numbers and labels in several languages."""
