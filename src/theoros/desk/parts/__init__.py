"""What every room of the desk is built from."""
