"""Files as people have them, made from one known truth: the same posts in the shapes of many tools and languages."""
