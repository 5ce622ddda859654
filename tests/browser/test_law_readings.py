"""What a mode draws at several volts: typed into the table, told by its law, put into the survey."""

import re
import time

from playwright.sync_api import expect

from pocketspark.instruments.supply_stand_in import SimulatedSupply, SupplyStandIn

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
    expect(table).to_contain_text("Its LEDs take 3.00 V")
    assert serious(page) == []
    table.get_by_role("button", name="Put it into the survey, as measured").click()
    expect(page.get_by_label("Forward volts of the LEDs")).to_have_value("3")
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


def test_a_supply_reads_them_and_stop_is_off(conversion, serious):
    with SupplyStandIn(SimulatedSupply(lambda volts: volts / 40)) as stand_in:
        page = conversion("Pocket anemometer", "survey")
        page.locator("details.col-span-full summary").first.click()
        page.get_by_text("Let a programmable supply read them").first.click()
        page.get_by_label("Its address").first.fill(stand_in.address)
        page.get_by_role("button", name="Start at the top").first.click()
        stop = page.get_by_role("button", name="Stop, off")
        expect(stop).to_be_visible()
        expect(page.get_by_role("status").filter(has_text=re.compile(r"\d V .*A"))).to_be_visible()
        assert stand_in.supply.on
        assert serious(page) == []
        stop.click()
        expect(page.get_by_text("The supply is off. It is a stand-in")).to_be_visible()
        assert not stand_in.supply.on


def test_a_page_that_is_closed_leaves_no_supply_on(conversion):
    with SupplyStandIn(SimulatedSupply(lambda volts: volts / 40)) as stand_in:
        page = conversion("Pocket anemometer", "survey")
        page.locator("details.col-span-full summary").first.click()
        page.get_by_text("Let a programmable supply read them").first.click()
        page.get_by_label("Its address").first.fill(stand_in.address)
        page.get_by_role("button", name="Start at the top").first.click()
        expect(page.get_by_role("status").filter(has_text="It is watched at its first volts")).to_be_visible()
        while not stand_in.supply.on:
            page.wait_for_timeout(50)
        page.close()
        until = time.monotonic() + 10
        while stand_in.supply.on and time.monotonic() < until:
            time.sleep(0.1)
        assert not stand_in.supply.on
