"""Single faults: the build as it is soldered, solved with one thing gone wrong, and what opens then."""
