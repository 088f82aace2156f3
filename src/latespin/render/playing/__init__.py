"""Moves over the finished sound: what pads do while they are held, live and in what is exported, in the same code."""
