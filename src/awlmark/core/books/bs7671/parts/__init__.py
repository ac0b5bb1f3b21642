"""What is bought at the ends, and what parts are called."""
