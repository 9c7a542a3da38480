"""What a scene has besides its layers: camera, light, a travel from stop to stop."""

from .camera import CameraRig
from .light import Light
from .travel import Stop, Travel

STAGE_PARTS = (("camera", "Camera", CameraRig), ("light", "Light", Light))
"""(id, label, parameter model), for the catalogue."""

__all__ = ["STAGE_PARTS", "CameraRig", "Light", "Stop", "Travel"]
