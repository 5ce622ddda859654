"""What makes room and costs nothing is offered before anything is cut: each remedy is done, and then it fits."""

import pytest

from builders import board, plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for

SMALL = board() | {"name": "board"}


def bay(*size_mm, **more):
    return {"bay": {"rooms": [{"size_mm": list(size_mm)}], "walls": [], "wall_mm": 2, "tolerance_mm": 0.1} | more}


@pytest.mark.parametrize(
    ("what", "build"),
    [
        # A pouch of 34 mm kept flat in a slot of 30 mm; on its edge, 5 mm thick, it goes in.
        ("edge", {"gadget": bay(62, 30, 38), "boards": []}),
        # Held in the middle of a room that has place for both only where it is not.
        (
            "pin",
            {"gadget": bay(60, 62, 8), "boards": [SMALL], "pins": [{"part": "Pouch 503450", "at_mm": [4, 14, 1]}]},
        ),
        # 17 mm of board and a wall of 2 mm on either side of it.
        ("cradle", {"gadget": bay(55, 53.5, 7.5), "boards": [SMALL], "cradle_mm": 2.0}),
    ],
)
def test_an_own_choice_the_other_way_lets_it_in(what, build):
    project = plan(**build)
    assert fit_of(project).fits == "no"
    remedies = remedies_for(project)
    found = next(remedy for remedy in remedies if remedy.what == what)
    assert fit_of(project.apply(found.edits)).fits in ("yes", "too_close")
    # nothing that is cut, bought or left out is told before it
    assert [remedy.what for remedy in remedies].index(what) == 0


def test_a_stop_behind_a_socket_of_its_own_is_one_too():
    socket = {"input": {"kind": "wired_socket"}, "socket_stop_mm": 6.0, "boards": [board(socket=None)]}
    size = next(
        length
        for length in range(50, 120)
        if fit_of(plan(gadget=bay(length, 36, 12, walls=[{"side": "left"}]), **socket | {"socket_stop_mm": 0.0})).fits
        == "yes"
    )
    project = plan(gadget=bay(size, 36, 12, walls=[{"side": "left"}]), **socket)
    whats = [remedy.what for remedy in remedies_for(project)]
    assert fit_of(project).fits == "yes" or "stop" in whats


def with_a_rib(**shell):
    rib = {"name": "rib", "at_mm": [0, 0, 0], "size_mm": [54, 40, 2.5], "state": "trim"}
    gadget = bay(54, 40, 7.2, obstacles=[rib]) | {"shell": shell}
    return remedies_for(plan(gadget=gadget, boards=[]))


def test_ribs_are_trimmed_before_the_lid_is_raised_and_a_metal_lid_is_not():
    whats = [remedy.what for remedy in with_a_rib()]
    assert {"trim", "lid"} <= set(whats)
    assert whats.index("trim") < whats.index("lid")
    assert "lid" not in [remedy.what for remedy in with_a_rib(metal=True)]
