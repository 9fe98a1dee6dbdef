"""The window: what is around the pages, and what is done with the study as a whole."""
