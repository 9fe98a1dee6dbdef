"""The engine: a process of its own that works answers out, and the link to it. No Qt."""
