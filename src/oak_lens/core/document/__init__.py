"""The document: frozen models, parsing with all faults at once, JSON Schema, migrations, inheritance."""

from .inheritance import photos_of, resolved_backdrop, resolved_hold, resolved_join, resolved_photo
from .json_schema import json_schema
from .models import SCHEMA_VERSION, Defaults, Document, FitChoice, Frame, Join, Media, PhotoLayer, Placement, Scene, View, view_lane
from .ordering import in_order, order_keys_between
from .parsing import dump_document, faults_from, parse_document, parse_json

__all__ = [
    "SCHEMA_VERSION",
    "Defaults",
    "Document",
    "FitChoice",
    "Frame",
    "Join",
    "Media",
    "PhotoLayer",
    "Placement",
    "Scene",
    "View",
    "dump_document",
    "faults_from",
    "in_order",
    "json_schema",
    "order_keys_between",
    "parse_document",
    "parse_json",
    "photos_of",
    "resolved_backdrop",
    "resolved_hold",
    "resolved_join",
    "resolved_photo",
    "view_lane",
]
