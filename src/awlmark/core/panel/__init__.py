"""Whether the supply can give it: demand on the service and on every feeder between meter and charger."""
