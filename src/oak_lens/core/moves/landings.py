"""Entrances onto a surface."""

from ..curves import Bounce, Spring
from ..time import TICKS_PER_SECOND
from .lanes import from_to, through
from .move import Move

FALL = Move(
    name="Falls onto the table", exit_name="Lifts off the table", help="From above, its shadow closing as it lands, and settles with a slight turn", kind="entrance",
    length=round(1.3 * TICKS_PER_SECOND),
    lanes={
        "placement.z": through((0.0, 0.9), (0.86, 0.0), follow=Bounce(keeps=0.2, times=2)),
        "placement.tip": through((0.0, -24.0), (0.62, 0.0), ease="out"),
        "placement.turn": from_to(13.0, 0.0, follow=Spring(stiffness=180.0, damping=13.0)),
        "layer.opacity": through((0.0, 0.0), (0.16, 1.0), ease="none"),
    },
)  # fmt: skip
TOSS = Move(
    name="Tossed in", exit_name="Tossed out", help="Thrown in from a side, turning", kind="entrance", sided=True, length=TICKS_PER_SECOND,
    lanes={
        "beyond.x": from_to(-1.0, 0.0, "out"),
        "placement.z": through((0.0, 0.3), (1.0, 0.0), ease="in"),
        "placement.turn": from_to(-75.0, 0.0, "out"),
    },
)  # fmt: skip
