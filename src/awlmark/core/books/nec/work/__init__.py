"""The work by this book: steps, screws, tests and what readings mean."""
