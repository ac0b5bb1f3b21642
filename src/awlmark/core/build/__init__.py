"""Building: steps in working order, torque, what was built against what was planned."""
