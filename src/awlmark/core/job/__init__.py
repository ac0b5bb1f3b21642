"""The document: what the user decided and measured, and nothing that can be worked out from it."""
