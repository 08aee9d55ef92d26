"""What a fence that this job builds takes from the merchant."""

from collections import Counter

from openfurrow.core.materials.lines import Take
from openfurrow.core.quantities import spoken
from openfurrow.core.site.fencing import Fence


def fence_takes(fence: Fence | None) -> tuple[Take, ...]:
    """Posts, struts, mesh and gates; none where none is built."""
    if fence is None:
        return ()
    high = spoken(fence.height_m, "run")
    gates = Counter(fence.gates)
    return (
        Take(
            "frame",
            "fence_corner",
            f"Fence post, strutted, for {high}",
            float(fence.corner_posts),
            "count",
            "Bends, ends, either side of each gate.",
        ),
        Take(
            "frame",
            "fence_post",
            f"Fence post, for {high}",
            float(fence.line_posts),
            "count",
            "Between the strutted ones.",
        ),
        Take("frame", "fence_strut", "Fence strut", float(fence.struts), "count", "At strutted posts."),
        Take(
            "frame",
            "fence_mesh",
            f"Fence mesh, {high} high",
            fence.mesh_m,
            "run",
            "Along the ground, less the gates.",
            "cut",
        ),
        *(
            Take(
                "frame",
                "fence_gate",
                f"Gate, {spoken(wide, 'run')} wide, {high} high",
                float(count),
                "count",
                "With hinges and a lock.",
            )
            for wide, count in sorted(gates.items())
        ),
    )
