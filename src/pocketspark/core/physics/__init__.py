"""What happens: voltages, currents and times from numbers alone. Physics decides nothing."""
