"""What the mouse does on drawings."""
