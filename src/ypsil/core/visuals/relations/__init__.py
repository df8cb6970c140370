"""What goes together: two amounts or two groupings against each other."""
