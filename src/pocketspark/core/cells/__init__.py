"""Cells by themselves: what a label claims, what a used one is worth, which go together."""
