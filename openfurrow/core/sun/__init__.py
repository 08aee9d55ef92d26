"""Sun: true south, solar noon, the winter window."""
