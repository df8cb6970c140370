"""Amounts as pictures: icons that stand for so many, shapes by size, hours round a clock, stars, ranked names."""
