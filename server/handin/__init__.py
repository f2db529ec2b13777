"""The hand-in queue: makers hand sheets in, one operator looks at them and runs them on the machines."""
