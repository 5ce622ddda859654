"""Who gets which cell: from the maker's parts to a line that is put into its conversion."""

from playwright.sync_api import expect

from headless import context_of, running_app


def test_a_line_is_pinned_ruled_out_and_put_in(chrome, serious, tmp_path):
    """A server of its own: what is put in changes a conversion of the demo."""
    with running_app(tmp_path, demo=True) as address:
        context = context_of(chrome)
        page = context.new_page()
        page.goto(f"{address}/parts")
        _put_in(page, serious)
        context.close()


def _put_in(page, serious):
    page.get_by_role("link", name="Who gets which cell?").click()
    heading = page.get_by_role("heading", level=2)
    expect(heading).to_contain_text("gadgets get a cell")
    gadgets = page.get_by_role("list", name="Gadgets")
    expect(gadgets.get_by_role("button", name="Put it in").first).to_be_visible()
    assert serious(page) == []
    before = heading.inner_text()
    gadgets.get_by_role("button", name="Pin", exact=True).first.click()
    expect(gadgets.get_by_role("button", name="Pinned")).to_have_count(1)
    page.get_by_role("button", name="Let go of 1 pinned").click()
    expect(gadgets.get_by_role("button", name="Pinned")).to_have_count(0)
    expect(heading).to_have_text(before)
    line = gadgets.get_by_role("listitem").filter(has=page.get_by_role("button", name="Put it in")).first
    name = line.get_by_role("link").inner_text()
    cell = line.locator(".small").inner_text().split(":")[0]
    line.get_by_role("button", name="Put it in").click()
    expect(page.get_by_text("Working it out")).to_have_count(0)
    page.get_by_role("link", name=name).click()
    expect(page.get_by_role("main")).to_contain_text(cell)


def test_on_a_phone_it_is_a_list(open_page):
    page = open_page("/drawer", width=390, height=844, dark=True)
    expect(page.get_by_role("list", name="Gadgets").get_by_role("listitem").first).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
