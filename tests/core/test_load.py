"""A meter's year of use: what is read, what is refused, and what the energy makes of it."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from openfurrow.core.edits import DesignError, apply
from openfurrow.core.energy.use import in_steps
from openfurrow.core.plan import plan
from openfurrow.core.sun.load import LoadGivens, packed
from openfurrow.exchange.load_in import read_load, with_load
from tests.designs import changed, plain_larkspur

HOURS = 8760


def file_of(
    values: np.ndarray, title: str = "time;kWh", between: str = ";", comma: bool = True
) -> bytes:
    """A line a step, with a column of times before."""
    said = (f"{value:.4f}" for value in values.tolist())
    told = (one.replace(".", ",") if comma else one for one in said)
    lines = (f"{number:05d}{between}{one}" for number, one in enumerate(told))
    return "\n".join([title, *lines]).encode()


@settings(max_examples=12, deadline=None)
@given(
    st.sampled_from(
        [("kWh", 1000.0, True), ("Wh", 1.0, True), ("kW", 1000.0, False), ("W", 1.0, False)]
    ),
    st.sampled_from([1, 2, 4]),
    st.sampled_from([(";", True), (";", False), ("\t", True), (",", False)]),
    st.integers(0, 10_000),
    st.booleans(),
)
def test_every_step_is_read_in_its_unit(
    unit: tuple[str, float, bool], per_hour: int, marks: tuple[str, bool], seed: int, leap: bool
) -> None:
    """Energies are of a step, powers hold through it; the leap day is left out."""
    name, size, energy = unit
    between, comma = marks
    values = np.random.default_rng(seed).integers(0, 9000, (366 if leap else 365) * 24 * per_hour) / 100
    found = read_load(
        file_of(values, f"at{between}used, {name}" if between != "," else f"at,{name}", between, comma),
        "m.csv",
    )
    year = values.reshape(-1, 24 * per_hour)
    kept = np.delete(year, 59, axis=0).ravel() if leap else year.ravel()
    wanted = kept * size * (per_hour if energy else 1)
    assert found.steps == HOURS * per_hour
    assert found.watts == pytest.approx(wanted, abs=0.51)


FLAT = np.ones(HOURS)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"time;used\n1;2", "names no unit"),
        (b"kWh;kW\n1;2", "several columns"),
        (file_of(FLAT[:-1]), "8,759 steps"),
        (file_of(np.ones(8761)), "8,761 steps"),
        (file_of(-FLAT), "says -1 kwh in step 1"),
        (file_of(FLAT * 1e7), "over 1,000 MW"),
        (file_of(FLAT * 0), "uses nothing"),
        (file_of(FLAT).replace(b"00100;1,0000", b"00100;"), "says nothing in line 102"),
        (file_of(FLAT).replace(b"00100;1,0000", b"00100;n/a"), "'n/a' in line 102"),
        (file_of(FLAT).replace(b"00100;1,0000", b"00100;1.000"), "points and commas"),
        (file_of(FLAT, "time,kWh", ",", comma=True), "3 columns in line 2"),
        (b"kWh\n" + b"9" * 500, "letters"),
        (b"kWh\n" + b"1\n" * 50_000, "lines"),
    ],
)
def test_what_is_no_year_of_use_is_refused_by_name(data: bytes, words: str) -> None:
    with pytest.raises(DesignError) as refused:
        read_load(data, "m.csv")
    (problem,) = refused.value.problems
    told = f"{problem.message} {problem.allowed}"
    assert words in told
    assert problem.remedy


@settings(max_examples=20)
@given(st.integers(0, 99), st.sampled_from([1, 2, 4]), st.sampled_from([1, 2, 4]))
def test_energy_stays_in_other_steps(seed: int, given_steps: int, asked: int) -> None:
    """Of every hour the same, whatever the steps are."""
    watts = np.random.default_rng(seed).uniform(0, 5000, 24 * given_steps)
    found = in_steps(watts, 24 * asked)
    assert len(found) == 24 * asked
    assert found.reshape(24, -1).mean(axis=1) == pytest.approx(watts.reshape(24, -1).mean(axis=1))
    if given_steps >= asked:
        assert found == pytest.approx(watts.reshape(24 * asked, -1).mean(axis=1))


def test_use_is_followed_step_by_step() -> None:
    """What a meter wrote is used as it comes, hour by hour, by plain sums; the figure is not asked."""
    rng = np.random.default_rng(4)
    watts = rng.integers(0, 6000, HOURS).astype(float)
    design = changed(plain_larkspur(), "sun", load_wh=5e6, battery_wh=0.0)
    design, words = with_load(design, file_of(watts, "time;W", ";", comma=False), "barn.csv")
    assert words == "what is used, by barn.csv"
    assert not {"load_wh", "load_shape"} & design.sun.shown()
    found = plan(design).energy
    assert found.use is not None
    (one,) = found.arrays
    assert found.use.wanted_wh == pytest.approx(watts.sum())
    use = found.use
    brought = use.straight_wh + use.over_wh
    assert brought == pytest.approx(found.year_wh)
    # With nothing stored what is used straight is the lesser of the two in every hour.
    power = np.zeros(HOURS)
    power[found.sky.at] = one.light.power
    scale = found.year_wh / power.sum()
    assert use.straight_wh == pytest.approx(np.minimum(power * scale, watts).sum(), rel=0.02)
    assert use.bought_wh == pytest.approx(watts.sum() - use.straight_wh)
    share = next(a for a in plan(design).answers if a.key == "own_share")
    assert "barn.csv" in " ".join(i.meaning for i in share.working.inputs)
    (load,) = design.sun.loads
    bare = apply(design, [(f"sun.loads.{load.id}", "")], "us")
    assert plan(bare).energy.use == plan(changed(design, "sun", loads=())).energy.use


@pytest.mark.parametrize("wrong", ["no text", packed(FLAT)[:-8], packed(-FLAT), packed(FLAT * 2e9)])
def test_what_was_not_packed_here_is_refused(wrong: str) -> None:
    with pytest.raises(ValueError, match="bring the file again"):
        LoadGivens(id="l", packed=wrong)
