"""What the places share: whose a row is, how a request is refused, photographs, limits."""
