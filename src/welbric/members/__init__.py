"""What stands: members, resolved once from what is said of them.

`resolve` makes a `DesignMember` of a description, or says in `misfits` what does not fit together.
`segments` goes from the restraints a designer names to the segments of each flange.
"""
