"""The rules and the computation of Oak Lens, free of web, SQL, files, clock and environment.

Rooms, lowest first; a room imports only rooms that stand before it:
errors, time, curves, space, looks, letters, stage, moves, draw, joins, document, framing, layouts, templates, titles, treatments, evaluate, sound, edits, tables, paint, trials, delivery.
"""
