"""The shapes of plots, a module for each few that belong together; they register themselves."""
