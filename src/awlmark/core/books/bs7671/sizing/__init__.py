"""The circuit: current, drop, protective conductor, earth fault, conduit."""
