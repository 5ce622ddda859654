"""Random documents over the whole format: the fit's answer against a mixed-integer program that reads the document by
itself (bay_by_document.py), and every placement against exact boxes. POCKETSPARK_EXAMPLES / 20: how many documents."""

import os

import pytest
from any_bay import document
from bay_by_document import clearance_of
from manifold3d import Manifold

from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.models import Project

DOCUMENTS = max(60, int(os.environ.get("POCKETSPARK_EXAMPLES", "600")) // 20)
BLOCKS = 12
# Of near-best placements one with shorter wires is taken: it has this much less at most.
NEAR_MM = 0.0501


@pytest.mark.parametrize("block", range(BLOCKS))
def test_same_answer_and_the_same_clearance(block):
    same = {"yes": 0, "no": 0}
    for seed in range(block, DOCUMENTS, BLOCKS):
        said = document(seed)
        answer, wanted = fit_of(Project.model_validate(said)), clearance_of(said)
        if answer is None:  # everything stays outside
            assert wanted is None or not said["builds"][0]["cell"], seed
            continue
        assert answer.fits == ("no" if wanted is None else "yes"), (seed, answer.doubts)
        assert answer.proven, seed
        same[answer.fits] += 1
        if wanted is not None:
            assert answer.clearance_mm == pytest.approx(wanted, abs=NEAR_MM), seed
    assert min(same.values()) > 0


def solid(low, high):
    return Manifold.cube([b - a for a, b in zip(low, high, strict=True)]).translate(list(low))


def free_space(bay):
    """The rooms less what stands in them, by a solid kernel (manifold3d), from the bay's lowest corner."""
    corner = [min(room["at_mm"][axis] for room in bay["rooms"]) for axis in range(3)]
    top = max(room["at_mm"][2] + room["size_mm"][2] for room in bay["rooms"])
    free = Manifold()
    for room in bay["rooms"]:
        low = [at - start for at, start in zip(room["at_mm"], corner, strict=True)]
        high = [at + size for at, size in zip(low, room["size_mm"], strict=True)]
        if room["at_mm"][2] + room["size_mm"][2] > top - 1e-6:
            high[2] += bay.get("lid_raised_mm", 0)
        free += solid(low, high)
    for obstacle in bay["obstacles"]:
        if obstacle["state"] != "removed":
            low = [at - start for at, start in zip(obstacle["at_mm"], corner, strict=True)]
            free -= solid(low, [at + size for at, size in zip(low, obstacle["size_mm"], strict=True)])
    return free


def test_no_part_is_in_a_wall_or_in_another():
    checked = 0
    for seed in range(2000, 2000 + DOCUMENTS):
        said = document(seed)
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits != "yes":
            continue
        free = free_space(said["gadget"]["bay"])
        for one in answer.placements:
            part = solid(one.min_mm, one.max_mm)
            assert (part - free).volume() == pytest.approx(0, abs=1e-2), (seed, one.part)
            free -= part
            checked += 1
    assert checked > DOCUMENTS / 2


def applied(said, remedy):
    return Project.model_validate(said).apply(remedy.edits)


def test_every_remedy_that_can_be_applied_lets_it_in():
    """Applied through its own edits and asked again: a yes, confirmed, and by the independent program too."""
    tried, failed = 0, []
    for seed in range(4000, 4000 + DOCUMENTS):
        said = document(seed)
        project = Project.model_validate(said)
        answer = fit_of(project)
        if answer is None or answer.fits != "no":
            continue
        for remedy in remedies_for(project):
            if not remedy.edits:
                continue
            mended = applied(said, remedy)
            after = fit_of(mended)
            tried += 1
            wanted = clearance_of(mended.model_dump(mode="json"))
            if after is not None and (after.fits != "yes" or wanted is None):
                failed.append((seed, remedy.says, after.fits, after.clearance_mm, wanted))
    print(f"{tried} remedies applied, {len(failed)} that do not let it in")
    assert not failed
    assert tried > DOCUMENTS / 10
