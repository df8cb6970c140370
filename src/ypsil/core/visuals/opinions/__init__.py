"""What people answered: scales and cross-tables of surveys."""
