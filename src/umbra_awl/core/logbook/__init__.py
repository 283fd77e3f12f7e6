"""What was proven on the air: a log of its own, what each route's proof is worth today, and what to prove next."""
