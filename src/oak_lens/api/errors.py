"""Every error code and the HTTP status it is answered with."""

from flask import Response, jsonify
from pydantic import ValidationError

from ..core.document import faults_from
from ..core.errors import Fault, OakError

STATUS = {
    "document.depth": 422,
    "document.history": 409,
    "document.json": 422,
    "document.newer": 422,
    "document.schema": 422,
    "document.shape": 422,
    "document.size": 413,
    "document.value": 422,
    "edit.animated": 409,
    "edit.base": 409,
    "edit.conflict": 409,
    "edit.id_taken": 409,
    "edit.in_use": 409,
    "edit.json": 422,
    "edit.no_field": 409,
    "edit.no_key": 409,
    "edit.no_layer": 409,
    "edit.no_light": 409,
    "edit.no_move": 409,
    "edit.no_path": 409,
    "edit.no_property": 422,
    "edit.no_room": 409,
    "edit.no_source": 409,
    "edit.no_span": 409,
    "edit.no_stop": 409,
    "edit.no_picture": 409,
    "edit.no_point": 409,
    "edit.no_position": 409,
    "edit.no_scene": 409,
    "edit.no_value": 422,
    "edit.no_view": 409,
    "edit.kind": 409,
    "edit.link": 409,
    "edit.locked": 409,
    "edit.no_group": 409,
    "edit.no_layout": 422,
    "edit.name_taken": 409,
    "edit.no_font": 409,
    "edit.no_look": 409,
    "edit.no_style": 409,
    "edit.no_template": 409,
    "edit.no_place": 409,
    "edit.no_zone": 409,
    "edit.no_dial": 409,
    "edit.no_text": 409,
    "edit.no_title": 422,
    "face.broken": 500,
    "face.missing": 404,
    "font.bytes": 413,
    "font.count": 409,
    "font.dear": 422,
    "font.locked": 422,
    "font.unreadable": 415,
    "edit.no_photo": 409,
    "edit.no_window": 409,
    "edit.too_few": 409,
    "edit.two_scenes": 409,
    "picture.length": 413,
    "picture.no_frames": 422,
    "edit.boundary": 409,
    "edit.no_beat": 409,
    "edit.no_beats": 409,
    "edit.no_join": 422,
    "edit.no_music": 409,
    "edit.no_scenes": 409,
    "edit.no_song": 409,
    "edit.no_sound": 409,
    "edit.too_short": 409,
    "edit.trim": 422,
    "sound.cancelled": 409,
    "sound.count": 409,
    "sound.format": 415,
    "sound.long": 413,
    "sound.missing": 404,
    "sound.no_file": 422,
    "sound.none": 415,
    "sound.not_found": 404,
    "sound.short": 422,
    "edit.nothing": 409,
    "edit.shape": 422,
    "edit.unknown": 422,
    "edit.value": 422,
    "export.empty": 409,
    "export.silent": 409,
    "export.no_film": 404,
    "export.not_found": 404,
    "export.settings": 422,
    "export.write": 507,
    "version.no_scene": 404,
    "package.damaged": 422,
    "package.face": 422,
    "package.missing": 422,
    "package.newer": 422,
    "table.size": 413,
    "table.unreadable": 422,
    "template.count": 409,
    "template.missing": 409,
    "template.not_found": 404,
    "template.version": 409,
    "picture.bytes": 413,
    "picture.changed": 409,
    "picture.count": 409,
    "picture.damaged": 422,
    "picture.empty": 422,
    "picture.format": 415,
    "picture.missing": 404,
    "picture.none": 422,
    "picture.not_prepared": 422,
    "picture.pixels": 413,
    "picture.no_file": 422,
    "project.deleted": 404,
    "project.not_found": 404,
    "request.host": 400,
    "request.token": 403,
    "request.value": 422,
    "request.not_found": 404,
    "request.failed": 500,
    "session.none": 401,
    "storage.away": 503,
    "storage.full": 507,
    "storage.write": 507,
    "version.not_found": 404,
}


def answer(error: OakError) -> tuple[Response, int]:
    """The error as JSON: every fault with code, path and message."""
    return _body(error.faults), STATUS.get(error.code, 500)


def answer_validation(error: ValidationError) -> Response:
    """A request that breaks its model, in the same shape as every other error."""
    response = _body(tuple(faults_from(error, "request.value")))
    response.status_code = STATUS["request.value"]
    return response


def answer_fault(code: str, message: str) -> tuple[Response, int]:
    return _body((Fault(code, "", message),)), STATUS[code]


def _body(faults: tuple[Fault, ...]) -> Response:
    return jsonify({"faults": [{"code": f.code, "path": f.path, "message": f.message} for f in faults]})
