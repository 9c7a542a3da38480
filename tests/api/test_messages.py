"""Messages of the live socket: what is many is read, what is wrong is answered under its own number."""

import json
from typing import Any

import pytest

from oak_lens.api.live import MOST_DRAWN, _wanted
from oak_lens.api.messages import FrameMessage, UnreadableMessage, message_of


def test_a_scene_of_many_layers_and_open_lanes_is_still_shown() -> None:
    many = {"curves": [f"s/l{i}/placement.x" for i in range(200)], "ghosts": [{"scene": "s", "layer": f"l{i}"} for i in range(200)]}
    message = message_of(json.dumps({"kind": "frame", "sequence": 3, "at": 0, "width": 960, **many}))
    assert isinstance(message, FrameMessage)
    wanted = _wanted(message)
    assert len(wanted.curves) == len(wanted.ghosts) == MOST_DRAWN


@pytest.mark.parametrize(
    ("message", "sequence", "said"),
    [
        ({"kind": "frame", "sequence": 7, "width": "wide"}, 7, "width"),
        ({"kind": "frame", "sequence": 8, "widht": 9}, 8, "widht"),
        ({"kind": "fly", "sequence": 9}, 9, "message"),
        ([], 0, "message"),
        ("{", 0, "message"),
    ],
)
def test_what_cannot_be_read_says_what_and_which(message: Any, sequence: int, said: str) -> None:
    with pytest.raises(UnreadableMessage, match=said) as caught:
        message_of(message if isinstance(message, str) else json.dumps(message))
    assert caught.value.sequence == sequence
