"""What stands: the lengths of a member between the places that hold it.

`segments` goes from the restraints a designer names to the segments of each flange.
"""
