"""What an answer is made of: picture, figures, ways, reading, working; wording and rounding."""
