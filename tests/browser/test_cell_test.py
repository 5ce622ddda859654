"""One of the maker's own cells under an electronic load: begun, found again after a reload, stopped, and off."""

from playwright.sync_api import expect

from pocketspark.instruments.cell_model import SteppedCell
from pocketspark.instruments.load_stand_in import LoadStandIn, SimulatedLoad


def test_a_test_is_begun_found_again_and_stopped(open_page, serious):
    with LoadStandIn(SimulatedLoad(SteppedCell("li_4v20", 0.8, 0.1, 1.0))) as stand_in:
        page = open_page("/parts")
        page.get_by_text("Test it with an electronic load").first.click()
        page.get_by_label("Address of the load").first.fill(stand_in.address)
        page.get_by_role("button", name="Begin with a rest").first.click()
        stop = page.get_by_role("button", name="Stop, off")
        expect(stop).to_be_visible()
        expect(page.get_by_role("status").filter(has_text="it ends at")).to_be_visible()
        assert serious(page) == []
        page.reload()
        expect(stop).to_be_visible()
        stop.click()
        expect(page.get_by_text("A stand-in: nothing of it is kept.")).to_be_visible()
        expect(page.get_by_role("button", name="Keep it with this cell")).to_have_count(0)
        expect(stop).to_have_count(0)
        assert not stand_in.load.on
