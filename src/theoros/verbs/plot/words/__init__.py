"""What pictures say in words."""
