"""Wi-Fi away from home: two schools, names letter for letter, a rehearsal."""
