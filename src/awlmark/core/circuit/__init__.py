"""The engine: candidates, checks evaluated over all of them, findings of the picked one."""
