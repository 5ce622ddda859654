"""Figures as they are written, to be found in texts, and as the assessment has them."""

TIME, AMPS, VOLTS = r"(\d[\d.]* \w+(?: \d\d)?)", r"(\d[\d.]* [mμn]?A)", r"(\d[\d.]* V)"


def at(seen, path):
    """The text of the figure at this path of an assessment; None where it has none."""
    for step in path.split("."):
        seen = seen and (seen[int(step)] if step.isdecimal() else seen.get(step))
    return seen and seen["text"]
