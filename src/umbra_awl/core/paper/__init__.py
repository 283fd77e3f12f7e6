"""What leaves on paper: key sheets and field cards, as PDF and as pages."""
