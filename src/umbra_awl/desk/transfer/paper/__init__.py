"""What is printed: key sheets, field cards, labels. The sheets themselves are made by the core."""
