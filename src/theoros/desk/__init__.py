"""The Qt application: the only place that knows Qt. It holds no statistics."""
