"""The rules and the computation of Oak Lens, free of web, SQL, files, clock and environment.

Rooms, lowest first; a room imports only rooms that stand before it:
errors, time, curves, space, looks, draw, joins, document, framing, edits, evaluate, paint, delivery.
"""
