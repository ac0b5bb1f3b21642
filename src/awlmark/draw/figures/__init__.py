"""Parts of scenes and papers."""
