"""What a person does, one function each, one transaction each.

Takes the actor, the database session and the time as arguments; nothing here knows of a web request.
Imports go to core, storage and files.
"""
