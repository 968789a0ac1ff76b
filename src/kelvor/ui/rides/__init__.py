"""Parts of the Ride view: charts, drawings, conditions, what buys most."""
