"""Reports: pages of figures and words for others, in their colours and language, out in several forms."""
