"""What was predicted and what was measured, side by side."""
