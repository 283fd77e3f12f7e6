"""The punch sheet as a picture: blocks, layout, heads, painting, what is in view. Routes are punched, proofs shown on it."""
