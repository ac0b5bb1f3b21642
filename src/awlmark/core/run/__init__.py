"""Where the wire goes: the walked line, its sections and its bends."""
