"""Who is biggest: groups beside each other on one scale."""
