"""What leaves on paper or as a file: key sheets, field cards, CSV layouts."""
