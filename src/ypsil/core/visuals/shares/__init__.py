"""Share of a whole: parts beside each other, within each other, or stacked."""
