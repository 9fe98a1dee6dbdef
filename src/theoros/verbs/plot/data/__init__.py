"""What a plot draws: one number for groups, or pairs."""
