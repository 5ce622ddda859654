"""What a mode draws at several volts: typed into the table, told by its law, put into the survey."""

from playwright.sync_api import expect

# 10 mA more for every 0.2 V from 3.0 V on: LEDs of 3.0 V behind 20 ohm.
READ = [("3.2", "10"), ("3.6", "30"), ("4.0", "50"), ("4.5", "75")]


def test_readings_become_a_law_and_the_law_the_survey(conversion, serious):
    page = conversion("Pocket anemometer", "survey")
    page.locator("details.col-span-full summary").first.click()
    table = page.get_by_role("region", name="at several volts").first
    expect(table).to_contain_text("Read it next at about")
    for number, (volts, milliamps) in enumerate(READ):
        table.get_by_role("button", name="+ reading").click()
        field = table.get_by_label("Volts read").nth(number)
        expect(field).to_be_focused()
        field.fill(volts)
        page.keyboard.press("Tab")
        table.get_by_label("Current read").nth(number).fill(milliamps)
        page.keyboard.press("Tab")
    expect(table).to_contain_text("It draws like LEDs and their resistor.")
    expect(table).to_contain_text("Its LEDs take 3.01 V")
    assert serious(page) == []
    table.get_by_role("button", name="Put it into the survey, as measured").click()
    expect(page.get_by_label("Forward volts of the LEDs")).to_have_value("3.01")
    page.reload()
    page.locator("details.col-span-full summary").first.click()
    expect(page.get_by_label("Volts read")).to_have_count(len(READ))


def test_a_reading_is_removed_and_holds_at_390(conversion):
    page = conversion("Pocket anemometer", "survey", width=390, height=844, dark=True)
    page.locator("details.col-span-full summary").first.click()
    page.get_by_role("button", name="+ reading").first.click()
    expect(page.get_by_label("Volts read")).to_have_count(1)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_role("button", name="Remove reading 1").click()
    expect(page.get_by_label("Volts read")).to_have_count(0)
