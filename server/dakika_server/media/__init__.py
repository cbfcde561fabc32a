"""Pictures, videos and documents of people: one guarded way in, a look by a worker, and one way out."""
