"""The work by this book: steps, tests, what readings mean, and faults to practise on."""
