"""Proof: the page as its audience will see it, and what is still missing."""
