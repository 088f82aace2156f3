"""The settings of every effect, the parameters they use, and their automation.

An effect is a struct declared with ``@effect``; its fields carry their parameters in the annotations. Forms, command
line, files and tests follow from the declaration. docs/extending.md shows how to add one.
"""
