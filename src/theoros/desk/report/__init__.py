"""The report on the desk."""
