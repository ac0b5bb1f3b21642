"""What is typed, read into edits of a job."""
