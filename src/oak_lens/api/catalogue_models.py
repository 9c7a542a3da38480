"""What there is to choose from, as the page is told it."""

from typing import Any, Literal

from ..core.moves import Spread
from .models import Answer, Json


class ParameterModel(Answer):
    id: str
    label: str
    kind: str
    default: Any
    help: str
    minimum: float | None
    maximum: float | None
    step: float | None
    unit: str
    scale: float
    choices: list[tuple[str, str]]
    when: tuple[str, list[str | bool]] | None
    animated: bool
    factor: bool
    usual: tuple[float, float] | None
    whole: bool


class LookPartModel(Answer):
    id: str
    label: str
    parameters: list[ParameterModel]


class ChoiceModel(Answer):
    """Something to choose, with what it is."""

    id: str
    label: str
    help: str = ""


class CarriedModel(ChoiceModel):
    """What can be carried. `kinds`: of layers that have it; none: the scene has."""

    kinds: list[str]


class LayoutModel(ChoiceModel):
    """A layout for `least` to `most` photos; another seed changes it if it is `seeded`."""

    least: int
    most: int
    seeded: bool


class JoinModel(Answer):
    """`uses`: names of the join settings it heeds, `preset`: those it begins with; `length` in ticks."""

    id: str
    label: str
    help: str
    family: str
    words: str
    uses: list[str]
    preset: dict[str, Any]
    length: int
    instant: bool


class EaseModel(Answer):
    id: str
    label: str
    leave: tuple[float, float]
    arrive: tuple[float, float]
    hold: bool
    follow: Json | None


class QualityModel(Answer):
    id: str
    label: str
    help: str


class KindModel(Answer):
    """A kind of export; see core/delivery/kinds.py."""

    id: str
    label: str
    help: str
    ending: str
    frames: Literal["all", "one", "none"]
    uses: list[Literal["quality", "transparent", "dither", "repeat"]]
    shorter_side: int | None
    rate: str | None


class RateModel(Answer):
    label: str
    frames_per_second: float
    frame_ticks: int


class MoveModel(Answer):
    id: str
    label: str
    exit_label: str
    help: str
    kind: str
    sided: bool
    length: int | None
    spread: Spread | None


class TitleModel(Answer):
    """A title setting. `texts`: how many it has; `words`: what else it is found by."""

    id: str
    label: str
    help: str
    texts: int
    words: str


class FamilyModel(Answer):
    """A family of faces that ships. `weights`: from and to."""

    id: str
    label: str
    kind: str
    scripts: list[str]
    weights: tuple[int, int]
    italic: bool


class LayerKindModel(Answer):
    """A kind of layer. `details`: parts of its own that are shown as they are declared."""

    id: str
    label: str
    details: list[str]


class CatalogueAnswer(Answer):
    """What there is to choose from."""

    ticks_per_second: int
    rates: list[RateModel]
    joins: list[JoinModel]
    join_families: list[tuple[str, str]]
    join_settings: list[ParameterModel]
    eases: list[EaseModel]
    look_parts: list[LookPartModel]
    drawn_parts: list[LookPartModel]
    text_parts: list[LookPartModel]
    text_styles: list[ChoiceModel]
    titles: list[TitleModel]
    families: list[FamilyModel]
    text_details: list[ChoiceModel]
    spread: list[ParameterModel]
    paces: list[ChoiceModel]
    layer_kinds: list[LayerKindModel]
    controls: list[ParameterModel]
    looks: list[ChoiceModel]
    layouts: list[LayoutModel]
    blends: list[ChoiceModel]
    carried: list[CarriedModel]
    placement: list[ParameterModel]
    stage_parts: list[LookPartModel]
    moves: list[MoveModel]
    safe_share: float
    kinds: list[KindModel]
    qualities: list[QualityModel]
    sizes: list[tuple[str, int]]
    edit_labels: dict[str, str]
    natures: dict[str, str]
