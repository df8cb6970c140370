"""Letters that the program sends, and the outbox they wait in where there is no mail server."""
