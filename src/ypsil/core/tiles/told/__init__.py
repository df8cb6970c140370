"""What is told in order: entries that somebody types, or rows of a table, drawn as steps, a timeline, sides, a list.

Each kind is a file: it says what its entries are, which looks it has, and how it lays them out in a width.
"""
