"""What to buy: counted from the line, priced from the job's price book."""
