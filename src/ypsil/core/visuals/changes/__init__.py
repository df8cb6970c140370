"""How it changes: lines, areas and other drawings along time."""
