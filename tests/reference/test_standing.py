"""What carries each part, by solids (manifold3d): lowered by its foam it touches nothing, a little lower it does.
chances.EXAMPLES / 20: how many documents."""

import pytest
from any_bay import document
from test_fit_documents import free_space, solid

from chances import EXAMPLES
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project

DOCUMENTS = max(60, EXAMPLES // 20)


def lowered(one, mm):
    """Its box, a hair slimmer than it is: what it only brushes in passing carries nothing."""
    low, high = [at + 1e-3 for at in one.min_mm], [at - 1e-3 for at in one.max_mm]
    low[2], high[2] = one.min_mm[2] - mm, one.max_mm[2] - mm
    return solid(low, high)


def test_the_foam_under_a_part_is_as_thick_as_what_is_under_it_is_away():
    carried = on_parts = 0
    parts, on_foam = 0, []
    for seed in range(DOCUMENTS):
        said = document(seed)
        for obstacle in said["gadget"]["bay"]["obstacles"]:
            obstacle["on_lid"] = False
        for wall in said["gadget"]["bay"]["walls"]:
            wall["thinned_mm"] = 0
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits == "no":
            continue
        assert [one.part for one in answer.stands] == [one.part for one in answer.placements]
        free = free_space(said["gadget"]["bay"])
        held = {pin["part"] for pin in said["builds"][0].get("pins", [])}
        for one, stands in zip(answer.placements, answer.stands, strict=True):
            if one.face_side:
                continue  # its end is in the wall
            parts += 1
            if stands.foam_mm > 1.0 and one.part not in held:
                on_foam.append((seed, stands))
            others = free
            for other in answer.placements:
                if other is not one:
                    others -= solid(other.min_mm, other.max_mm)
            whole = lowered(one, 0).volume()
            there, lower = (
                whole - (lowered(one, stands.foam_mm + mm) ^ others).volume()
                for mm in (-6e-3 if stands.foam_mm else 0.0, 2e-2)
            )
            assert there == pytest.approx(0, abs=1e-2), (seed, stands)
            assert lower > 1e-4, (seed, stands)
            # From its top to the lid there is nothing but air, or there is something.
            lid = answer.size_mm[2]
            if lid - one.max_mm[2] > 0.02:
                low, high = [at + 1e-3 for at in one.min_mm[:2]], [at - 1e-3 for at in one.max_mm[:2]]
                column = solid((*low, one.max_mm[2] + 1e-3), (*high, lid))
                is_free = column.volume() - (column ^ others).volume() < 1e-2
                assert (stands.under_lid_mm is not None) == is_free, (seed, stands)
                assert not is_free or stands.under_lid_mm == pytest.approx(lid - one.max_mm[2], abs=6e-3)
            carried += 1
            on_parts += stands.on in [other.part for other in answer.placements]
    # What no wall and no pin holds up comes to rest: it stands on foam only where it keeps a warm face off the cell, or
    # where all that is beside it is nearer than what is worth keeping.
    assert len(on_foam) <= 1 + parts / 30, on_foam
    assert carried > 5
    assert on_parts > 0
