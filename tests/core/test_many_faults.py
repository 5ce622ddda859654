"""Many half-typed rows are read in one pass: what is sound stays, in its order, and each fault is named."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from builders import plan
from pocketspark.core.models.lenient import MOST_FAULTS, read_leniently

SOUND = {"at": "2026-11-30T08:00:00Z", "kind": "note", "station": "build", "text": "sound"}


@given(st.lists(st.booleans(), max_size=120), st.integers(0, 5))
def test_every_sound_row_stays_and_every_other_is_named(sound, more):
    document = plan().model_dump(mode="json")
    document["logbook"] = [SOUND | {"text": f"row {n}"} if good else {} for n, good in enumerate(sound)]
    document["gadget"]["modes"] += [{"id": f"m{n}", "current_a": "lots"} for n in range(more)]
    read = read_leniently(document)
    assert [entry.text for entry in read.project.logbook] == [f"row {n}" for n, good in enumerate(sound) if good]
    named = {one.field.split(".")[1] for one in read.refused if one.field.startswith("logbook.")}
    assert named == {str(n) for n, good in enumerate(sound) if not good}
    assert {f"gadget.modes.m{n}.current_a" for n in range(more)} <= {one.field for one in read.refused}


def test_what_is_full_of_faults_is_refused_at_once():
    document = plan().model_dump(mode="json") | {"logbook": [{}] * 20_000}
    rounds = []
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("pocketspark.core.models.lenient._Draft.leave_out", lambda *_: rounds.append(1))
        with pytest.raises(ValidationError):
            read_leniently(document)
    assert rounds == []
    assert MOST_FAULTS < 20_000
