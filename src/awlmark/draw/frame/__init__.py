"""What stands round the scene."""
