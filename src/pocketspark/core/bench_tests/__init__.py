"""Tests of a build by instruments: what a supply and a load are set to, one after the other, and what that tells."""
