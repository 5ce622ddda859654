"""Which pad goes to which: parts with their pads, the hook-up that follows from a build, and its nets."""
