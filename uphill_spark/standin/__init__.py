"""The stand-in for control unit, sensors and engine, on a bus; and the reader of a bus, which knows nothing of it but what a DBC file says."""

from . import library as library  # before anything that takes the library of buses whole
