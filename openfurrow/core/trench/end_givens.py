"""What is told of a run's ends: what it comes up through, and how far it goes on in the building."""

from typing import Literal

from openfurrow.core.givens import given
from openfurrow.core.quantities import INCH_M

ComesUp = Literal["along a post", "through a pier that is poured", "through a box that is filled"]
BeforePour = Literal["nobody has said", "set and braced before"]
ALONG: ComesUp = "along a post"
Data = Literal["none", "in a pipe of its own"]
OF_POURED = frozenset({"before_pour"})

BOX_UP: float = given(
    1.2,
    "Box at the array, over ground",
    "tape",
    "How high the wires come up to it: its openings, which look down.",
    "Hand height, and above the deepest snow.",
    low=0.1,
    high=3,
    usual=(0.6, 1.8),
    group="Ends",
    us=48 * INCH_M,
)
RISE_UP: float = given(
    1.2,
    "Up the wall",
    "tape",
    "From the ground to where the wires leave the conduit at the building.",
    "The inverter or the switch, and above the deepest snow.",
    low=0.1,
    high=6,
    usual=(0.6, 2.4),
    group="Ends",
    us=48 * INCH_M,
)
COMES_UP: ComesUp = given(
    "along a post",
    "Comes up at the array",
    "choice",
    "Along a post, or through concrete or ballast that is there before the wires are.",
    "The drawing of the footings, and where the trench meets them.",
    group="Ends",
)
BEFORE_POUR: BeforePour = given(
    "nobody has said",
    "Its sleeve is",
    "choice",
    "Pipe through concrete or ballast stands there, plugged and braced, before it is poured.",
    "Whoever pours: nobody drills it in afterwards.",
    group="Ends",
)
INSIDE: float = given(
    0.0,
    "On in the building",
    "run",
    "From where the rise ends to the inverter, up and down counted; nought where it hangs there. Wires "
    "of strings run that far in metal tubing, and in a flexible piece at the last.",
    "A tape along the way they will take.",
    low=0,
    high=100,
    usual=(0, 30),
    group="Ends",
)
DATA: Data = given(
    "none",
    "Data in the trench",
    "choice",
    "A cable that reads the inverters or the weather out there, in a pipe of its own, off the power.",
    "Whoever wants to see the array from the house.",
    group="Ends",
)
