"""The map around a centre: geometry, picture, hands and acts."""
