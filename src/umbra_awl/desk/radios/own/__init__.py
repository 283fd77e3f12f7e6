"""A radio of one's own, found out: its keys learnt by doing, its limits by trying. The core works out what follows."""
