"""A rule that breaks off is one finding, at its own station, and leaves the others as they are."""

import logging
from dataclasses import replace

import pytest

from builders import judged
from pocketspark.core.rules import RULES
from pocketspark.core.views import view_wanted


@pytest.fixture
def rules_may_fail():
    logger = logging.getLogger("pocketspark.rules")
    handlers, logger.handlers = logger.handlers, []
    yield
    logger.handlers = handlers


@pytest.mark.usefixtures("rules_may_fail")
@pytest.mark.parametrize("code", ["power.over_window", "charge.over_cell", "charge.never_ends", "fit.does_not_fit"])
def test_a_rule_that_breaks_off_is_one_finding(monkeypatch, caplog, code):
    rule = RULES[code]

    def breaks(view):
        assert view is not None
        raise IndexError("of no use to a maker")

    breaks.__annotations__ = {"view": view_wanted(rule.judge)}
    whole = judged().findings
    monkeypatch.setitem(RULES, code, replace(rule, judge=breaks))
    seen = judged(r_tolerance=0.010001).findings
    [told] = [finding for finding in seen if finding.code == code]
    assert (told.level, told.station) == ("caution", rule.station)
    assert "could not be checked" in str(told.headline)
    assert {finding.code for finding in seen if finding.code != code} == {f.code for f in whole if f.code != code}
    assert "IndexError" in caplog.text
    assert '"gadget"' in caplog.text
