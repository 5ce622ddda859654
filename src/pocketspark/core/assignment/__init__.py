"""Which of the maker's own cells goes into which gadget."""
