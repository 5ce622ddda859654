"""Which law a gadget follows: told from volts and amperes that were read at several voltages."""
