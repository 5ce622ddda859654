"""How it is joined at the bench: the drawing, the cut list, the order of soldering, and what a fault of it does."""
