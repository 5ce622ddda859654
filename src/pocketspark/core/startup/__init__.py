"""The first tenth of a second after the gadget is switched on."""
