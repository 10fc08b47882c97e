"""Equations with a name in the literature. Plain numbers or arrays in SI, a number, array or frozen record out."""
