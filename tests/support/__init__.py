"""What the tests share: a small made-up car, a database, a client, a browser."""

__unittest = True
