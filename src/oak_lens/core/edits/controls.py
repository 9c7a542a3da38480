"""Controls of the document's numbers and of those of edits."""

from ..curves import Bounce, Spring
from ..document import Clip, Defaults, Dial, Fade, Frame, Join, LayerBase, Layout, Media, Mix, Scene, Song, View, Window, Zone
from ..looks.controls import Control, seed_control, time_control
from ..moves import MoveUse
from ..sound import Wish
from ..stage import Stop, Travel
from .joins import VaryJoins
from .motions import UseMove
from .sounds import ChangeBeats
from .timing import CutOnBeats, FitFilm, ScaleHolds
from .views import ArrangeViews

CONTROLS = (
    Control("frame.width", Frame, "width", "Width", 2, "px", whole=True),
    Control("frame.height", Frame, "height", "Height", 2, "px", whole=True),
    time_control("scene.hold", Scene, "hold", "Hold", (0.2, 20), "Time the scene stands between its joins"),
    Control("scene.speed", Scene, "speed", "Speed", 0.05, "×", usual=(0.25, 4), help="How fast everything in the scene runs; its hold changes along"),
    Control("scene.shutter", Defaults, "shutter", "Motion blur", 5, "°", help="How long the shutter is open, in degrees: 360 is the whole of a frame’s time, 0 none"),
    Control("layer.opacity", LayerBase, "opacity", "Opacity", 1, "%", 0.01),
    Control("layer.blur", LayerBase, "blur", "Blur", 0.1, "%", 0.01, help="Spread of the blur (standard deviation), in hundredths of the frame’s height"),
    time_control("fade.length", Fade, "length", "Length", (0, 5)),
    time_control("join.length", Join, "length", "Length", (0.1, 5)),
    seed_control("join.seed", VaryJoins),
    Control("layout.gap", Layout, "gap", "Gap", 0.5, "%", 0.01, (0, 0.1)),
    Control("window.aspect", Window, "aspect", "Width ÷ height", 0.01, usual=(0.2, 5)),
    Control("window.sides", Window, "sides", "Sides", 1, usual=(3, 12), whole=True),
    Control("view.x", View, "x", "Across", 0.005, usual=(-0.5, 0.5), help="Middle of the view, fraction of the picture’s width from its middle"),
    Control("view.y", View, "y", "Down", 0.005, usual=(-0.5, 0.5), help="Middle of the view, fraction of the picture’s height from its middle"),
    Control("view.zoom", View, "zoom", "Zoom", 0.01, "×", usual=(0.3, 8), help="1 shows what the fit shows; 2 half of it"),
    Control("view.turn", View, "turn", "Turn", 0.5, "°", usual=(-45, 45), help="Of the view on the picture, clockwise"),
    seed_control("view.seed", ArrangeViews),
    Control("move.strength", MoveUse, "strength", "Strength", 0.05, "×", usual=(0, 3)),
    time_control("move.length", MoveUse, "length", "Length", (0.1, 6), step=0.05),
    time_control("move.delay", MoveUse, "delay", "Delay", (0, 6), step=0.05),
    time_control("move.stagger", UseMove, "stagger", "One by one", (0, 2), "How much later each begins than the one before", 0.05),
    seed_control("move.seed", UseMove),
    time_control("stop.stay", Stop, "stay", "Stays", (0, 10)),
    Control("stop.fills", Stop, "fills", "Fills", 1, "%", 0.01, (0.1, 2), help="How much of the frame it fills"),
    Control("travel.draws_back", Travel, "draws_back", "Draws back", 0.01, usual=(0, 1), help="How far the camera rises on its way from stop to stop"),
    Control("spring.stiffness", Spring, "stiffness", "Stiffness", 10, usual=(40, 1000)),
    Control("spring.damping", Spring, "damping", "Damping", 1, usual=(2, 60)),
    Control("bounce.keeps", Bounce, "keeps", "Keeps", 0.05),
    Control("bounce.times", Bounce, "times", "Times", 1, whole=True),
    time_control("clip.start", Clip, "start", "From", (0, 60), step=0.01),
    time_control("clip.end", Clip, "end", "To", (0, 60), step=0.01),
    time_control("clip.poster", Clip, "poster", "Poster", (0, 60), "The moment it stands still on in the contact sheet", 0.01),
    Control("shape.straighten", Media, "straighten", "Straighten", 0.1, "°"),
    time_control("song.at", Song, "at", "Begins at", (0, 300)),
    time_control("song.overlap", Song, "overlap", "Crossfade", (0, 12), "It begins so long before the song before ends; both fade into each other"),
    time_control("song.trim_start", Song, "trim_start", "Trim start", (0, 600)),
    time_control("song.trim_end", Song, "trim_end", "Trim end", (0, 600)),
    time_control("song.length", Song, "length", "Length", (1, 300), "In the film; a longer one loops the song from bar to bar"),
    Control("song.gain", Song, "gain", "Level", 0.5, "dB", usual=(-30, 6)),
    time_control("song.fade_in", Song, "fade_in", "Fade in", (0, 15)),
    time_control("song.fade_out", Song, "fade_out", "Fade out", (0, 15)),
    Control("beats.tempo", ChangeBeats, "tempo", "Even tempo", 0.1, usual=(50, 180), help="An even row of beats from the playhead, in beats a minute"),
    Control("cut.every", CutOnBeats, "every", "Every", 1, usual=(1, 16), whole=True),
    time_control("cut.shortest", CutOnBeats, "shortest", "Never under", (0.1, 5)),
    Control("mix.music", Mix, "music", "Music", 0.5, "dB", usual=(-30, 6)),
    Control("mix.clips", Mix, "clips", "Clips", 0.5, "dB", usual=(-30, 6)),
    Control("mix.step_down", Mix, "step_down", "Step down", 0.5, "dB", usual=(0, 30), help="How far music goes down while a clip is heard"),
    time_control("mix.step_in", Mix, "step_in", "Down over", (0, 3)),
    time_control("mix.step_out", Mix, "step_out", "Up over", (0, 3)),
    Control("mix.target", Mix, "target", "Loudness", 0.5, " LUFS", usual=(-30, -10), help="Of the whole film, in LUFS (ITU-R BS.1770)"),
    Control("mix.ceiling", Mix, "ceiling", "Ceiling", 0.1, " dBTP", usual=(-6, 0), help="No true peak goes beyond"),
    Control("music.tempo", Wish, "tempo", "Beats a minute", 1, help="About: whole bars fill the length exactly"),
    Control("music.intensity", Wish, "intensity", "Intensity", 1, "%", 0.01),
    Control("music.seconds", Wish, "seconds", "Length", 0.1, "s", usual=(10, 240), help="To the sample; as long as the film unless you say otherwise"),
    seed_control("music.seed", Wish),
    time_control("film.length", FitFilm, "length", "Film", (10, 300)),
    time_control("film.shortest", FitFilm, "shortest", "No hold under", (0.1, 5)),
    Control("dial.minimum", Dial, "minimum", "Least", 0.01),
    Control("dial.maximum", Dial, "maximum", "Greatest", 0.01),
    Control("zone.least", Zone, "least", "Least pixels", 100, "px", usual=(0, 6000), whole=True, help="That the longer side of a picture should have; 0 any"),
    Control("zone.most", Zone, "most", "Most letters", 1, usual=(0, 300), whole=True, help="That a text should have; 0 any number"),
    Control("holds.factor", ScaleHolds, "factor", "Holds times", 0.05, "×", usual=(0.25, 4)),
)  # fmt: skip
